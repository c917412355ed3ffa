import { chordMask, makeChord, type Chord } from './chord';
import { inMask, pitchClassOf } from './pitch';
import { modulo, range, type PitchClassMask } from './units';

/** Sevenths, ninths and sixths above a root, by semitones. */
const COLOURS: Readonly<Record<number, string>> = { 2: '9', 9: '13', 10: 'b7', 11: '7' };

/** Notes that colour a chord without rubbing against it: none a semitone above one of its own. */
export function coloursOver(chord: Chord): PitchClassMask {
  const found = known.get(chord) ?? findColours(chord);
  known.set(chord, found);
  return found;
}

/** Chords never change, and every note asks for the colours of its own. */
const known = new WeakMap<Chord, PitchClassMask>();

function findColours(chord: Chord): PitchClassMask {
  const mask = chordMask(chord);
  const root = pitchClassOf(chord.root);
  return range(12)
    .filter((pitchClass) => !inMask(mask, pitchClass) && !inMask(mask, modulo(pitchClass - 1, 12)))
    .filter((pitchClass) => modulo(pitchClass - root, 12) in COLOURS)
    .reduce((colours, pitchClass) => colours | (1 << pitchClass), 0);
}

/** A chord with every way to colour it by one more note of some set. */
export const colouredChords = (chord: Chord, allowed: PitchClassMask): Chord[] =>
  Object.entries(COLOURS).flatMap(([semitones, label]) => {
    const pitchClass = modulo(pitchClassOf(chord.root) + Number(semitones), 12);
    if (!inMask(coloursOver(chord) & allowed, pitchClass)) return [];
    return [{ ...makeChord(chord.root, [...chord.tones, label]), bass: chord.bass }];
  });
