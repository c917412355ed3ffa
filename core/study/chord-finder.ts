import type { ChordSpan } from '../song/schema';
import type { Chord } from '../theory/chord';
import { countLeading, type Ticks } from '../theory/units';

/**
 * Finds the chord that began last at a moment or before it, quickly (by bisection): studies ask for every note.
 *
 * @param chords  in order of their starts
 * @returns null before the first chord, and where nothing sounds
 */
export function chordFinder(chords: readonly ChordSpan[]): (at: Ticks) => Chord | null {
  return (at) => chords[countLeading(chords, ({ start }) => start <= at) - 1]?.chord ?? null;
}
