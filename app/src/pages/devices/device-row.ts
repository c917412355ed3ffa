import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatCheckbox } from '@angular/material/checkbox';
import { sayPitch } from '@fendro/core/live/device-control';
import { DeviceDesk } from '../../desks/devices/device-desk';
import { DeviceUses } from '../../desks/devices/device-uses';
import { PlayDesk } from '../../desks/playing/play-desk';
import { ChoiceField, type Choice } from '../../ui/fields/choice-field';

/** Where keys may begin to choose chords; 0 stands for nowhere. */
const SPLITS: readonly Choice<number>[] = [
  { value: 0, text: 'no key chooses chords' },
  ...[48, 54, 60, 66].map((pitch) => ({ value: pitch, text: `keys below ${sayPitch(pitch)} choose chords` })),
];

/** A device that is connected, and what it does here. */
@Component({
  selector: 'fd-device-row',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, MatCheckbox],
  template: `
    <h3>
      {{ name() }}
      @if (speaking()) {
        <span class="quiet">spoke last</span>
      }
      <ng-content />
    </h3>
    <div class="uses" role="group" [attr.aria-label]="name()">
      @if (there() && says()) {
        <mat-checkbox [checked]="use().plays" (change)="uses.change(name(), { plays: $event.checked })">
          Plays {{ line() }}
        </mat-checkbox>
        @if (use().plays) {
          <fd-choice-field
            class="small"
            [label]="'How keys of ' + name() + ' sound'"
            [choices]="ways"
            [value]="use().keys"
            (chosen)="uses.change(name(), { keys: $event })"
          />
          <fd-choice-field
            class="small"
            [label]="'Keys of ' + name() + ' that choose chords'"
            [choices]="splits"
            [value]="use().split ?? 0"
            (chosen)="uses.change(name(), { split: $event === 0 ? null : $event })"
          />
        }
        <mat-checkbox [checked]="use().leads" (change)="uses.change(name(), { leads: $event.checked })">
          Its clock leads the music
        </mat-checkbox>
      }
      @if (there() && listens()) {
        <mat-checkbox [checked]="use().clocked" (change)="uses.change(name(), { clocked: $event.checked })">
          Gets the clock of the music
        </mat-checkbox>
      }
    </div>
  `,
  styles: `
    :host {
      display: block;
      padding: 8px 0;
      border-top: 1px solid var(--line);
    }
    h3 {
      display: flex;
      align-items: center;
      gap: 12px;
      margin: 0 0 4px;
      font-size: 0.9375rem;
    }
    h3 .quiet {
      font-weight: 400;
      font-size: 0.8125rem;
    }
    .uses {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 4px 16px;
    }
  `,
})
export class DeviceRow {
  readonly name = input.required<string>();
  /** False for a simulated one that is not plugged in. */
  readonly there = input(true);
  protected readonly uses = inject(DeviceUses);
  private readonly desk = inject(DeviceDesk);
  private readonly play = inject(PlayDesk);
  protected readonly use = computed(() => this.uses.of(this.name()));
  protected readonly says = computed(() => this.desk.inputs().some(({ name }) => name === this.name()));
  protected readonly listens = computed(() => this.desk.outputs().some(({ name }) => name === this.name()));
  protected readonly speaking = computed(() => this.desk.speaking() === this.name());
  protected readonly line = computed(() => this.play.part()?.name ?? 'the chords');
  protected readonly splits = SPLITS;
  protected readonly ways: readonly Choice<'as they are' | 'fitted'>[] = [
    { value: 'as they are', text: 'keys sound as they are' },
    { value: 'fitted', text: 'keys give way to the chord' },
  ];
}
