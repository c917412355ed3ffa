import { intervalOf, maskOf, pitchClassOf, printedName, type Fifths } from './pitch';
import type { PitchClassMask } from './units';

/**
 * A chord as its root, the degrees that sound over it (`1`, `b3`, `5`, `b7`, `#11` …, in rising order of number) and
 * the bass note where it differs from the root.
 */
export interface Chord {
  readonly root: Fifths;
  readonly tones: readonly string[];
  readonly bass: Fifths | null;
}

const degreeNumber = (label: string): number => Number(/\d+/.exec(label)?.[0] ?? 0);

/** Degrees in the one order in which they are stored. */
const sortTones = (tones: Iterable<string>): string[] =>
  [...new Set(tones)].sort((a, b) => degreeNumber(a) - degreeNumber(b) || intervalOf(a) - intervalOf(b));

export const makeChord = (root: Fifths, tones: Iterable<string>, bass: Fifths | null = null): Chord => ({
  root,
  tones: sortTones(tones),
  bass: bass === root ? null : bass,
});

/** The chord's notes, spelled, in the order of its degrees; a foreign bass note comes first. */
export function chordNotes(chord: Chord): Fifths[] {
  const notes = chord.tones.map((tone) => chord.root + intervalOf(tone));
  return chord.bass === null || notes.includes(chord.bass) ? notes : [chord.bass, ...notes];
}

/** Memoised by identity: chords are immutable and asked for their masks in inner loops. */
const masks = new WeakMap<Chord, PitchClassMask>();

/** The pitch classes of a chord, its bass note included. */
export function chordMask(chord: Chord): PitchClassMask {
  const known = masks.get(chord);
  if (known !== undefined) return known;
  const mask = maskOf(chordNotes(chord).map(pitchClassOf));
  masks.set(chord, mask);
  return mask;
}

export const transposeChord = (chord: Chord, by: Fifths): Chord => ({
  ...chord,
  root: chord.root + by,
  bass: chord.bass === null ? null : chord.bass + by,
});

export const sameChord = (a: Chord, b: Chord): boolean =>
  a.root === b.root && a.bass === b.bass && a.tones.join() === b.tones.join();

/** The chord's quality in the one spelling that Fendro prints: `m7`, `maj9`, `7♯11`, `sus4`. */
export function qualitySymbol(tones: readonly string[]): string {
  const has = (tone: string): boolean => tones.includes(tone);
  const used = new Set<string>(['1']);
  const take = (...wanted: string[]): boolean => {
    const all = wanted.every(has);
    if (all) for (const tone of wanted) used.add(tone);
    return all;
  };

  const major = !has('b3') && has('3') && take('3');
  const minor = !major && take('b3');
  const fifth = take('5');
  const half = minor && !fifth && has('b7') && take('b5');
  const diminished = minor && !fifth && !half && take('b5');
  const augmented = major && !fifth && !has('b5') && take('#5');
  const suspended = !major && !minor ? (take('4') ? 'sus4' : take('2') ? 'sus2' : '') : '';
  const power = !major && !minor && suspended === '' && fifth;

  const seventh = take('7') ? 'maj' : take('b7') ? 'b7' : diminished && take('bb7') ? 'dim7' : '';
  let number = seventh === '' ? '' : '7';
  if (seventh !== '' && seventh !== 'dim7' && take('9')) {
    number = '9';
    if (has('13') && (!minor || has('11'))) number = (take('13'), take('11'), '13');
    else if (take('11')) number = '11';
  }
  if (seventh === '' && take('6')) number = take('9') ? '6/9' : '6';

  let symbol = diminished ? 'dim' : minor ? 'm' : augmented && seventh === '' ? 'aug' : '';
  symbol += (seventh === 'maj' ? 'maj' : '') + number;
  if (power) symbol += seventh === '' && number === '' ? '5' : 'no3';
  symbol += suspended;
  if (half) symbol += '♭5';
  if (augmented && seventh !== '') symbol += '♯5';

  const left = tones.filter((tone) => !used.has(tone));
  for (const tone of left) {
    const altered = tone.startsWith('b') || tone.startsWith('#');
    const printed = tone.replaceAll('b', '♭').replaceAll('#', '♯');
    const plain = altered && degreeNumber(tone) !== 7 && degreeNumber(tone) !== 3;
    symbol += plain && (symbol !== '' || degreeNumber(tone) === 5) ? printed : `add${printed}`;
  }
  if (!major && !minor && suspended === '' && !power) symbol += 'no3';
  if (!fifth && !has('b5') && !has('#5')) symbol += 'no5';
  return symbol;
}

/** A chord's printed symbol, such as `E♭m7♭5/G♭`. */
export const chordSymbol = (chord: Chord): string =>
  printedName(chord.root) + qualitySymbol(chord.tones) + (chord.bass === null ? '' : `/${printedName(chord.bass)}`);

/** Text for “nothing sounds here”. */
export const NO_CHORD = 'N.C.';
