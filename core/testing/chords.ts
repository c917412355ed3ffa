import type { ChordSpan } from '../song/schema';
import { readChord } from '../theory/read-chord';
import type { Ticks } from '../theory/units';

/** Chords as they are typed, one a bar. */
export const chordsOf = (text: string, bar: Ticks): ChordSpan[] =>
  text.split(' ').map((symbol, index) => {
    const read = readChord(symbol);
    if (!read.ok) throw new Error(`no chord: ${symbol}`);
    return { start: index * bar, duration: bar, chord: read.chord };
  });
