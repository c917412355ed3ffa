import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MOVES, moveAt, movesOf, type MoveKind } from '@fendro/core/song/moves';
import type { Placed } from '@fendro/core/song/resolve';
import type { Part } from '@fendro/core/song/schema';
import { clamp, range } from '@fendro/core/theory/units';
import { MovesDesk, nameOfLine } from '../desks/moves-desk';
import { LineStrip, type LinePoint } from '../ui/line-strip';

const SAMPLES = 24;
const STEP = 5;
/** Points of a move lie on quarters. */
const GRID = 480;

/** How the part in focus moves in the mix over one place of the running order. */
@Component({
  selector: 'fd-move-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [LineStrip],
  template: `
    <fd-line-strip
      [hint]="'Drag: how the ' + kind() + ' of ' + part().name + ' moves here. Double click: as in the mix'"
      [label]="name() + ' of ' + part().name + ' in ' + place().section.name"
      [said]="said()"
      [now]="mean()"
      [least]="range().low"
      [most]="range().high"
      [heights]="heights()"
      [flat]="!moves()"
      [colour]="'var(--part-' + part().colour + ')'"
      [points]="points()"
      [length]="place().length"
      [grid]="grid"
      (shaped)="dragged.set($event)"
      (drawn)="draw($event)"
      (cleared)="draw([])"
      (stepped)="step($event)"
    />
  `,
})
export class MoveStrip {
  private readonly desk = inject(MovesDesk);
  readonly place = input.required<Placed>();
  readonly part = input.required<Part>();
  readonly kind = input.required<MoveKind>();
  protected readonly grid = GRID;
  protected readonly name = computed(() => nameOfLine(this.kind()));
  protected readonly dragged = signal<readonly LinePoint[] | null>(null);
  protected readonly range = computed(() => MOVES[this.kind()]);
  private readonly curve = computed(() => movesOf(this.place().occurrence, this.part().id)[this.kind()]);
  protected readonly moves = computed(() => this.curve() !== undefined || this.dragged() !== null);
  protected readonly points = computed(
    () => this.dragged() ?? (this.curve() ?? []).map(({ at, value }) => ({ at, height: this.heightOf(value) })),
  );

  private heightOf(value: number): number {
    const { low, high } = this.range();
    return (100 * (value - low)) / (high - low);
  }

  private valueOf(height: number): number {
    const { low, high } = this.range();
    return Math.round(low + ((high - low) * height) / 100);
  }

  private readonly values = computed(() => {
    const [{ occurrence, length }, part, kind, dragged] = [this.place(), this.part(), this.kind(), this.dragged()];
    const shown = dragged && {
      ...occurrence,
      moves: { [part.id]: { [kind]: dragged.map(({ at, height }) => ({ at, value: this.valueOf(height) })) } },
    };
    return range(SAMPLES + 1).map((index) => moveAt(shown ?? occurrence, part, kind, (index * length) / SAMPLES));
  });
  protected readonly heights = computed(() => this.values().map((value) => this.heightOf(value)));
  protected readonly mean = computed(() =>
    Math.round(this.values().reduce((sum, value) => sum + value, 0) / this.values().length),
  );
  protected readonly said = computed(() =>
    this.moves() ? `${Math.round(this.values()[0] ?? 0)} to ${Math.round(this.values().at(-1) ?? 0)}` : 'as in the mix',
  );

  protected draw(points: readonly LinePoint[], gesture?: string): void {
    this.desk.draw(
      this.place().occurrence.id,
      this.kind(),
      points.map(({ at, height }) => ({ at, value: this.valueOf(height) })),
      gesture,
    );
  }

  protected step(by: 1 | -1): void {
    const points = this.points();
    const from = points.length > 0 ? points : [{ at: 0, height: this.heights()[0] ?? 50 }];
    this.draw(
      from.map(({ at, height }) => ({ at, height: clamp(height + by * STEP, 0, 100) })),
      `${this.kind()} ${this.place().occurrence.id}`,
    );
  }
}
