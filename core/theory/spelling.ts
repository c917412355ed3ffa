import { makeChord, type Chord } from './chord';
import { keyNotes, spellIn, type Key } from './key';
import { degreeLabel, intervalOf, pitchClassOf, type Fifths } from './pitch';
import { modulo } from './units';

/**
 * The degrees that chords outside the key are written on, by semitones above the tonic: flats for what is borrowed or
 * slides down (♭II, ♭III, ♭VI, ♭VII), a sharp for the raised fourth.
 */
const CHROMATIC = ['1', 'b2', '2', 'b3', '3', '4', '#4', '5', 'b6', '6', 'b7', '7'] as const;
/** Diminished chords lead upwards and are written on the raised degree below their goal. */
const LEADING = ['1', '#1', '2', '#2', '3', '4', '#4', '5', '#5', '6', '#6', '7'] as const;
/** Other spellings that mean something of their own, and stay as typed. */
const MEANINGFUL: ReadonlySet<string> = new Set(['b5', '#1', '#4', '#5', 'b2', 'b3', 'b6', 'b7']);

const isDiminished = ({ tones }: Chord): boolean => tones.includes('b3') && tones.includes('b5');

function rootIn(chord: Chord, key: Key): Fifths {
  const pitchClass = pitchClassOf(chord.root);
  const own = keyNotes(key).find((note) => pitchClassOf(note) === pitchClass);
  if (own !== undefined) return own;
  const label = degreeLabel(chord.root - key.tonic);
  const minorOrDiminished = chord.tones.includes('b3');
  // A sharp root under a major or dominant chord is mostly a flat one typed on the nearest key.
  if (MEANINGFUL.has(label) && (minorOrDiminished || label.startsWith('b') || label === '#4')) return chord.root;
  const table = isDiminished(chord) ? LEADING : CHROMATIC;
  return key.tonic + intervalOf(table[modulo(pitchClass - pitchClassOf(key.tonic), 12)] ?? '1');
}

/**
 * Spells a chord as a trained musician writes it in a key: roots of the key as the key spells them, others by what they
 * do, the bass as the chord note that it is. What sounds stays the same.
 */
export function spellChord(chord: Chord, key: Key): Chord {
  const root = rootIn(chord, key);
  if (chord.bass === null) return root === chord.root ? chord : makeChord(root, chord.tones);
  const wanted = pitchClassOf(chord.bass);
  const tone = chord.tones.find((label) => pitchClassOf(root + intervalOf(label)) === wanted);
  const bass = tone === undefined ? spellIn(key, wanted) : root + intervalOf(tone);
  return root === chord.root && bass === chord.bass ? chord : makeChord(root, chord.tones, bass);
}
