import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatTooltip } from '@angular/material/tooltip';
import { canLayer } from '@fendro/core/song/layers';
import { MOVES, TONE_KINDS } from '@fendro/core/song/moves';
import { isDrumRole } from '@fendro/core/song/roles';
import { FURTHEST_OCTAVE, type Part, type ToneKind } from '@fendro/core/song/schema';
import { instrumentsFor } from '@fendro/core/sounding/instruments';
import { range } from '@fendro/core/theory/units';
import { BandDesk } from '../../desks/band-desk';
import { MixDesk, octaveWords } from '../../desks/mix-desk';
import { MovesDesk, nameOfLine } from '../../desks/moves-desk';
import { ChoiceField, type Choice } from '../../ui/fields/choice-field';
import { FindField } from '../../ui/fields/find-field';
import { SlideField } from '../../ui/fields/slide-field';
import { instrumentChoices } from '../../ui/instrument-choices';

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
  imports: [ChoiceField, FindField, MatIcon, MatIconButton, MatTooltip, SlideField],
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
      <fd-find-field
        class="plain"
        [label]="'Instrument of ' + part().name"
        [choices]="instruments()"
        [value]="part().instrument"
        (tried)="band.tryInstrument({ part: part().id, instrument: $event })"
        (left)="band.letInstrumentGo()"
        (chosen)="band.setInstrument(part(), $event)"
      />
      @if (pitched()) {
        <fd-choice-field
          class="plain"
          [label]="'Octave of ' + part().name"
          [choices]="octaves"
          [value]="part().octave ?? 0"
          (chosen)="mix.setOctave(part(), $event)"
        />
      }
      @for (layer of part().layers ?? []; track $index) {
        <span class="layer" role="group" [attr.aria-label]="'With it ' + ($index + 1)">
          <span class="quiet">with</span>
          <fd-find-field
            class="plain"
            [label]="'Instrument ' + ($index + 2) + ' of ' + part().name"
            [choices]="instruments()"
            [value]="layer.instrument"
            (tried)="band.tryInstrument({ part: part().id, instrument: $event, layer: $index })"
            (left)="band.letInstrumentGo()"
            (chosen)="mix.changeLayer(part(), $index, { instrument: $event })"
          />
          @if (pitched()) {
            <fd-choice-field
              class="plain"
              [label]="'Octave of instrument ' + ($index + 2) + ' of ' + part().name"
              [choices]="octaves"
              [value]="layer.octave"
              (chosen)="mix.changeLayer(part(), $index, { octave: $event })"
            />
          }
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
    fd-find-field {
      width: 10.5rem;
    }
    .adds {
      width: 13rem;
    }
    fd-choice-field {
      width: 9rem;
    }
  `,
})
export class MixMore {
  readonly part = input.required<Part>();
  protected readonly mix = inject(MixDesk);
  protected readonly band = inject(BandDesk);
  protected readonly moves = inject(MovesDesk);
  protected readonly pitched = computed(() => !isDrumRole(this.part().role));
  protected readonly more = computed(() => canLayer(this.part()));
  protected readonly instruments = computed(() => instrumentChoices(instrumentsFor(this.part().role)));
  protected readonly octaves: readonly Choice<number>[] = range(2 * FURTHEST_OCTAVE + 1).map((index) => ({
    value: FURTHEST_OCTAVE - index,
    text: octaveWords(FURTHEST_OCTAVE - index),
  }));
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
