import type { Take, TakeId } from './schema';

/** Takes that are called by numbers of their own, wherever they came from. */
const OWN: ReadonlySet<Take['origin']['how']> = new Set(['drafted', 'imported', 'caught', 'played']);

/** What came to be by itself, or was begun as a pattern; all else goes by what it was made of. */
const hasItsOwn = ({ how, parents }: Take['origin']): boolean =>
  OWN.has(how) || (how === 'drawn' && parents.length === 0);

/**
 * The numbers that the takes of a line are called by, for good: drafted, imported, caught and played ones and patterns in the
 * order in which they came. What was edited, typed or fitted, and a pattern drawn otherwise, goes by the number of what
 * it was made of, where that has one.
 *
 * @param line  all takes of one line of a section, in order
 */
export function takeNumbers(line: readonly Take[]): ReadonlyMap<TakeId, number> {
  const numbers = new Map<TakeId, number>();
  let last = 0;
  for (const { id, origin } of line) {
    const number = hasItsOwn(origin) ? ++last : numbers.get(origin.parents[0] ?? '');
    if (number !== undefined) numbers.set(id, number);
  }
  return numbers;
}
