import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { isDrumRole } from '@fendro/core/song/roles';
import { FURTHEST_OCTAVE, type Layer, type Part } from '@fendro/core/song/schema';
import { instrumentsFor } from '@fendro/core/sounding/instruments';
import { range } from '@fendro/core/theory/units';
import { BandDesk } from '../../desks/band-desk';
import { MixDesk, octaveWords } from '../../desks/mix-desk';
import { ChoiceField, type Choice } from '../../ui/fields/choice-field';
import { FindField } from '../../ui/fields/find-field';
import { instrumentChoices } from '../../ui/instrument-choices';

/** One of the instruments that a part sounds on, with its octave: its own, or one that doubles it. */
@Component({
  selector: 'fd-mix-sound',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, FindField],
  template: `
    <fd-find-field
      class="plain"
      [label]="name() + ' of ' + part().name"
      [choices]="instruments()"
      [value]="instrument()"
      (tried)="band.tryInstrument({ part: part().id, instrument: $event, layer: layer() })"
      (left)="band.letInstrumentGo()"
      (chosen)="choose($event)"
    />
    @if (pitched()) {
      <fd-choice-field
        class="plain"
        [label]="octaveName() + ' of ' + part().name"
        [choices]="octaves"
        [value]="octave()"
        (chosen)="sound($event)"
      />
    }
  `,
  styles: `
    :host {
      display: contents;
    }
    fd-find-field {
      width: 10.5rem;
    }
    fd-choice-field {
      width: 9rem;
    }
  `,
})
export class MixSound {
  readonly part = input.required<Part>();
  /** Which of those that double the part; the part's own where it is left out. */
  readonly layer = input<number>();
  protected readonly band = inject(BandDesk);
  private readonly mix = inject(MixDesk);
  protected readonly pitched = computed(() => !isDrumRole(this.part().role));
  protected readonly instruments = computed(() => instrumentChoices(instrumentsFor(this.part().role)));
  protected readonly octaves: readonly Choice<number>[] = range(2 * FURTHEST_OCTAVE + 1).map((index) => ({
    value: FURTHEST_OCTAVE - index,
    text: octaveWords(FURTHEST_OCTAVE - index),
  }));
  private readonly own = computed((): Partial<Pick<Layer, 'instrument' | 'octave'>> => {
    const [part, layer] = [this.part(), this.layer()];
    return layer === undefined ? part : (part.layers?.[layer] ?? {});
  });
  protected readonly instrument = computed(() => this.own().instrument ?? '');
  protected readonly octave = computed(() => this.own().octave ?? 0);
  /** “Instrument”, “Instrument 2”. */
  protected readonly name = computed(() => {
    const layer = this.layer();
    return layer === undefined ? 'Instrument' : `Instrument ${layer + 2}`;
  });
  protected readonly octaveName = computed(() =>
    this.layer() === undefined ? 'Octave' : `Octave of ${this.name().toLowerCase()}`,
  );

  protected choose(instrument: string): void {
    const layer = this.layer();
    if (layer === undefined) this.band.setInstrument(this.part(), instrument);
    else this.mix.changeLayer(this.part(), layer, { instrument });
  }

  protected sound(octave: number): void {
    const layer = this.layer();
    if (layer === undefined) this.mix.setOctave(this.part(), octave);
    else this.mix.changeLayer(this.part(), layer, { octave });
  }
}
