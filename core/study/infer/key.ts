import { isMinorish, tonicsFor, type Key } from '../../theory/key';
import { pitchClassOf } from '../../theory/pitch';
import { scaleOf } from '../../theory/scale';
import { modulo, range, TICKS_PER_QUARTER, type MidiNote, type Percent, type Ticks } from '../../theory/units';

/** A note as far as inference needs it. */
export interface PlainNote {
  readonly start: Ticks;
  readonly duration: Ticks;
  readonly pitch: MidiNote;
}

/** A key that notes may be in. */
export interface KeyGuess {
  readonly key: Key;
  /** Share of belief among all keys, in %. */
  readonly confidence: Percent;
}

/** Probe-tone profiles of major and minor keys, from the tonic up (Krumhansl and Kessler, 1982). */
const MAJOR = [6.35, 2.23, 3.48, 2.33, 4.38, 4.09, 2.52, 5.19, 2.39, 3.66, 2.29, 2.88] as const;
const MINOR = [6.33, 2.68, 3.52, 5.38, 2.6, 3.53, 2.54, 4.75, 3.98, 2.69, 3.34, 3.17] as const;

const swapped = (profile: readonly number[], a: number, b: number): readonly number[] =>
  profile.map((value, step) => (step === a ? (profile[b] as number) : step === b ? (profile[a] as number) : value));

/** The modes differ from major and minor in one degree; rarer ones have to show themselves more clearly. */
const PROFILES: readonly {
  readonly scale: string;
  readonly profile: readonly number[];
  readonly prior: number;
  readonly own?: number;
  readonly usual?: number;
}[] = [
  { scale: 'major', profile: MAJOR, prior: 0 },
  { scale: 'minor', profile: MINOR, prior: 0 },
  { scale: 'mixolydian', profile: swapped(MAJOR, 10, 11), prior: 0.07, own: 10, usual: 11 },
  { scale: 'lydian', profile: swapped(MAJOR, 5, 6), prior: 0.12, own: 6, usual: 5 },
  { scale: 'dorian', profile: swapped(MINOR, 8, 9), prior: 0.07, own: 9, usual: 8 },
  { scale: 'phrygian', profile: swapped(MINOR, 1, 2), prior: 0.12, own: 1, usual: 2 },
];
/** How strongly the first and the last bass note speak for a tonic. */
const ENDING = 0.24;
const OPENING = 0.12;
/** What a mode gains by using its own degree alone. */
const SHOWN = 0.04;

/** Sounding time of every pitch class, long notes weakened a little so that a drone does not decide alone. */
function pitchClassTimes(notes: readonly PlainNote[]): Float64Array {
  const times = new Float64Array(12);
  for (const { pitch, duration } of notes)
    times[modulo(pitch, 12)] = (times[modulo(pitch, 12)] as number) + Math.min(duration, 1920);
  return times;
}

/** Pearson's correlation of a vector with a profile turned to a tonic. */
function correlation(times: Float64Array, profile: readonly number[], tonic: number): number {
  const meanTime = times.reduce((sum, value) => sum + value, 0) / 12;
  const meanProfile = profile.reduce((sum, value) => sum + value, 0) / 12;
  let both = 0;
  let own = 0;
  let other = 0;
  for (const step of range(12)) {
    const a = (times[modulo(tonic + step, 12)] as number) - meanTime;
    const b = (profile[step] as number) - meanProfile;
    both += a * b;
    own += a * a;
    other += b * b;
  }
  const size = own * other;
  return size === 0 ? 0 : both / size ** 0.5;
}

/** The pitch class of the lowest note in the first or last beat of the music. */
function bassAt(notes: readonly PlainNote[], end: 'first' | 'last'): number | null {
  if (notes.length === 0) return null;
  const first = Math.min(...notes.map(({ start }) => start));
  const last = Math.max(...notes.map(({ start, duration }) => start + duration));
  const sounding = notes.filter(({ start, duration }) =>
    end === 'first' ? start < first + TICKS_PER_QUARTER : start + duration > last - TICKS_PER_QUARTER,
  );
  return modulo(
    sounding.reduce((lowest, { pitch }) => Math.min(lowest, pitch), 127),
    12,
  );
}

/**
 * The keys that notes may be in, the likeliest first, by correlation with probe-tone profiles of six modes and by
 * the bass
 * at both ends.
 *
 * @param notes  pitched notes only, of all parts
 * @param ends   the roots of the first and the last chord, where they are known; else the bass stands in for them
 */
export function inferKeys(
  notes: readonly PlainNote[],
  ends?: { readonly first: number | null; readonly last: number | null },
): KeyGuess[] {
  const times = pitchClassTimes(notes);
  const [first, last] = [ends?.first ?? bassAt(notes, 'first'), ends?.last ?? bassAt(notes, 'last')];
  const guesses = PROFILES.flatMap(({ scale, profile, prior: usualPrior, own, usual }) =>
    range(12).map((tonic) => {
      const at = (step: number): number => times[modulo(tonic + step, 12)] as number;
      const shown = own !== undefined && usual !== undefined && at(own) > 4 * at(usual);
      // Where a mode shows its own degree and never the usual one, it is preferred to plain major or minor.
      const prior = shown ? -SHOWN : usualPrior;
      const atEnds = (tonic === last ? ENDING : 0) + (tonic === first ? OPENING : 0);
      return { tonic, scale, fit: correlation(times, profile, tonic) + atEnds - prior };
    }),
  );
  const best = Math.max(...guesses.map(({ fit }) => fit));
  // Belief falls tenfold for every 0.2 of correlation less.
  const shares = guesses.map(({ fit }) => 10 ** ((fit - best) * 5));
  const total = shares.reduce((sum, share) => sum + share, 0);
  return guesses
    .map(({ tonic, scale }, index) => ({
      key: withLeadingTone(tonic, scale, times),
      confidence: Math.round((100 * (shares[index] as number)) / total),
    }))
    .sort((a, b) => b.confidence - a.confidence);
}

/** A minor key whose seventh is raised nearly always is harmonic minor. */
function withLeadingTone(tonic: number, scale: string, times: Float64Array): Key {
  const at = (step: number): number => times[modulo(tonic + step, 12)] as number;
  const named = scale === 'minor' && at(11) > 4 * at(10) && at(11) > 0 ? 'harmonic-minor' : scale;
  return { tonic: tonicsFor(named)[tonic] ?? 0, scale: named };
}

/** True where two keys are the same but for the mode of one degree. */
export const sameCharacter = (a: Key, b: Key): boolean =>
  pitchClassOf(a.tonic) === pitchClassOf(b.tonic) && isMinorish(scaleOf(a.scale)) === isMinorish(scaleOf(b.scale));
