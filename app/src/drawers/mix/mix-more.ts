import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatTooltip } from '@angular/material/tooltip';
import { canLayer } from '@fendro/core/song/layers';
import { MOVES, TONE_KINDS } from '@fendro/core/song/moves';
import type { Part, ToneKind } from '@fendro/core/song/schema';
import { instrumentsFor } from '@fendro/core/sounding/instruments';
import { BandDesk } from '../../desks/band-desk';
import { MixDesk } from '../../desks/mix-desk';
import { MovesDesk, nameOfLine } from '../../desks/moves-desk';
import { FindField } from '../../ui/fields/find-field';
import { SlideField } from '../../ui/fields/slide-field';
import { instrumentChoices } from '../../ui/instrument-choices';
import { MixSound } from './mix-sound';

/** What the two ends of a side of tone are called. */
const ENDS: Readonly<Record<ToneKind, readonly [low: string, high: string]>> = {
  brightness: ['darker', 'brighter'],
  attack: ['quicker', 'slower'],
  release: ['shorter', 'longer'],
  room: ['', ''],
  chorus: ['', ''],
};

/** A part's tone, and the instruments that it sounds on. */
@Component({
  selector: 'fd-mix-more',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FindField, MatIcon, MatIconButton, MatTooltip, MixSound, SlideField],
  template: `
    <div class="line" role="group" [attr.aria-label]="'Tone of ' + part().name">
      @for (side of tone; track side.kind) {
        <fd-slide-field
          [shown]="side.name"
          [label]="side.name + ' of ' + part().name"
          [least]="side.low"
          [most]="side.high"
          [usual]="0"
          [inWords]="side.words"
          [value]="moves.live(part(), side.kind)"
          (moved)="mix.set(part(), side.kind, $event)"
        />
      }
    </div>
    <div class="line" role="group" [attr.aria-label]="'Instruments of ' + part().name">
      <span class="quiet">Sounds on</span>
      <fd-mix-sound [part]="part()" />
      @for (layer of part().layers ?? []; track $index) {
        <span class="layer" role="group" [attr.aria-label]="'With it ' + ($index + 1)">
          <span class="quiet">with</span>
          <fd-mix-sound [part]="part()" [layer]="$index" />
          <fd-slide-field
            shown="at"
            unit="%"
            [label]="'Level of instrument ' + ($index + 2) + ' of ' + part().name"
            [value]="layer.level"
            (moved)="mix.changeLayer(part(), $index, { level: $event }, 'layer level')"
          />
          <button
            matIconButton
            class="small"
            [attr.aria-label]="'Take instrument ' + ($index + 2) + ' off ' + part().name"
            matTooltip="Take it off"
            (click)="mix.removeLayer(part(), $index)"
          >
            <mat-icon svgIcon="close" />
          </button>
        </span>
      }
      @if (more()) {
        <fd-find-field
          class="plain adds"
          [label]="'A further instrument for ' + part().name"
          placeholder="with another instrument"
          [choices]="instruments()"
          value=""
          (tried)="band.tryInstrument({ part: part().id, instrument: $event, layer: (part().layers ?? []).length })"
          (left)="band.letInstrumentGo()"
          (chosen)="mix.addLayer(part(), $event)"
        />
      }
    </div>
  `,
  styles: `
    :host {
      display: block;
      padding: 2px 0 8px 36px;
    }
    fd-slide-field {
      --slide-figure: 5rem;
    }
    .line,
    .layer {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 2px 14px;
    }
    .layer {
      gap: 6px;
      padding-inline-start: 10px;
      border-inline-start: 1px solid var(--line);
    }
    .adds {
      width: 13rem;
    }
  `,
})
export class MixMore {
  readonly part = input.required<Part>();
  protected readonly mix = inject(MixDesk);
  protected readonly band = inject(BandDesk);
  protected readonly moves = inject(MovesDesk);
  protected readonly more = computed(() => canLayer(this.part()));
  protected readonly instruments = computed(() => instrumentChoices(instrumentsFor(this.part().role)));
  protected readonly tone = TONE_KINDS.map((kind) => ({
    kind: kind,
    name: nameOfLine(kind),
    ...MOVES[kind],
    words: (value: number): string => {
      const [low, high] = ENDS[kind];
      if (high === '') return value === 0 ? 'none' : `${value} %`;
      return value === 0 ? 'as it is' : `${Math.abs(value)} % ${value < 0 ? low : high}`;
    },
  }));
}
