import type { Note } from '../song/schema';

/** As many versions of one list of notes are kept: what a dragged slider passes on its way is let go again. */
const KEPT = 6;

/**
 * Remembers what a stage makes of notes. Lists of notes never change, so they are known by their identity; whatever else
 * the result depends on is told by a name.
 *
 * @returns what gives the result for notes and a name, made only once while it is remembered
 */
export function remembering(): (notes: readonly Note[], name: string, make: () => readonly Note[]) => readonly Note[] {
  const known = new WeakMap<readonly Note[], Map<string, readonly Note[]>>();
  return (notes, name, make) => {
    const byName = known.get(notes) ?? new Map<string, readonly Note[]>();
    known.set(notes, byName);
    const found = byName.get(name) ?? make();
    byName.delete(name);
    byName.set(name, found);
    const [oldest] = byName.keys();
    if (byName.size > KEPT && oldest !== undefined) byName.delete(oldest);
    return found;
  };
}

const numbers = new WeakMap<object, number>();
let last = 0;

/** A number for each object that never changes, so that it can stand in a name: another object, another number. */
export function numberOf(thing: object): number {
  const number = numbers.get(thing) ?? ++last;
  numbers.set(thing, number);
  return number;
}
