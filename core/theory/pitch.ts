import { modulo, range, type MidiNote, type PitchClass, type PitchClassMask, type Semitones } from './units';

/**
 * A spelled pitch class as its place on the line of fifths: … B♭ −2, F −1, C 0, G 1, D 2 …
 * Intervals are differences on the same line, so transposing keeps the right spelling by plain addition.
 */
export type Fifths = number;

const LETTERS = 'FCGDAEB';
const NATURALS: Readonly<Record<string, Fifths>> = { F: -1, C: 0, G: 1, D: 2, A: 3, E: 4, B: 5 };

export const pitchClassOf = (spelled: Fifths): PitchClass => modulo(spelled * 7, 12);

const letterOf = (spelled: Fifths): string => LETTERS.charAt(modulo(spelled + 1, 7));

/** Sharps (positive) or flats (negative) on the letter. */
const alterationOf = (spelled: Fifths): number => Math.floor((spelled + 1) / 7);

const accidental = (count: number, sharp: string, flat: string): string =>
  count >= 0 ? sharp.repeat(count) : flat.repeat(-count);

/** Plain text as typed on a keyboard: `Bb`, `F##`. */
export const typedName = (spelled: Fifths): string => letterOf(spelled) + accidental(alterationOf(spelled), '#', 'b');

/** Printed text with real accidentals: `B♭`, `F𝄪`. */
export const printedName = (spelled: Fifths): string =>
  letterOf(spelled) + accidental(alterationOf(spelled), '♯', '♭').replaceAll('♯♯', '𝄪').replaceAll('♭♭', '𝄫');

/**
 * Reads a note name such as `Eb`, `e♭`, `F##`, `Fx`.
 *
 * @returns its place on the line of fifths, or null when the text is no note name
 */
export function readName(text: string): Fifths | null {
  const match = /^([A-Ga-g])((?:#|♯|b|♭|x|𝄪|𝄫)*)$/u.exec(text.trim());
  if (!match) return null;
  const signs = [...(match[2] ?? '')];
  const steps = signs.map((sign) => ({ '#': 1, '♯': 1, b: -1, '♭': -1, x: 2, '𝄪': 2, '𝄫': -2 })[sign] ?? 0);
  const alteration = steps.reduce((total, step) => total + step, 0);
  const natural = NATURALS[(match[1] ?? '').toUpperCase()];
  return natural === undefined || Math.abs(alteration) > 3 ? null : natural + 7 * alteration;
}

/** Distance from the root of each unaltered degree on the line of fifths. */
const DEGREE_FIFTHS: readonly Fifths[] = [0, 2, 4, -1, 1, 3, 5];

/**
 * The interval a degree label stands for: `1`, `b3`, `#11`, `bb7` …
 *
 * @returns its width on the line of fifths
 * @throws RangeError for text that is no degree label
 */
export function intervalOf(label: string): Fifths {
  const match = /^(b*|#*)(\d+)$/.exec(label);
  const number = Number(match?.[2] ?? 0);
  if (!match || number < 1 || number > 14) throw new RangeError(`“${label}” is no degree`);
  const signs = match[1] ?? '';
  const alteration = signs.startsWith('b') ? -signs.length : signs.length;
  return (DEGREE_FIFTHS[(number - 1) % 7] ?? 0) + 7 * alteration;
}

/** Semitones above the root of a degree label, within one octave. */
export const semitonesOf = (label: string): PitchClass => pitchClassOf(intervalOf(label));

/**
 * The interval on the line of fifths that musicians write for a number of semitones: a minor third rather than an
 * augmented second.
 */
export const spellSemitones = (by: number): Fifths => {
  const step = modulo(by, 12);
  return intervalOf(['1', 'b2', '2', 'b3', '3', '4', '#4', '5', 'b6', '6', 'b7', '7'][step] ?? '1');
};

/** The degree label (1–7 with accidentals) of an interval on the line of fifths. */
export function degreeLabel(interval: Fifths): string {
  const number = DEGREE_FIFTHS.findIndex((natural) => modulo(natural - interval, 7) === 0) + 1;
  return `${accidental((interval - (DEGREE_FIFTHS[number - 1] ?? 0)) / 7, '#', 'b')}${number}`;
}

export const maskOf = (pitchClasses: readonly PitchClass[]): PitchClassMask =>
  pitchClasses.reduce((mask, pitchClass) => mask | (1 << modulo(pitchClass, 12)), 0);

export const inMask = (mask: PitchClassMask, pitch: MidiNote | PitchClass): boolean =>
  (mask & (1 << modulo(pitch, 12))) !== 0;

/** How many pitch classes a set holds. */
export const sizeOfMask = (mask: PitchClassMask): number =>
  range(12).filter((pitchClass) => inMask(mask, pitchClass)).length;

/** A set of pitch classes transposed up. */
export const turnedMask = (mask: PitchClassMask, by: Semitones | PitchClass): PitchClassMask =>
  ((mask << modulo(by, 12)) | (mask >> (12 - modulo(by, 12)))) & 0xfff;

/** Octave as written: middle C is in octave 4. A C♭ belongs to the octave of the B it is spelled from above. */
export function octaveOf(pitch: MidiNote, spelled: Fifths): number {
  return Math.floor((pitch - alterationOf(spelled)) / 12) - 1;
}

/** A note's printed name with its octave, such as `E♭4`. */
export const pitchName = (pitch: MidiNote, spelled: Fifths): string =>
  `${printedName(spelled)}${octaveOf(pitch, spelled)}`;
