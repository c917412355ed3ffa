import type { Chord } from '../theory/chord';
import type { Key } from '../theory/key';
import { inMask, pitchClassOf } from '../theory/pitch';
import { modulo, type MidiNote } from '../theory/units';
import { walkable, type OfferedChord } from './chords-offered';

/**
 * The note nearest to a key that does not rub against the chord under the hand; of two as near, the lower one.
 *
 * @param chord  null where none is known: then the key of the music decides
 */
export function fittedTo(pitch: MidiNote, chord: Chord | null, key: Key): MidiNote {
  const mask = walkable(chord, key);
  // No scale leaves out more than a few notes in a row.
  const near = [0, -1, 1, -2, 2, -3, 3, -4, 4, -5, 5, -6, 6].map((off) => pitch + off);
  return near.find((candidate) => inMask(mask, candidate) && candidate >= 0 && candidate <= 127) ?? pitch;
}

/** How many semitones lie between two pitch classes, the shorter way round. */
const apart = (a: number, b: number): number => Math.min(modulo(a - b, 12), modulo(b - a, 12));

/**
 * The place of the chord that a key of the left hand means: the first that is offered on its note, else the one whose
 * root lies nearest to it; -1 where nothing is offered.
 */
export function chordOn(pitch: MidiNote, offered: readonly OfferedChord[]): number {
  const distances = offered.map(({ chord }) => apart(pitchClassOf(chord.root), pitch));
  return distances.indexOf(Math.min(...distances));
}
