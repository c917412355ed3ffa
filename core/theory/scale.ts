import { intervalOf, maskOf, pitchClassOf, type Fifths } from './pitch';
import { modulo, type PitchClassMask } from './units';

/** A scale by its trade name; degrees are spelled against the major scale. */
export interface Scale {
  readonly id: string;
  readonly name: string;
  readonly family: string;
  readonly degrees: readonly string[];
  /** Degrees as distances on the line of fifths. */
  readonly fifths: readonly Fifths[];
  /** Degrees as semitones above the tonic, rising. */
  readonly semitones: readonly number[];
  readonly mask: PitchClassMask;
}

const TABLE: readonly (readonly [family: string, name: string, degrees: string])[] = [
  ['Diatonic modes', 'Major', '1 2 3 4 5 6 7'],
  ['Diatonic modes', 'Dorian', '1 2 b3 4 5 6 b7'],
  ['Diatonic modes', 'Phrygian', '1 b2 b3 4 5 b6 b7'],
  ['Diatonic modes', 'Lydian', '1 2 3 #4 5 6 7'],
  ['Diatonic modes', 'Mixolydian', '1 2 3 4 5 6 b7'],
  ['Diatonic modes', 'Minor', '1 2 b3 4 5 b6 b7'],
  ['Diatonic modes', 'Locrian', '1 b2 b3 4 b5 b6 b7'],
  ['Harmonic minor and its modes', 'Harmonic minor', '1 2 b3 4 5 b6 7'],
  ['Harmonic minor and its modes', 'Locrian natural 6', '1 b2 b3 4 b5 6 b7'],
  ['Harmonic minor and its modes', 'Ionian augmented', '1 2 3 4 #5 6 7'],
  ['Harmonic minor and its modes', 'Dorian sharp 4', '1 2 b3 #4 5 6 b7'],
  ['Harmonic minor and its modes', 'Phrygian dominant', '1 b2 3 4 5 b6 b7'],
  ['Harmonic minor and its modes', 'Lydian sharp 2', '1 #2 3 #4 5 6 7'],
  ['Harmonic minor and its modes', 'Ultralocrian', '1 b2 b3 b4 b5 b6 bb7'],
  ['Melodic minor and its modes', 'Melodic minor', '1 2 b3 4 5 6 7'],
  ['Melodic minor and its modes', 'Dorian flat 2', '1 b2 b3 4 5 6 b7'],
  ['Melodic minor and its modes', 'Lydian augmented', '1 2 3 #4 #5 6 7'],
  ['Melodic minor and its modes', 'Lydian dominant', '1 2 3 #4 5 6 b7'],
  ['Melodic minor and its modes', 'Mixolydian flat 6', '1 2 3 4 5 b6 b7'],
  ['Melodic minor and its modes', 'Locrian natural 2', '1 2 b3 4 b5 b6 b7'],
  ['Melodic minor and its modes', 'Altered', '1 b2 b3 b4 b5 b6 b7'],
  ['Harmonic major and its modes', 'Harmonic major', '1 2 3 4 5 b6 7'],
  ['Harmonic major and its modes', 'Dorian flat 5', '1 2 b3 4 b5 6 b7'],
  ['Harmonic major and its modes', 'Phrygian flat 4', '1 b2 b3 b4 5 b6 b7'],
  ['Harmonic major and its modes', 'Lydian flat 3', '1 2 b3 #4 5 6 7'],
  ['Harmonic major and its modes', 'Mixolydian flat 2', '1 b2 3 4 5 6 b7'],
  ['Harmonic major and its modes', 'Lydian augmented sharp 2', '1 #2 3 #4 #5 6 7'],
  ['Harmonic major and its modes', 'Locrian double flat 7', '1 b2 b3 4 b5 b6 bb7'],
  ['Double harmonic', 'Double harmonic major', '1 b2 3 4 5 b6 7'],
  ['Double harmonic', 'Hungarian minor', '1 2 b3 #4 5 b6 7'],
  ['Pentatonic', 'Major pentatonic', '1 2 3 5 6'],
  ['Pentatonic', 'Suspended pentatonic', '1 2 4 5 b7'],
  ['Pentatonic', 'Blues minor pentatonic', '1 b3 4 b6 b7'],
  ['Pentatonic', 'Blues major pentatonic', '1 2 4 5 6'],
  ['Pentatonic', 'Minor pentatonic', '1 b3 4 5 b7'],
  ['Pentatonic', 'Dorian pentatonic', '1 2 b3 5 6'],
  ['Pentatonic', 'Dominant pentatonic', '1 2 3 5 b7'],
  ['Pentatonic', 'Hirajoshi', '1 2 b3 5 b6'],
  ['Pentatonic', 'In', '1 b2 4 5 b6'],
  ['Pentatonic', 'Insen', '1 b2 4 5 b7'],
  ['Pentatonic', 'Iwato', '1 b2 4 b5 b7'],
  ['Blues', 'Blues', '1 b3 4 b5 5 b7'],
  ['Blues', 'Major blues', '1 2 b3 3 5 6'],
  ['Bebop', 'Bebop major', '1 2 3 4 5 #5 6 7'],
  ['Bebop', 'Bebop dominant', '1 2 3 4 5 6 b7 7'],
  ['Bebop', 'Bebop dorian', '1 2 b3 3 4 5 6 b7'],
  ['Bebop', 'Bebop melodic minor', '1 2 b3 4 5 #5 6 7'],
  ['Symmetric', 'Whole tone', '1 2 3 #4 #5 b7'],
  ['Symmetric', 'Half-whole diminished', '1 b2 b3 3 #4 5 6 b7'],
  ['Symmetric', 'Whole-half diminished', '1 2 b3 4 b5 b6 6 7'],
  ['Symmetric', 'Augmented', '1 #2 3 5 #5 7'],
  ['Symmetric', 'Chromatic', '1 b2 2 b3 3 4 #4 5 b6 6 b7 7'],
  ['Other', 'Neapolitan minor', '1 b2 b3 4 5 b6 7'],
  ['Other', 'Neapolitan major', '1 b2 b3 4 5 6 7'],
  ['Other', 'Hungarian major', '1 #2 3 #4 5 6 b7'],
  ['Other', 'Persian', '1 b2 3 4 b5 b6 7'],
  ['Other', 'Enigmatic', '1 b2 3 #4 #5 #6 7'],
  ['Other', 'Prometheus', '1 2 3 #4 6 b7'],
  ['Other', 'Spanish eight-tone', '1 b2 b3 3 4 b5 b6 b7'],
];

