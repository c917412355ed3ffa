import { chordNotes, type Chord } from '../theory/chord';
import { keyNotes, spellIn, type Key } from '../theory/key';
import { pitchClassOf, type Fifths } from '../theory/pitch';
import { modulo, type MidiNote } from '../theory/units';

/** A note of a line, with what sounds under it and what comes next. */
export interface InContext {
  readonly pitch: MidiNote;
  readonly chord: Chord | null;
  readonly key: Key;
  /** The note after it; null at the end. */
  readonly next: MidiNote | null;
}

/** Further than this on the line of fifths from the key's middle are names that nobody wants to read: B♯, F♭♭. */
const FURTHEST = 8;

/** A semitone below the note that it leads to is written a letter below, one above it a letter above. */
function leadingTo(pitch: MidiNote, next: MidiNote | null, key: Key): Fifths | null {
  if (next === null || Math.abs(next - pitch) !== 1) return null;
  const goal = spellIn(key, modulo(next, 12));
  const spelled = next > pitch ? goal + 5 : goal - 5;
  return Math.abs(spelled - (key.tonic + 1)) <= FURTHEST ? spelled : null;
}

/**
 * Spells a note as a trained musician does: notes of the chord as the chord has them, notes of the key as the key has
 * them, others by where they lead.
 */
export function spelledNote({ pitch, chord, key, next }: InContext): Fifths {
  const pitchClass = modulo(pitch, 12);
  const isIt = (note: Fifths): boolean => pitchClassOf(note) === pitchClass;
  const own = keyNotes(key).find(isIt);
  const inChord = chord ? chordNotes(chord).find(isIt) : undefined;
  if (inChord !== undefined && Math.abs(inChord - (key.tonic + 1)) <= FURTHEST) return inChord;
  return own ?? leadingTo(pitch, next, key) ?? spellIn(key, pitchClass);
}
