import type { Note } from './schema';

/** As many versions of one thing are kept: what a dragged slider passes on its way is let go again. */
const KEPT = 6;

/**
 * Remembers what a stage makes of something that never changes, such as a list of notes: it is known by its identity,
 * whatever else the result depends on is told by a name.
 *
 * @param kept  results of one thing that are remembered at most; those looked for longest ago give way
 * @returns what gives the result for a thing and a name, made only once while it is remembered
 */
export function remembering<Made = readonly Note[]>(kept = KEPT): (of: object, name: string, make: () => Made) => Made {
  const known = new WeakMap<object, Map<string, Made>>();
  return (of, name, make) => {
    const byName = known.get(of) ?? new Map<string, Made>();
    known.set(of, byName);
    const found = byName.get(name) ?? make();
    byName.delete(name);
    byName.set(name, found);
    const [oldest] = byName.keys();
    if (byName.size > kept && oldest !== undefined) byName.delete(oldest);
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
