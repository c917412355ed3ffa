import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { ASPECTS } from '@fendro/core/song/schema';
import type { HeldRun } from '@fendro/core/song/holds';
import type { Ticks } from '@fendro/core/theory/units';
import { inWordsOf } from './say-bars';

/** A quiet hatch over the bars that are held, and what of them where it is not all. Decorative: its owner says it. */
@Component({
  selector: 'fd-held-hatch',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (run of runs(); track run.left) {
      <span class="run" [class.some]="run.words" [style.left.%]="run.left" [style.width.%]="run.width">
        @if (run.words && named()) {
          <span class="words">{{ run.words }}</span>
        }
      </span>
    }
  `,
  styles: `
    :host {
      position: absolute;
      inset: 0;
      pointer-events: none;
      overflow: hidden;
    }
    .run {
      position: absolute;
      top: 0;
      bottom: 0;
      background: repeating-linear-gradient(
        135deg,
        transparent 0 5px,
        color-mix(in srgb, var(--ink) 26%, transparent) 5px 6px
      );
      box-shadow: inset 0 -2px 0 var(--edge);
    }
    .run.some {
      background: repeating-linear-gradient(
        135deg,
        transparent 0 11px,
        color-mix(in srgb, var(--ink) 26%, transparent) 11px 12px
      );
    }
    .words {
      position: absolute;
      right: 2px;
      top: 1px;
      padding: 0 3px;
      border-radius: 3px;
      background: var(--surface);
      color: var(--quiet);
      font-size: 0.6875rem;
      line-height: 1.2;
    }
  `,
  host: { 'aria-hidden': 'true' },
})
export class HeldHatch {
  readonly held = input.required<readonly HeldRun[]>();
  /** The stretch that is drawn, and a bar of it. */
  readonly from = input<Ticks>(0);
  readonly to = input.required<Ticks>();
  readonly bar = input.required<Ticks>();
  /** Whether it says what is held. */
  readonly named = input(false);
  protected readonly runs = computed(() => {
    const [from, to, bar] = [this.from(), this.to(), this.bar()];
    const percent = (at: Ticks): number => (100 * (Math.min(Math.max(at, from), to) - from)) / Math.max(1, to - from);
    return this.held()
      .filter((run) => run.to * bar > from && run.from * bar < to)
      .map((run) => ({
        left: percent(run.from * bar),
        width: percent(run.to * bar) - percent(run.from * bar),
        words:
          run.aspects.length === ASPECTS.length ? '' : run.aspects.map((aspect) => inWordsOf(aspect, false)).join(', '),
      }));
  });
}
