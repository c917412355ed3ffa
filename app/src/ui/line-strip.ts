import { ChangeDetectionStrategy, Component, computed, ElementRef, inject, input, output } from '@angular/core';
import type { Ticks } from '@fendro/core/theory/units';
import { clamp } from '@fendro/core/theory/units';
import { tickUnder } from './time-scale';

const HEIGHT = 20;

/** A point of a line over a place: how high, in % of the strip. */
export interface LinePoint {
  readonly at: Ticks;
  readonly height: number;
}

/** A line over one place of the running order: dragged to shape it, stepped from the keyboard. */
@Component({
  selector: 'fd-line-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div
      class="strip"
      role="slider"
      tabindex="0"
      [attr.aria-valuemin]="least()"
      [attr.aria-valuemax]="most()"
      [attr.aria-valuenow]="now()"
      [attr.aria-valuetext]="said()"
      [attr.aria-label]="label()"
      [title]="hint()"
      (pointerdown)="press($event)"
      (pointermove)="drag($event)"
      (pointerup)="drop()"
      (pointercancel)="drop()"
      (dblclick)="cleared.emit()"
      (keydown)="key($event)"
    >
      <svg [attr.viewBox]="'0 0 100 ' + height" preserveAspectRatio="none" aria-hidden="true">
        <polygon [class.flat]="flat()" [attr.points]="area()" [style.fill]="colour()" />
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
export class LineStrip {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly label = input.required<string>();
  readonly said = input.required<string>();
  readonly hint = input('');
  /** What the line is on the whole, in its own unit, and what it goes between. */
  readonly now = input.required<number>();
  readonly least = input(0);
  readonly most = input(100);
  /** How high it is at even distances from one end to the other, in % of the strip. */
  readonly heights = input.required<readonly number[]>();
  /** True where nothing is drawn. */
  readonly flat = input(false);
  readonly colour = input<string | null>(null);
  readonly points = input.required<readonly LinePoint[]>();
  readonly length = input.required<Ticks>();
  /** Points lie on multiples of so many ticks. */
  readonly grid = input.required<Ticks>();
  /** The points on their way while the line is dragged; null when it is let go. */
  readonly shaped = output<readonly LinePoint[] | null>();
  readonly drawn = output<readonly LinePoint[]>();
  readonly cleared = output();
  readonly stepped = output<1 | -1>();
  protected readonly height = HEIGHT;
  private dragged: readonly LinePoint[] | null = null;

  protected readonly area = computed(() => {
    const heights = this.heights();
    const corners = heights.map(
      (value, index) => `${(100 * index) / (heights.length - 1)},${(HEIGHT * (100 - value)) / 100}`,
    );
    return `0,${HEIGHT} ${corners.join(' ')} 100,${HEIGHT}`;
  });

  protected press(event: PointerEvent): void {
    event.stopPropagation();
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
    this.dragged = this.points();
    this.drag(event);
  }

  /** Draws under the pointer: a point at every line of the grid that it passes. */
  protected drag(event: PointerEvent): void {
    const now = this.dragged;
    if (!now) return;
    const box = this.host.nativeElement.getBoundingClientRect();
    const [length, grid] = [this.length(), this.grid()];
    const at = Math.min(length, Math.round(tickUnder(event, box, 0, length) / grid) * grid);
    const height = clamp(Math.round(100 * (1 - (event.clientY - box.top) / box.height)), 0, 100);
    this.dragged = [...now.filter((point) => point.at !== at), { at, height }].sort((a, b) => a.at - b.at);
    this.shaped.emit(this.dragged);
  }

  protected drop(): void {
    const points = this.dragged;
    this.dragged = null;
    if (!points) return;
    this.shaped.emit(null);
    this.drawn.emit(points);
  }

  /** Up and down lift and lower the whole line; Delete takes it away. */
  protected key(event: KeyboardEvent): void {
    if (!['ArrowUp', 'ArrowDown', 'Delete'].includes(event.key)) return;
    event.preventDefault();
    event.stopPropagation();
    if (event.key === 'Delete') this.cleared.emit();
    else this.stepped.emit(event.key === 'ArrowUp' ? 1 : -1);
  }
}
