import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { Store } from '@ngrx/store';
import { energyCurve, EVEN } from '@fendro/core/song/energy';
import type { Placed } from '@fendro/core/song/resolve';
import type { Ticks } from '@fendro/core/theory/units';
import { selectBar, selectScore } from '../store/selectors';
import { ScoreActions } from '../store/song.actions';
import { ValueStrip, type ValuePoint } from '../ui/value-strip';

/** The energy line over one place of the running order: it goes on from one place to the next. */
@Component({
  selector: 'fd-energy-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ValueStrip],
  template: `
    <fd-value-strip
      hint="Drag: how intense it is here. Double click: level again"
      [label]="'Energy of ' + place().section.name"
      plain="level, nothing drawn"
      [inWords]="words"
      [length]="place().length"
      [low]="0"
      [high]="100"
      [grid]="bar()"
      [curve]="curve()"
      [stands]="along()"
      (drawn)="draw($event)"
      (stepped)="draw($event, 'energy ' + place().occurrence.id)"
    />
  `,
})
export class EnergyStrip {
  private readonly store = inject(Store);
  readonly place = input.required<Placed>();
  private readonly score = this.store.selectSignal(selectScore);
  protected readonly bar = this.store.selectSignal(selectBar);
  private readonly energy = computed(() => this.score()?.energy ?? []);
  protected readonly words = (value: number): string => `${Math.round(value)} %`;

  protected readonly curve = computed((): readonly ValuePoint[] | null => {
    const energy = this.energy();
    return energy.length === 0 ? null : energy.filter(({ occurrence }) => occurrence === this.place().occurrence.id);
  });

  /** How the line of the whole song would go here with other points in this place. */
  protected readonly along = computed(() => {
    const [score, energy, { occurrence, start }] = [this.score(), this.energy(), this.place()];
    const others = energy.filter((point) => point.occurrence !== occurrence.id);
    return (points: readonly ValuePoint[]): ((at: Ticks) => number) => {
      const own = points.map(({ at, value }) => ({ at, value, occurrence: occurrence.id }));
      const curve = score && energyCurve({ ...score, energy: [...others, ...own] });
      return (at) => curve?.(start + at) ?? EVEN;
    };
  });

  protected draw(points: readonly ValuePoint[], gesture?: string): void {
    this.store.dispatch(
      ScoreActions.energyDrawn({ occurrence: this.place().occurrence.id, points, ...(gesture ? { gesture } : {}) }),
    );
  }
}
