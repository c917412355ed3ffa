import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, output, signal } from '@angular/core';
import { valueAt } from '@fendro/core/song/curve';
import { clamp, range, sum, TICKS_PER_QUARTER, type Ticks } from '@fendro/core/theory/units';
import { LineStrip, type LinePoint } from './line-strip';

const SAMPLES = 24;
/** By how much of the strip's height the arrows move the line, in %. */
const STEP = 5;
/** A point of a curve: ticks from its start, in the curve's own unit. */
export interface ValuePoint {
  readonly at: Ticks;
  readonly value: number;
}

/** A curve of values over one place of the running order: drawn, stepped by keys, taken away. */
@Component({
  selector: 'fd-value-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [LineStrip],
  template: `
    <fd-line-strip
      [hint]="hint()"
      [label]="label()"
      [said]="said()"
      [now]="mean()"
      [least]="low()"
      [most]="high()"
      [heights]="heights()"
      [flat]="!moves()"
      [colour]="colour()"
      [points]="points()"
      [length]="length()"
      [grid]="grid()"
      (shaped)="dragged.set($event)"
      (drawn)="drawn.emit(valuesOf($event))"
      (cleared)="drawn.emit([])"
      (stepped)="step($event)"
    />
  `,
})
export class ValueStrip {
  readonly label = input.required<string>();
  readonly hint = input('');
  readonly colour = input<string | null>(null);
  readonly length = input.required<Ticks>();
  readonly low = input.required<number>();
  readonly high = input.required<number>();
  /** Points lie on multiples of so many ticks. */
  readonly grid = input<Ticks>(TICKS_PER_QUARTER);
  /** Null where nothing is drawn: that is told as `plain`. */
  readonly curve = input.required<readonly ValuePoint[] | null>();
  /** What it is all along where there are no points; or how points go, where what lies around the place counts too. */
  readonly stands = input.required<number | ((points: readonly ValuePoint[]) => (at: Ticks) => number)>();
  readonly plain = input.required<string>();
  readonly inWords = input<(value: number) => string>((value) => String(Math.round(value)));
  readonly drawn = output<readonly ValuePoint[]>();
  /** Drawn by a key, of which many make one gesture. */
  readonly stepped = output<readonly ValuePoint[]>();
  protected readonly dragged = signal<readonly LinePoint[] | null>(null);
  protected readonly moves = computed(() => this.curve() !== null || this.dragged() !== null);
  protected readonly points = computed(
    () => this.dragged() ?? (this.curve() ?? []).map(({ at, value }) => ({ at, height: this.heightOf(value) })),
  );

  /** Keys come quicker than the page is drawn: each goes on from what the one before made, until a curve comes in. */
  private readonly ahead = linkedSignal<unknown, readonly LinePoint[] | null>({
    source: this.curve,
    computation: () => null,
  });

  private heightOf(value: number): number {
    return clamp((100 * (value - this.low())) / (this.high() - this.low()), 0, 100);
  }

  protected valuesOf(points: readonly LinePoint[]): ValuePoint[] {
    const [low, high] = [this.low(), this.high()];
    return points.map(({ at, height }) => ({ at, value: Math.round(low + ((high - low) * height) / 100) }));
  }

  private readonly values = computed(() => {
    const [dragged, length, stands] = [this.dragged(), this.length(), this.stands()];
    const points = (dragged ? this.valuesOf(dragged) : this.curve()) ?? [];
    const along =
      typeof stands === 'function'
        ? stands(points)
        : (at: Ticks): number => (points.length > 0 ? valueAt(points, at) : stands);
    return range(SAMPLES + 1).map((index) => along((index * length) / SAMPLES));
  });
  protected readonly heights = computed(() => this.values().map((value) => this.heightOf(value)));
  protected readonly mean = computed(() => Math.round(sum(this.values()) / this.values().length));
  protected readonly said = computed(() => {
    const [values, words] = [this.values(), this.inWords()];
    return this.moves() ? `${words(values[0] ?? 0)} to ${words(values.at(-1) ?? 0)}` : this.plain();
  });

  /** Lifts and lowers the whole line; without points it begins as it went, level where it stands by itself. */
  protected step(by: 1 | -1): void {
    const [points, heights] = [this.ahead() ?? this.points(), this.heights()];
    const ends = [heights[0], heights.at(-1)].map((height, end) => ({ at: end * this.length(), height: height ?? 50 }));
    const from = points.length > 0 ? points : typeof this.stands() === 'number' ? ends.slice(0, 1) : ends;
    const next = from.map(({ at, height }) => ({ at, height: clamp(height + by * STEP, 0, 100) }));
    this.ahead.set(next);
    this.stepped.emit(this.valuesOf(next));
  }
}
