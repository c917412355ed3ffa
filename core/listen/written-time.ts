import { beatsOf as beatsOfBar, type Metre } from '../theory/metre';
import { TICKS_PER_QUARTER, type Ticks } from '../theory/units';
import type { Bars } from './bars';
import type { HeardNote } from './heard-note';

/** Moments of a recording as ticks of bars: beats stand where they were heard, what lies between them goes evenly. */
export interface WrittenTime {
  readonly metre: Metre;
  /** Where each beat stands, in seconds; the first one is tick 0, the first bar line. */
  readonly times: readonly number[];
  /** Ticks of a beat. */
  readonly beat: Ticks;
}

/** A note may come so much before the first bar line and still begin on it, in seconds. */
const EARLY = 0.09;

/** How recordings may be written: bars of beats that are all of one length. */
export const HEARD_METRES: readonly Metre[] = [
  { beats: 2, unit: 4, groups: [2] },
  { beats: 3, unit: 4, groups: [3] },
  { beats: 4, unit: 4, groups: [2, 2] },
  { beats: 5, unit: 4, groups: [3, 2] },
  { beats: 6, unit: 8, groups: [3, 3] },
  { beats: 9, unit: 8, groups: [3, 3, 3] },
  { beats: 12, unit: 8, groups: [3, 3, 3, 3] },
];

/** Beats that are counted in a bar: dotted quarters in 6/8. */
export const countedIn = (metre: Metre): number => beatsOfBar(metre).length;

/** Ticks of a counted beat. */
export const beatTicks = (metre: Metre): Ticks => beatsOfBar(metre)[0]?.length ?? TICKS_PER_QUARTER;

/**
 * Writes bars so that the first of them holds the first note.
 */
export function writtenTime(
  { beats: { times }, count, first }: Bars,
  notes: readonly HeardNote[],
  metre: Metre,
): WrittenTime {
  const start = (notes[0]?.start ?? 0) + EARLY;
  let line = first;
  while ((times[line + count] ?? Number.POSITIVE_INFINITY) <= start) line += count;
  while (line >= count && (times[line] ?? 0) > start) line -= count;
  return { metre, times: times.slice(line), beat: beatTicks(metre) };
}

/** The tick of a moment, between ticks; before the first bar line and behind the last beat it goes on evenly. */
export function tickAt({ times, beat }: WrittenTime, seconds: number): number {
  let [low, high] = [0, Math.max(0, times.length - 2)];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if ((times[middle] as number) <= seconds) low = middle;
    else high = middle - 1;
  }
  const [from, to] = [times[low] ?? 0, times[low + 1] ?? (times[low] ?? 0) + 0.5];
  return beat * (low + (seconds - from) / (to - from));
}

/** Quarter notes a minute from one beat of the writing to a later one. */
export const tempoBetween = ({ times, beat }: WrittenTime, from: number, to: number): number => {
  const seconds = (times[to] ?? 0) - (times[from] ?? 0);
  return seconds > 0 ? (60 * (to - from) * beat) / TICKS_PER_QUARTER / seconds : 120;
};
