import { computed, effect, linkedSignal, untracked, type Signal } from '@angular/core';

interface Shown {
  readonly count: number;
  /** What the list begins with: with another beginning it is another list. */
  readonly first: unknown;
}

/**
 * A long list that comes to the page some items at a time, a picture after the other, so that none of its steps holds
 * the page up. Called where injection is possible.
 *
 * @param atOnce  how many come at a time
 * @param keyOf   what tells an item from others
 * @returns the items that have come so far
 */
export function growing<T>(
  list: Signal<readonly T[]>,
  atOnce: number,
  keyOf: (item: T) => unknown,
): Signal<readonly T[]> {
  const shown = linkedSignal<readonly T[], Shown>({
    source: list,
    computation: (items, before) => {
      const first = items[0] === undefined ? undefined : keyOf(items[0]);
      return before && before.value.first === first ? before.value : { first, count: atOnce };
    },
  });
  effect(() => {
    const { count } = shown();
    if (count >= list().length) return;
    untracked(() => {
      requestAnimationFrame(() => {
        shown.update((now) => ({ ...now, count: Math.max(now.count, count + atOnce) }));
      });
    });
  });
  return computed(() => {
    const { count } = shown();
    return count >= list().length ? list() : list().slice(0, count);
  });
}
