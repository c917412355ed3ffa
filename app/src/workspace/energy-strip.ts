import { ChangeDetectionStrategy, Component, computed, ElementRef, inject, input, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { energyCurve, EVEN } from '@fendro/core/song/energy';
import type { Placed } from '@fendro/core/song/resolve';
import { clamp } from '@fendro/core/theory/units';
import { selectBar, selectScore } from '../store/selectors';
import { ScoreActions } from '../store/song.actions';
import { tickUnder } from '../ui/time-scale';

const SAMPLES = 12;
const HEIGHT = 20;
const STEP = 5;

/** The energy line over one place of the running order: dragged to shape it, stepped from the keyboard. */
@Component({
  selector: 'fd-energy-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div
      class="strip"
      role="slider"
      tabindex="0"
      aria-valuemin="0"
      aria-valuemax="100"
      [attr.aria-valuenow]="mean()"
      [attr.aria-valuetext]="said()"
      [attr.aria-label]="'Energy of ' + place().section.name"
      title="Drag: how intense it is here. Double click: level again"
      (pointerdown)="press($event)"
      (pointermove)="drag($event)"
      (pointerup)="drop()"
      (pointercancel)="drop()"
      (dblclick)="clear()"
      (keydown)="key($event)"
    >
      <svg [attr.viewBox]="'0 0 100 ' + height" preserveAspectRatio="none" aria-hidden="true">
        <polygon [class.flat]="!drawn()" [attr.points]="area()" />
      </svg>
    </div>
  `,
  styles: `
    :host {
      display: block;
      flex: none;
    }
    .strip {
      height: var(--energy-height);
      cursor: ns-resize;
      touch-action: none;
      border-radius: 4px;
      background: var(--sunk);
      overflow: hidden;
    }
    svg {
      display: block;
      width: 100%;
      height: 100%;
    }
    polygon {
      fill: var(--accent);
      opacity: 0.55;
    }
    polygon.flat {
      opacity: 0.16;
    }
  `,
})
export class EnergyStrip {
  private readonly store = inject(Store);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly place = input.required<Placed>();
  private readonly score = this.store.selectSignal(selectScore);
  private readonly bar = this.store.selectSignal(selectBar);
  protected readonly height = HEIGHT;
  /** Points on their way while the line is dragged. */
  private readonly dragged = signal<readonly { at: number; value: number }[] | null>(null);

  private readonly points = computed(
    () =>
      this.dragged() ??
      (this.score()?.energy ?? [])
        .filter(({ occurrence }) => occurrence === this.place().occurrence.id)
        .map(({ at, value }) => ({ at, value })),
  );
  protected readonly drawn = computed(() => (this.score()?.energy.length ?? 0) > 0 || this.dragged() !== null);

  private readonly values = computed(() => {
    const score = this.score();
    const { occurrence, start, length } = this.place();
    const dragged = this.dragged();
    const shown =
      score && dragged
        ? {
            ...score,
            energy: [
              ...score.energy.filter((point) => point.occurrence !== occurrence.id),
              ...dragged.map((point) => ({ ...point, occurrence: occurrence.id })),
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
  protected readonly area = computed(
    () =>
      `0,${HEIGHT} ${this.values()
        .map((value, index) => `${(100 * index) / SAMPLES},${(HEIGHT * (100 - value)) / 100}`)
        .join(' ')} 100,${HEIGHT}`,
  );

  protected press(event: PointerEvent): void {
    event.stopPropagation();
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
    this.dragged.set(this.points());
    this.drag(event);
  }

  /** Draws under the pointer: a point at every bar that it passes. */
  protected drag(event: PointerEvent): void {
    const now = this.dragged();
    if (!now) return;
    const box = this.host.nativeElement.getBoundingClientRect();
    const { length } = this.place();
    const bar = this.bar();
    const at = Math.min(length, Math.round(tickUnder(event, box, 0, length) / bar) * bar);
    const value = clamp(Math.round(100 * (1 - (event.clientY - box.top) / box.height)), 0, 100);
    this.dragged.set([...now.filter((point) => point.at !== at), { at, value }].sort((a, b) => a.at - b.at));
  }

  protected drop(): void {
    const points = this.dragged();
    this.dragged.set(null);
    if (points) this.draw(points);
  }

  private draw(points: readonly { at: number; value: number }[], gesture?: string): void {
    this.store.dispatch(
      ScoreActions.energyDrawn({ occurrence: this.place().occurrence.id, points, ...(gesture ? { gesture } : {}) }),
    );
  }

  protected clear(): void {
    this.draw([]);
  }

  /** Up and down lift and lower the whole place; Delete lets it follow its neighbours again. */
  protected key(event: KeyboardEvent): void {
    const by = event.key === 'ArrowUp' ? STEP : event.key === 'ArrowDown' ? -STEP : 0;
    if (by === 0 && event.key !== 'Delete') return;
    event.preventDefault();
    event.stopPropagation();
    if (by === 0) {
      this.clear();
      return;
    }
    const points = this.points();
    const { length, occurrence } = this.place();
    const from =
      points.length > 0
        ? points
        : [
            { at: 0, value: this.values()[0] ?? EVEN },
            { at: length, value: this.values().at(-1) ?? EVEN },
          ];
    this.draw(
      from.map(({ at, value }) => ({ at, value: clamp(Math.round(value + by), 0, 100) })),
      `energy ${occurrence.id}`,
    );
  }
}
