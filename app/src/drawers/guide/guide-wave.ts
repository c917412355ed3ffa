import { ChangeDetectionStrategy, Component, computed, inject, input, resource } from '@angular/core';
import { scaleLinear } from 'd3';
import { peaksOf } from '@fendro/core/live/wave';
import type { Guide } from '@fendro/core/song/schema';
import { GuideSounds } from '../../desks/guides/guide-sounds';

/** The picture's own measure; it is drawn as wide as there is room. */
const [WIDTH, HEIGHT] = [600, 36];

/** A bar line over a recording: where, in seconds from its beginning, and which bar begins there. */
export interface WaveBar {
  readonly at: number;
  readonly bar: number;
}

/** The sound of a guide as it lies over the bars. */
@Component({
  selector: 'fd-guide-wave',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (missing()) {
      <span class="quiet">Its sound is not in this browser</span>
    } @else {
      <svg [attr.viewBox]="box" preserveAspectRatio="none" role="img" [attr.aria-label]="said()">
        @for (line of lines(); track line.bar) {
          <line class="bar" [attr.x1]="line.x" [attr.x2]="line.x" y1="0" [attr.y2]="height" />
        }
        <path [class.muted]="guide().muted" [attr.d]="outline()" />
      </svg>
      @for (line of lines(); track line.bar) {
        <span class="mono number" [style.left.%]="line.left" aria-hidden="true">{{ line.bar }}</span>
      }
    }
  `,
  styles: `
    :host {
      position: relative;
      display: block;
      height: 36px;
      overflow: hidden;
      background: var(--band-odd);
      border-radius: var(--corner-note);
    }
    svg {
      display: block;
      width: 100%;
      height: 100%;
    }
    path {
      fill: var(--part-6);
    }
    path.muted {
      fill: var(--edge);
    }
    .bar {
      stroke: var(--line);
      vector-effect: non-scaling-stroke;
    }
    .number {
      position: absolute;
      top: 0;
      padding-inline-start: 3px;
      font-size: 0.6875rem;
      color: var(--quiet);
    }
    .quiet {
      padding: 8px;
      line-height: 36px;
    }
  `,
})
export class GuideWave {
  private readonly sounds = inject(GuideSounds);
  readonly guide = input.required<Guide>();
  readonly bars = input.required<readonly WaveBar[]>();
  protected readonly height = HEIGHT;
  protected readonly box = `0 0 ${WIDTH} ${HEIGHT}`;
  private readonly wave = resource({
    params: () => this.guide().sound,
    loader: ({ params }) => this.sounds.of(params),
  });
  protected readonly missing = computed(() => this.wave.hasValue() && this.wave.value() === null);
  private readonly x = computed(() => scaleLinear([0, this.guide().seconds], [0, WIDTH]));
  protected readonly lines = computed(() =>
    this.bars().map(({ at, bar }) => ({ bar, x: this.x()(at), left: (100 * this.x()(at)) / WIDTH })),
  );
  /** Up from the middle, and back below it. */
  protected readonly outline = computed(() => {
    const wave = this.wave.hasValue() ? this.wave.value() : null;
    if (!wave) return '';
    const peaks = peaksOf(wave, WIDTH);
    const y = scaleLinear([-1, 1], [HEIGHT, 0]);
    const top = peaks.map((peak, at) => `${at},${y(Math.max(peak, 0.02)).toFixed(1)}`);
    const below = peaks.map((peak, at) => `${at},${y(-Math.max(peak, 0.02)).toFixed(1)}`).reverse();
    return `M${[...top, ...below].join('L')}Z`;
  });
  protected readonly said = computed(() => {
    const { name, seconds } = this.guide();
    const bars = this.bars().length;
    return `${name}: ${seconds.toFixed(1)} s of sound${bars > 0 ? `, over ${bars} bar lines` : ''}`;
  });
}
