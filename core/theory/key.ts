import { pitchClassOf, sizeOfMask, turnedMask, type Fifths } from './pitch';
import { scaleOf, type Scale } from './scale';
import { modulo, range, type PitchClass, type PitchClassMask, type Semitones } from './units';

export interface Key {
  readonly tonic: Fifths;
  /** A scale's id. */
  readonly scale: string;
}

/** The key's pitch classes as a set. */
export const keyMask = (key: Key): PitchClassMask => turnedMask(scaleOf(key.scale).mask, pitchClassOf(key.tonic));

/** True where two keys have one tonic and one scale, however they are spelled. */
export const isSameKey = (a: Key, b: Key): boolean =>
  pitchClassOf(a.tonic) === pitchClassOf(b.tonic) && a.scale === b.scale;

/** Nearest way from one tonic to another, in semitones from −5 to 6. */
export function semitonesBetween(from: Key, to: Key): Semitones {
  const up = modulo(pitchClassOf(to.tonic) - pitchClassOf(from.tonic), 12);
  return up > 6 ? up - 12 : up;
}

/** The scale's notes from the tonic up, spelled. */
export const keyNotes = (key: Key): Fifths[] => scaleOf(key.scale).fifths.map((interval) => key.tonic + interval);

/**
 * Spells a pitch class in a key: its own notes as the scale spells them, others by the shortest way on the line of
 * fifths from the middle of the key's notes, so that flats stay with flat keys and sharps with sharp ones.
 */
export function spellIn(key: Key, pitchClass: PitchClass): Fifths {
  const wanted = modulo(pitchClass, 12);
  const own = keyNotes(key).find((note) => pitchClassOf(note) === wanted);
  if (own !== undefined) return own;
  const middle = key.tonic + (isMinorish(scaleOf(key.scale)) ? -1 : 1);
  const candidates = range(36)
    .map((index) => index - 18)
    .filter((note) => pitchClassOf(note) === wanted);
  return candidates.reduce((best, note) => (Math.abs(note - middle) < Math.abs(best - middle) ? note : best));
}

/** Scales whose third is minor behave like a minor key: signature, default dialect. */
export const isMinorish = (scale: Scale): boolean => !scale.degrees.includes('3') && scale.degrees.includes('b3');

/** The twelve tonics, each in the spelling that needs fewest accidentals in this scale. */
export function tonicsFor(scaleId: string): readonly Fifths[] {
  const cost = (tonic: Fifths): number =>
    scaleOf(scaleId).fifths.reduce((total, interval) => total + Math.max(0, Math.abs(tonic + interval - 2) - 3), 0);
  return range(12).map((pitchClass) =>
    range(17)
      .map((index) => index - 7)
      .filter((tonic) => pitchClassOf(tonic) === pitchClass)
      .reduce((best, tonic) => (cost(tonic) < cost(best) ? tonic : best)),
  );
}

/**
 * The key signature of the MIDI standard: its accidentals are those of the scale's nearest diatonic mode
 * (E♭ mixolydian has four flats), its mode bit is set where the third is minor.
 *
 * @returns sharps (positive) or flats (negative), −7 to 7, and the mode
 */
export function keySignature(key: Key): { readonly accidentals: number; readonly minor: boolean } {
  const scale = scaleOf(key.scale);
  const minor = isMinorish(scale);
  const common = (mode: string): number => sizeOfMask(scale.mask & scaleOf(mode).mask);
  const modes = minor ? MINOR_MODES : MAJOR_MODES;
  const nearest = modes.reduce((best, mode) => (common(mode.id) > common(best.id) ? mode : best));
  const accidentals = key.tonic + nearest.accidentals;
  const wrapped = accidentals > 7 ? accidentals - 12 : accidentals < -7 ? accidentals + 12 : accidentals;
  return { accidentals: wrapped, minor };
}

const MAJOR_MODES = [
  { id: 'major', accidentals: 0 },
  { id: 'mixolydian', accidentals: -1 },
  { id: 'lydian', accidentals: 1 },
] as const;
const MINOR_MODES = [
  { id: 'minor', accidentals: -3 },
  { id: 'dorian', accidentals: -2 },
  { id: 'phrygian', accidentals: -4 },
  { id: 'locrian', accidentals: -5 },
] as const;
