import type { Take, TakeId } from './schema';

/**
 * The numbers that the takes of a line are called by, for good: drafted and imported ones in the order in which they
 * came. What was edited, typed or fitted goes by the number of what it was made of, where that has one.
 *
 * @param line  all takes of one line of a section, in order
 */
export function takeNumbers(line: readonly Take[]): ReadonlyMap<TakeId, number> {
  const numbers = new Map<TakeId, number>();
  let last = 0;
  for (const { id, origin } of line) {
    const counts = origin.how === 'drafted' || origin.how === 'imported';
    const number = counts ? ++last : numbers.get(origin.parents[0] ?? '');
    if (number !== undefined) numbers.set(id, number);
  }
  return numbers;
}
