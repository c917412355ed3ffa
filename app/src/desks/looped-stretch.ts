import { computed, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import type { Stretch } from '@fendro/core/files/outgoing/deliver';
import { NOTHING_HEARD } from '@fendro/core/song/resolve';
import { nameApart } from '@fendro/core/song/version-words';
import { spanOf } from '@fendro/core/sounding/course';
import { selectScore, selectTakes, selectView } from '../store/selectors';
import { sessionFeature } from '../store/session';
import { sayBars } from '../ui/say-bars';

/** What is looped, as a file of its own: the selected bars or the section in view, so often round as is asked for. */
@Injectable({ providedIn: 'root' })
export class LoopedStretch {
  private readonly store = inject(Store);
  private readonly score = this.store.selectSignal(selectScore);
  private readonly takes = this.store.selectSignal(selectTakes);
  private readonly view = this.store.selectSignal(selectView);
  private readonly bars = this.store.selectSignal(sessionFeature.selectBars);
  /** How often it goes round. */
  readonly rounds = signal(1);
  /** Null where no section is in view. */
  readonly stretch = computed((): Stretch | null => {
    const [score, view, bars] = [this.score(), this.view(), this.bars()];
    if (!score || !view) return null;
    const section = nameApart({ score, takes: this.takes(), heard: NOTHING_HEARD }, view.section);
    const name = bars ? `${section}, ${sayBars(bars)}` : section;
    return { span: spanOf(score, view, bars), rounds: this.rounds(), name };
  });
}
