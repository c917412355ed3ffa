import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { Store } from '@ngrx/store';
import { addressesOf } from '@fendro/core/files/midi/midi-channels';
import { HARMONY, type LineId } from '@fendro/core/song/schema';
import { voicesOf } from '@fendro/core/sounding/setup';
import { range } from '@fendro/core/theory/units';
import { DeviceDesk } from '../../desks/devices/device-desk';
import { Routes } from '../../desks/devices/routes';
import { selectOwnScore } from '../../store/selectors';
import { ChoiceField, type Choice } from '../../ui/fields/choice-field';

/** Stands for no port. */
const NOWHERE = '';

/** Where each part of the song goes out, on which channel, and whether it sounds here as well. */
@Component({
  selector: 'fd-part-routes',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, MatButton, MatCheckbox],
  template: `
    @if (ports().length > 1) {
      <p>
        @for (port of ports().slice(1); track port.value) {
          <button matButton="outlined" class="small" (click)="sendAll(port.value)">All to {{ port.text }}</button>
        }
        <button matButton class="small" [disabled]="routes.all().length === 0" (click)="sendNone()">None</button>
      </p>
      <table>
        <thead>
          <tr>
            <th scope="col">Part</th>
            <th scope="col">Goes to</th>
            <th scope="col">Channel</th>
            <th scope="col">Here</th>
          </tr>
        </thead>
        <tbody>
          @for (row of rows(); track row.line) {
            <tr>
              <th scope="row">{{ row.name }}</th>
              <td>
                <fd-choice-field
                  class="small"
                  [label]="'Where ' + row.name + ' goes'"
                  [choices]="ports()"
                  [value]="row.port"
                  (chosen)="setPort(row.line, $event)"
                />
              </td>
              <td>
                @if (row.route; as route) {
                  <fd-choice-field
                    class="small"
                    [label]="'Channel of ' + row.name"
                    [choices]="channels"
                    [value]="route.channel"
                    (chosen)="routes.set({ line: row.line, port: route.port, here: route.here, channel: $event })"
                  />
                }
              </td>
              <td>
                @if (row.route; as route) {
                  <mat-checkbox
                    [aria-label]="row.name + ' sounds here as well'"
                    [checked]="route.here"
                    (change)="
                      routes.set({ line: row.line, port: route.port, channel: route.channel, here: $event.checked })
                    "
                  />
                }
              </td>
            </tr>
          }
        </tbody>
      </table>
    } @else {
      <p class="quiet">Nothing is connected that parts could go to.</p>
    }
  `,
  styleUrl: '../pages.scss',
})
export class PartRoutes {
  protected readonly routes = inject(Routes);
  private readonly desk = inject(DeviceDesk);
  private readonly score = inject(Store).selectSignal(selectOwnScore);
  protected readonly channels: readonly Choice<number>[] = range(16).map((value) => ({
    value,
    text: String(value + 1),
  }));
  /** The ports that are there, and those that were chosen and are not there now. */
  protected readonly ports = computed((): readonly Choice<string>[] => {
    const there = this.desk.outputs().map(({ name }) => name);
    const gone = [...new Set(this.routes.all().map(({ port }) => port))].filter((port) => !there.includes(port));
    return [
      { value: NOWHERE, text: 'sounds here' },
      ...there.map((name) => ({ value: name, text: name })),
      ...gone.map((name) => ({ value: name, text: `${name} (not connected)` })),
    ];
  });
  private readonly lines = computed((): readonly { readonly line: LineId; readonly name: string }[] => [
    ...(this.score()?.parts ?? []).map(({ id, name }) => ({ line: id, name })),
    { line: HARMONY, name: 'Chords' },
  ]);
  protected readonly rows = computed(() =>
    this.lines().map(({ line, name }) => {
      const route = this.routes.of(line);
      return { line, name, route, port: route?.port ?? NOWHERE };
    }),
  );

  protected setPort(line: LineId, port: string): void {
    if (port === NOWHERE) this.routes.take(line);
    else this.routes.set({ line, port, channel: this.routes.of(line)?.channel ?? this.usual(line), here: false });
  }

  protected sendAll(port: string): void {
    for (const { line } of this.lines()) this.setPort(line, port);
  }

  protected sendNone(): void {
    for (const { line } of this.lines()) this.routes.take(line);
  }

  /** The channel that the line has in files, too. */
  private usual(line: LineId): number {
    const score = this.score();
    const voices = score ? voicesOf(score) : [];
    const voice = voices.find((each) => each.line === line);
    return (voice && addressesOf(voices).get(voice.id)?.channel) ?? LAST_CHANNEL;
  }
}

/** The chord line's, which files have no channel for. */
const LAST_CHANNEL = 15;
