import { FURTHEST_OCTAVE } from '../song/schema';
import { range, type MidiNote } from '../theory/units';
import type { Instrument } from './instruments';

/** Whether an instrument can play what is written for it. */
export interface Reach {
  /** How many notes lie beyond it, below and above. */
  readonly below: number;
  readonly above: number;
  /** The octave in which fewest lie beyond it, the nearest of several; null where there is none better. */
  readonly better: number | null;
}

/** What an instrument cannot play of some notes, where it sounds some octaves away from them. */
export function reachOf(
  pitches: readonly MidiNote[],
  { low, high }: Pick<Instrument, 'low' | 'high'>,
  octave: number,
): Reach {
  const belowIn = (by: number): number => pitches.filter((pitch) => pitch + 12 * by < low).length;
  const aboveIn = (by: number): number => pitches.filter((pitch) => pitch + 12 * by > high).length;
  const beyondIn = (by: number): number => belowIn(by) + aboveIn(by);
  const [below, above] = [belowIn(octave), aboveIn(octave)];
  if (below + above === 0) return { below, above, better: null };
  const others = range(2 * FURTHEST_OCTAVE + 1)
    .map((index) => index - FURTHEST_OCTAVE)
    .sort((a, b) => beyondIn(a) - beyondIn(b) || Math.abs(a - octave) - Math.abs(b - octave));
  const [best = octave] = others;
  return { below, above, better: beyondIn(best) < below + above ? best : null };
}
