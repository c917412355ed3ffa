import type { Take, Verdict } from '../song/schema';
import type { Ticks } from '../theory/units';
import { chordFeatures, distance, noteFeatures, type Features } from './features';

/** Orders in which the takes of a line can stand. */
export const TAKE_ORDERS = ['as drafted', 'kept first', 'sparse to busy', 'low to high', 'like one'] as const;
export type TakeOrder = (typeof TAKE_ORDERS)[number];

/** What orders go by beside the takes. */
interface Beside {
  readonly bar: Ticks;
  readonly verdictOf: (take: Take) => Verdict | null;
  /** What the others are more or less like; null where there is none. */
  readonly like: Take | null;
}

const RANK: Readonly<Record<Verdict, number>> = { kept: 0, discarded: 2 };

const featuresOf = (take: Take, bar: Ticks): Features =>
  take.of === 'part' ? noteFeatures(take.notes, take.length, bar) : chordFeatures(take.chords, take.length, bar);

/** Onsets of a take, struck together counted once; chords that sound, for chords. */
const busyness = (take: Take): number =>
  take.of === 'part'
    ? new Set(take.notes.map(({ start }) => start)).size / take.length
    : take.chords.filter(({ chord }) => chord !== null).length / take.length;

/** The mean pitch; for chords the mean of their roots on the line of fifths, flat to sharp. */
function height(take: Take): number {
  const values =
    take.of === 'part'
      ? take.notes.map(({ pitch }) => pitch)
      : take.chords.flatMap(({ chord }) => (chord ? [chord.root] : []));
  return values.reduce((sum, value) => sum + value, 0) / Math.max(1, values.length);
}

/** Takes in an order; where it says nothing they stay as they were. */
export function inTakeOrder(
  takes: readonly Take[],
  order: TakeOrder,
  { bar, verdictOf, like }: Beside,
): readonly Take[] {
  const by = (value: (take: Take) => number): readonly Take[] => {
    const values = new Map(takes.map((take) => [take, value(take)]));
    return [...takes].sort((a, b) => (values.get(a) ?? 0) - (values.get(b) ?? 0));
  };
  switch (order) {
    case 'as drafted':
      return takes;
    case 'kept first':
      return by((take) => RANK[verdictOf(take) ?? 'discarded'] - (verdictOf(take) === null ? 1 : 0));
    case 'sparse to busy':
      return by(busyness);
    case 'low to high':
      return by(height);
    case 'like one': {
      if (!like) return takes;
      const wanted = featuresOf(like, bar);
      return by((take) => (take.id === like.id ? -1 : distance(featuresOf(take, bar), wanted)));
    }
  }
}
