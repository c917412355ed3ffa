import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  inject,
  viewChild,
} from '@angular/core';
import { Store } from '@ngrx/store';
import { groundOf } from '@fendro/core/song/ground';
import { barTicks, beatsOf } from '@fendro/core/theory/metre';
import type { Ticks } from '@fendro/core/theory/units';
import { Playback } from '../sound/playback';
import { selectPlaced, selectScore, selectView } from '../store/selectors';

/** Bar and beat of the section that plays, as in “7.3”. Written straight into the page, many times a second. */
@Component({
  selector: 'fd-position-readout',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<span #readout class="mono" role="timer" aria-label="Position: bar and beat">1.1</span>`,
  styles: `
    span {
      display: inline-block;
      min-width: 3.2rem;
      text-align: right;
      font-size: 1rem;
    }
  `,
})
export class PositionReadout {
  private readonly store = inject(Store);
  private readonly readout = viewChild.required<ElementRef<HTMLElement>>('readout');
  private readonly score = this.store.selectSignal(selectScore);
  private readonly placed = this.store.selectSignal(selectPlaced);
  private readonly view = this.store.selectSignal(selectView);

  constructor() {
    const playback = inject(Playback);
    const destroyed = inject(DestroyRef);
    afterNextRender(() => {
      destroyed.onDestroy(
        playback.watch((position) => {
          this.show(position?.tick ?? null);
        }),
      );
    });
  }

  private show(tick: Ticks | null): void {
    const score = this.score();
    if (!score) return;
    const at = tick ?? this.view()?.start ?? 0;
    const place = this.placed().findLast(({ start }) => start <= at);
    const metre = place ? groundOf(score, place.section).metre : score.ground.metre;
    const inSection = at - (place?.start ?? 0);
    const bar = Math.floor(inSection / barTicks(metre));
    const beat = beatsOf(metre).findLastIndex((candidate) => candidate.at <= inSection - bar * barTicks(metre));
    const text = `${bar + 1}.${Math.max(0, beat) + 1}`;
    const element = this.readout().nativeElement;
    if (element.textContent !== text) element.textContent = text;
  }
}