function makeScale(family: string, name: string, text: string): Scale {
  const degrees = text.split(' ');
  const fifths = degrees.map(intervalOf);
  const semitones = fifths.map(pitchClassOf);
  return {
    id: name.toLowerCase().replaceAll(' ', '-'),
    name,
    family,
    degrees,
    fifths,
    semitones,
    mask: maskOf(semitones),
  };
}

/** Every scale that Fendro knows, by family. */
export const SCALES: readonly Scale[] = TABLE.map((row) => makeScale(...row));

const BY_ID: ReadonlyMap<string, Scale> = new Map(SCALES.map((scale) => [scale.id, scale]));

/** A writer's own scale is written out in its id, so that it goes wherever the song goes: `own:Fog: 1 b2 3 5 b7`. */
const OWN = /^own:([^:]{1,40}): (1(?: (?:bb|b|#)?[2-7]){2,11})$/;
const ownScales = new Map<string, Scale>();

function ownScale(id: string): Scale | null {
  const known = ownScales.get(id);
  if (known) return known;
  const match = OWN.exec(id);
  if (!match) return null;
  const scale = { ...makeScale('Own', match[1] ?? '', match[2] ?? ''), id };
  if (scale.semitones.some((step, index) => index > 0 && step <= (scale.semitones[index - 1] as number))) return null;
  ownScales.set(id, scale);
  return scale;
}

export type OwnScale = { readonly ok: true; readonly id: string } | { readonly ok: false; readonly reason: string };

/**
 * Makes a scale of one's own.
 *
 * @param degrees  rising from 1, such as `1 b2 3 5 b7`
 * @returns the id that stands for it, or in words what is wrong
 */
export function makeOwnScale(name: string, degrees: string): OwnScale {
  const clean = name.trim().replaceAll(':', ' ').slice(0, 40);
  if (clean === '') return { ok: false, reason: 'Give the scale a name.' };
  const steps = degrees
    .trim()
    .replaceAll('♭', 'b')
    .replaceAll('♯', '#')
    .replaceAll(/[\s,]+/g, ' ');
  const id = `own:${clean}: ${steps}`;
  if (ownScale(id)) return { ok: true, id };
  return { ok: false, reason: 'Write three to twelve degrees that rise from 1, such as 1 b2 3 5 b7.' };
}

export const isScaleId = (id: string): boolean => BY_ID.has(id) || ownScale(id) !== null;

/** @throws RangeError when no scale has this id; ids from outside are checked by the song schema */
export function scaleOf(id: string): Scale {
  const scale = BY_ID.get(id) ?? ownScale(id);
  if (!scale) throw new RangeError(`no scale is called “${id}”`);
  return scale;
}

/** A mask turned so that `tonic` becomes bit 0. */
const turn = (mask: PitchClassMask, by: number): PitchClassMask => ((mask >> by) | (mask << (12 - by))) & 0xfff;

/**
 * The modes of a scale: what the same notes are called from each of their degrees.
 *
 * @returns one entry a degree; `scale` is null where the rotation has no trade name
 */
export function modesOf(scale: Scale): readonly { readonly degree: string; readonly scale: Scale | null }[] {
  return scale.degrees.map((degree, index) => {
    const mask = turn(scale.mask, modulo(scale.semitones[index] ?? 0, 12));
    return { degree, scale: SCALES.find((other) => other.mask === mask) ?? null };
  });
}
