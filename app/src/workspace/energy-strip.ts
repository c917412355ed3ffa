import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { energyCurve, EVEN } from '@fendro/core/song/energy';
import type { Placed } from '@fendro/core/song/resolve';
import { clamp } from '@fendro/core/theory/units';
import { selectBar, selectScore } from '../store/selectors';
import { ScoreActions } from '../store/song.actions';
import { LineStrip, type LinePoint } from '../ui/line-strip';

const SAMPLES = 12;
const STEP = 5;

/** The energy line over one place of the running order. */
@Component({
  selector: 'fd-energy-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [LineStrip],
  template: `
    <fd-line-strip
      hint="Drag: how intense it is here. Double click: level again"
      [label]="'Energy of ' + place().section.name"
      [said]="said()"
      [now]="mean()"
      [heights]="values()"
      [flat]="!drawn()"
      [points]="points()"
      [length]="place().length"
      [grid]="bar()"
      (shaped)="dragged.set($event)"
      (drawn)="draw($event)"
      (cleared)="draw([])"
      (stepped)="step($event)"
    />
  `,
})
export class EnergyStrip {
  private readonly store = inject(Store);
  readonly place = input.required<Placed>();
  private readonly score = this.store.selectSignal(selectScore);
  protected readonly bar = this.store.selectSignal(selectBar);
  /** Points on their way while the line is dragged. */
  protected readonly dragged = signal<readonly LinePoint[] | null>(null);

  protected readonly points = computed(
    (): readonly LinePoint[] =>
      this.dragged() ??
      (this.score()?.energy ?? [])
        .filter(({ occurrence }) => occurrence === this.place().occurrence.id)
        .map(({ at, value }) => ({ at, height: value })),
  );
  protected readonly drawn = computed(() => (this.score()?.energy.length ?? 0) > 0 || this.dragged() !== null);

  protected readonly values = computed(() => {
    const score = this.score();
    const { occurrence, start, length } = this.place();
    const dragged = this.dragged();
    const shown =
      score && dragged
        ? {
            ...score,
            energy: [
              ...score.energy.filter((point) => point.occurrence !== occurrence.id),
              ...dragged.map(({ at, height }) => ({ at, value: height, occurrence: occurrence.id })),
            ],
          }
        : score;
    const curve = shown ? energyCurve(shown) : null;
    return Array.from({ length: SAMPLES + 1 }, (_, index) =>
      curve ? curve(start + (index * length) / SAMPLES) : EVEN,
    );
  });

  protected readonly mean = computed(() =>
    Math.round(this.values().reduce((sum, value) => sum + value, 0) / this.values().length),
  );
  protected readonly said = computed(() => (this.drawn() ? `${this.mean()} %` : 'level, nothing drawn'));

  protected draw(points: readonly LinePoint[], gesture?: string): void {
    this.store.dispatch(
      ScoreActions.energyDrawn({
        occurrence: this.place().occurrence.id,
        points: points.map(({ at, height }) => ({ at, value: height })),
        ...(gesture ? { gesture } : {}),
      }),
    );
  }

  /** Lifts and lowers the whole place. */
  protected step(by: 1 | -1): void {
    const points = this.points();
    const { length, occurrence } = this.place();
    const from =
      points.length > 0
        ? points
        : [
            { at: 0, height: this.values()[0] ?? EVEN },
            { at: length, height: this.values().at(-1) ?? EVEN },
          ];
    this.draw(
      from.map(({ at, height }) => ({ at, height: clamp(Math.round(height + by * STEP), 0, 100) })),
      `energy ${occurrence.id}`,
    );
  }
}
