import type { ChordSpan } from '../song/schema';
import type { Chord } from '../theory/chord';
import type { Ticks } from '../theory/units';

/**
 * Finds the chord that began last at a moment or before it, quickly (by bisection): studies ask for every note.
 *
 * @param chords  in order of their starts
 * @returns null before the first chord, and where nothing sounds
 */
export function chordFinder(chords: readonly ChordSpan[]): (at: Ticks) => Chord | null {
  return (at) => {
    let [low, high] = [0, chords.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((chords[middle]?.start ?? 0) <= at) low = middle + 1;
      else high = middle;
    }
    return chords[low - 1]?.chord ?? null;
  };
}
