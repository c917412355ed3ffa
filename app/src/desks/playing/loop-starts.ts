import { computed, inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { startedAt } from '@fendro/core/patterns/loop-edits';
import { SIXTEENTH, type Ticks } from '@fendro/core/theory/units';
import { selectSection } from '../../store/selectors';
import { PatternDesk } from '../pattern-desk';
import { Captured } from './captured';

/** Loops that begin anew with the notes that a hand played last. */
@Injectable({ providedIn: 'root' })
export class LoopStarts {
  private readonly captured = inject(Captured);
  private readonly patterns = inject(PatternDesk);
  private readonly section = inject(Store).selectSignal(selectSection);
  /** Where notes were struck in the round of this section that was played last, whoever was played, on sixteenths. */
  private readonly moments = computed((): readonly Ticks[] => {
    const here = this.captured
      .notes()
      .flatMap(({ moment }) => (moment?.section === this.section()?.id ? [moment] : []));
    const last = here.at(-1);
    return here
      .filter((moment) => moment?.occurrence === last?.occurrence && moment?.round === last?.round)
      .flatMap((moment) => (moment ? [Math.max(0, Math.round(moment.at / SIXTEENTH) * SIXTEENTH)] : []));
  });
  readonly ready = computed(() => this.moments().length > 0);

  take(): void {
    const moments = this.moments();
    this.patterns.edit('start loops where it was played', (pattern) =>
      pattern.of === 'loops' ? startedAt(pattern, moments) : pattern,
    );
  }
}
