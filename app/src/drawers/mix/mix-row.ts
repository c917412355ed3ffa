import { ChangeDetectionStrategy, Component, computed, inject, input, model } from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatTooltip } from '@angular/material/tooltip';
import { Store } from '@ngrx/store';
import { instrumentOf } from '@fendro/core/sounding/instruments';
import type { Part } from '@fendro/core/song/schema';
import { BandDesk } from '../../desks/band-desk';
import { MixDesk } from '../../desks/mix-desk';
import { MovesDesk } from '../../desks/moves-desk';
import { ScoreActions } from '../../store/song.actions';
import { SlideField } from '../../ui/fields/slide-field';
import { TextField } from '../../ui/fields/text-field';

/** “L 40”, “mid”. */
const panText = (pan: number): string => (pan === 0 ? 'mid' : pan < 0 ? `L ${-pan}` : `R ${pan}`);

/** How one part stands in the mix. */
@Component({
  selector: '[fdMixRow]',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatIcon, MatIconButton, MatTooltip, SlideField, TextField],
  template: `
    <th scope="row">
      <div class="name">
        <button
          matIconButton
          class="small"
          [attr.aria-expanded]="open()"
          [attr.aria-label]="'Tone and instruments of ' + part().name"
          matTooltip="Tone and instruments"
          (click)="open.set(!open())"
        >
          <mat-icon svgIcon="tune" />
        </button>
        <fd-text-field
          class="plain part"
          [label]="'Name of ' + part().name"
          [value]="part().name"
          (changed)="rename($event)"
        /><span class="quiet sounds">{{ sounds() }}</span>
      </div>
    </th>
    <td>
      <fd-slide-field
        shown="Level"
        [label]="'Level of ' + part().name"
        [value]="moves.live(part(), 'level')"
        (moved)="mix.set(part(), 'level', $event)"
      />
    </td>
    <td>
      <fd-slide-field
        shown="Pan"
        [label]="'Pan of ' + part().name"
        [least]="-100"
        [usual]="0"
        [inWords]="panText"
        [value]="moves.live(part(), 'pan')"
        (moved)="mix.set(part(), 'pan', $event)"
      />
    </td>
    <td>
      <button
        matButton="outlined"
        class="small"
        [attr.aria-pressed]="part().muted"
        (click)="band.toggleQuiet(part())"
        [attr.aria-label]="'Quiet: ' + part().name"
      >
        <mat-icon [svgIcon]="part().muted ? 'volume_off' : 'volume_up'" />Quiet
      </button>
    </td>
    <td>
      <button
        matButton="outlined"
        class="small"
        [attr.aria-pressed]="band.isAlone(part().id)"
        (click)="band.toggleAlone(part().id)"
        [attr.aria-label]="'Hear alone: ' + part().name"
      >
        <mat-icon svgIcon="headphones" />Alone
      </button>
    </td>
    <td>
      <span
        class="meter"
        role="meter"
        [attr.aria-label]="'Sounding level of ' + part().name"
        aria-valuemin="0"
        aria-valuemax="100"
        aria-valuenow="0"
        [attr.data-meter]="part().id"
        ><span class="fill" [style.background]="'var(--part-' + part().colour + ')'"></span
      ></span>
    </td>
    <td>
      <button
        matIconButton
        class="small"
        (click)="band.remove(part().id)"
        [attr.aria-label]="'Remove ' + part().name"
        matTooltip="Remove this part"
      >
        <mat-icon svgIcon="delete" />
      </button>
    </td>
  `,
  styleUrl: './mix-row.scss',
})
export class MixRow {
  private readonly store = inject(Store);
  readonly part = input.required<Part>({ alias: 'fdMixRow' });
  /** True where its tone and instruments are shown below. */
  readonly open = model(false);
  protected readonly mix = inject(MixDesk);
  protected readonly band = inject(BandDesk);
  protected readonly moves = inject(MovesDesk);
  protected readonly panText = panText;
  protected readonly sounds = computed(() => {
    const { instrument, layers = [] } = this.part();
    const { name } = instrumentOf(instrument);
    return layers.length === 0 ? name : `${name} + ${layers.length}`;
  });

  protected rename(name: string): void {
    this.store.dispatch(ScoreActions.partChanged({ part: this.part().id, change: { name } }));
  }
}
