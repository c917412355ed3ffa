import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';

const STRINGS = 6;
const SHOWN_FRETS = 5;
const STEP = 26;
const GAP = 11;

/**
 * A chord shape on the fretboard, the lowest string below as it lies before the player. Decorative: its holder says
 * it in words.
 */
@Component({
  selector: 'fd-fretboard-picture',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg [attr.viewBox]="'0 0 ' + (shown * step + 34) + ' ' + (5 * gap + 26)" aria-hidden="true">
      @for (string of strings; track string) {
        <line class="string" x1="24" [attr.x2]="24 + shown * step" [attr.y1]="y(string)" [attr.y2]="y(string)" />
      }
      @for (fret of frets(); track fret.number) {
        <line
          class="fret"
          [class.nut]="fret.number === 0"
          [attr.x1]="fret.x"
          [attr.x2]="fret.x"
          [attr.y1]="y(5)"
          [attr.y2]="y(0)"
        />
        @if (fret.number > 0) {
          <text [attr.x]="fret.x - step / 2" [attr.y]="5 * gap + 22">{{ fret.number }}</text>
        }
      }
      @for (dot of dots(); track dot.string) {
        @if (dot.kind === 'pressed') {
          <circle [attr.cx]="dot.x" [attr.cy]="y(dot.string)" r="4.6" />
        }
        @if (dot.kind === 'open') {
          <circle class="open" cx="14" [attr.cy]="y(dot.string)" r="3.4" />
        }
        @if (dot.kind === 'silent') {
          <text x="14" [attr.y]="y(dot.string) + 3.5">×</text>
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
      max-height: 110px;
    }
    .string {
      stroke: var(--edge);
      stroke-width: 1;
    }
    .fret {
      stroke: var(--line);
      stroke-width: 1.5;
    }
    .nut {
      stroke: var(--ink);
      stroke-width: 3;
    }
    circle {
      fill: var(--accent);
    }
    .open {
      fill: none;
      stroke: var(--accent);
      stroke-width: 1.6;
    }
    text {
      font-size: 9px;
      fill: var(--quiet);
      text-anchor: middle;
    }
  `,
})
export class FretboardPicture {
  /** A fret for each string, the lowest first; null is not struck. */
  readonly shape = input.required<readonly (number | null)[]>();
  protected readonly strings = Array.from({ length: STRINGS }, (_, index) => index);
  protected readonly shown = SHOWN_FRETS;
  protected readonly step = STEP;
  protected readonly gap = GAP;

  /** The fret left of the first one shown; 0 is the nut. */
  private readonly first = computed(() => {
    const pressed = this.shape().filter((fret): fret is number => fret !== null && fret > 0);
    return pressed.length === 0 || Math.max(...pressed) <= SHOWN_FRETS ? 0 : Math.min(...pressed) - 1;
  });

  protected y(string: number): number {
    return 6 + (STRINGS - 1 - string) * GAP;
  }

  protected readonly frets = computed(() =>
    Array.from({ length: SHOWN_FRETS + 1 }, (_, index) => ({ number: this.first() + index, x: 24 + index * STEP })),
  );

  protected readonly dots = computed(() =>
    this.shape().map((fret, string) => ({
      string,
      kind: fret === null ? 'silent' : fret === 0 ? 'open' : 'pressed',
      x: 24 + ((fret ?? 0) - this.first() - 0.5) * STEP,
    })),
  );
}
