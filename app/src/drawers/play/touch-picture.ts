import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { Touch } from '@fendro/core/live/touches';

/** Where the lines of the little staff lie, from the lowest up, in px. */
const LINES = [30, 25, 20, 15, 10] as const;
const [MIDDLE, HALF] = [22, 2.5];

interface Head {
  readonly x: number;
  readonly y: number;
  readonly cross: boolean;
  readonly faint: boolean;
}

interface Drawn {
  readonly heads: readonly Head[];
  /** Arrows of strokes, slurs of steps. */
  readonly paths: readonly string[];
}

const head = (x: number, y: number, more: Partial<Head> = {}): Head => ({ x, y, cross: false, faint: false, ...more });
const chord = (cross: boolean): readonly Head[] => [30, 25, 20, 15].map((y) => head(MIDDLE, y, { cross }));

const arrow = (way: 'down' | 'up'): string =>
  way === 'down'
    ? `M${MIDDLE} 8 V31 M${MIDDLE - 4} 26 L${MIDDLE} 32 L${MIDDLE + 4} 26`
    : `M${MIDDLE} 32 V9 M${MIDDLE - 4} 14 L${MIDDLE} 8 L${MIDDLE + 4} 14`;

function drawn(touch: Touch): Drawn {
  switch (touch.does) {
    case 'stroke':
      if (touch.way === 'down' || touch.way === 'up') return { heads: [], paths: [arrow(touch.way)] };
      return { heads: chord(touch.way === 'damped'), paths: [] };
    case 'bass':
      return { heads: [head(MIDDLE, 38)], paths: [`M${MIDDLE - 8} 35.5 H${MIDDLE + 8}`] };
    case 'note':
      return { heads: [head(MIDDLE, 30 - 5 * touch.place)], paths: [] };
    case 'walk': {
      const [from, to] = [20 + touch.by * HALF, 20 - touch.by * HALF];
      return {
        heads: [head(MIDDLE - 8, from, { faint: true }), head(MIDDLE + 8, to)],
        paths: [`M${MIDDLE - 8} ${from - 5} Q${MIDDLE} ${Math.min(from, to) - 11} ${MIDDLE + 8} ${to - 5}`],
      };
    }
    case 'drum':
      return { heads: [head(MIDDLE, touch.pitch < 41 ? 30 : 20, { cross: touch.pitch > 41 })], paths: [] };
  }
}

/** What a key of the right hand does, as it would stand in a score. Decorative: whoever holds it says it in words. */
@Component({
  selector: 'fd-touch-picture',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg viewBox="0 0 44 44" preserveAspectRatio="none" aria-hidden="true" class="staff">
      @for (y of lines; track y) {
        <path class="line" [attr.d]="'M0 ' + y + ' H44'" />
      }
    </svg>
    <svg viewBox="0 0 44 44" aria-hidden="true">
      @for (path of drawing().paths; track $index) {
        <path class="stroke" [attr.d]="path" />
      }
      @for (each of drawing().heads; track $index) {
        @if (each.cross) {
          <path
            class="stroke"
            [attr.d]="
              'M' + (each.x - 3) + ' ' + (each.y - 3) + ' l6 6 M' + (each.x + 3) + ' ' + (each.y - 3) + ' l-6 6'
            "
          />
        } @else {
          <ellipse
            [class.faint]="each.faint"
            [attr.cx]="each.x"
            [attr.cy]="each.y"
            rx="4.2"
            ry="3"
            [attr.transform]="'rotate(-20 ' + each.x + ' ' + each.y + ')'"
          />
        }
      }
    </svg>
  `,
  styles: `
    :host {
      position: relative;
      display: block;
      width: 100%;
      height: 44px;
    }
    svg {
      position: absolute;
      inset: 0;
      width: 100%;
      height: 44px;
    }
    .line {
      stroke: var(--edge);
      stroke-width: 0.7;
      vector-effect: non-scaling-stroke;
    }
    .stroke {
      fill: none;
      stroke: currentColor;
      stroke-width: 1.8;
      stroke-linecap: round;
    }
    ellipse {
      fill: currentColor;
    }
    .faint {
      opacity: 0.45;
    }
  `,
})
export class TouchPicture {
  readonly touch = input.required<Touch>();
  protected readonly lines = LINES;
  protected readonly drawing = computed(() => drawn(this.touch()));
}
