import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';

const BLACK = new Set([1, 3, 6, 8, 10]);
const WHITE_WIDTH = 12;
const HEIGHT = 46;

/** A stretch of a keyboard with some keys marked and named. Decorative: whatever holds it says the notes in words. */
@Component({
  selector: 'fd-keyboard-picture',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg [attr.viewBox]="'0 0 ' + width() + ' ' + height" aria-hidden="true">
      @for (key of keys(); track key.pitch) {
        @if (!key.black) {
          <rect
            class="white"
            [class.on]="key.on"
            [attr.x]="key.x"
            y="0"
            [attr.width]="unit - 1"
            [attr.height]="height"
            rx="1.5"
          />
        }
      }
      @for (key of keys(); track key.pitch) {
        @if (key.black) {
          <rect class="black" [class.on]="key.on" [attr.x]="key.x" y="0" width="7" height="28" rx="1.5" />
        }
      }
      @for (key of keys(); track key.pitch) {
        @if (key.on) {
          <circle
            [class.over]="key.black"
            [attr.cx]="key.x + (key.black ? 3.5 : (unit - 1) / 2)"
            [attr.cy]="key.black ? 20 : 37"
            r="3.2"
          />
        }
      }
    </svg>
  `,
  styles: `
    :host {
      display: block;
    }
    svg {
      display: block;
      width: 100%;
      max-height: 64px;
    }
    .white {
      fill: var(--surface);
      stroke: var(--edge);
      stroke-width: 0.8;
    }
    .black {
      fill: var(--ink);
    }
    .white.on {
      fill: var(--accent-faint);
      stroke: var(--accent);
    }
    .black.on {
      fill: var(--accent);
    }
    circle {
      fill: var(--accent);
    }
    circle.over {
      fill: var(--on-accent);
    }
  `,
})
export class KeyboardPicture {
  /** MIDI notes to mark. */
  readonly pitches = input.required<readonly number[]>();
  protected readonly unit = WHITE_WIDTH;
  protected readonly height = HEIGHT;

  /** Whole octaves around what is marked, two at least. */
  private readonly range = computed(() => {
    const pitches = this.pitches();
    const low = Math.floor(Math.min(60, ...pitches) / 12) * 12;
    const high = Math.max(low + 24, (Math.floor(Math.max(60, ...pitches) / 12) + 1) * 12);
    return { low, high };
  });

  protected readonly keys = computed(() => {
    const { low, high } = this.range();
    const on = new Set(this.pitches());
    let whites = 0;
    return Array.from({ length: high - low }, (_, index) => low + index).map((pitch) => {
      const black = BLACK.has(pitch % 12);
      const x = black ? whites * WHITE_WIDTH - 4 : whites * WHITE_WIDTH;
      if (!black) whites++;
      return { pitch, black, x, on: on.has(pitch) };
    });
  });

  protected readonly width = computed(() => this.keys().filter(({ black }) => !black).length * WHITE_WIDTH);
}
