import { computed, effect, inject, Injector, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { selectOwnScore } from '../store/selectors';

/** Guides sound in whatever song has some; what plays them is fetched only then. */
export function wakeGuides(): void {
  const [store, injector] = [inject(Store), inject(Injector)];
  const score = store.selectSignal(selectOwnScore);
  const used = computed(() => (score()?.guides?.length ?? 0) > 0);
  effect(() => {
    if (used()) untracked(() => void import('../sound/guide-player').then((m) => injector.get(m.GuidePlayer)));
  });
}
