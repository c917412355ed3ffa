import { chordMask, makeChord, type Chord } from '../../theory/chord';
import { isMinorish, keyMask, type Key } from '../../theory/key';
import { degreeLabel, intervalOf, pitchClassOf, type Fifths } from '../../theory/pitch';
import { scaleOf } from '../../theory/scale';
import { modulo, type PitchClassMask } from '../../theory/units';
import type { HarmonyBrief } from '../../song/schema';
import type { Style } from '../../song/style';

export type CandidateKind = 'diatonic' | 'borrowed' | 'applied' | 'tritone' | 'mediant' | 'asked';

/** A chord that a progression may take, and how it relates to the key. */
export interface Candidate {
  readonly chord: Chord;
  readonly kind: CandidateKind;
  /** 1–7, by the number of the scale degree that its root stands on. */
  readonly degree: number;
  /** Pitch class that it must lead to next, if it leads anywhere. */
  readonly leadsTo: number | null;
}

type Colouring = HarmonyBrief['colouring'];

const TRIADS: readonly (readonly string[])[] = [
  ['1', '3', '5'],
  ['1', 'b3', '5'],
  ['1', 'b3', 'b5'],
  ['1', '4', '5'],
  ['1', '2', '5'],
  ['1', '3', '#5'],
  ['1', '5'],
];

/** The adventure, in %, from which each kind of chord is let in, and its price there in hundredths of a nat. */
export const ADMISSION: Readonly<Record<CandidateKind, { readonly from: number; readonly price: number }>> = {
  diatonic: { from: 0, price: 0 },
  asked: { from: 0, price: 900 },
  borrowed: { from: 10, price: 330 },
  applied: { from: 25, price: 330 },
  tritone: { from: 50, price: 350 },
  mediant: { from: 65, price: 380 },
};

const fits = (chord: Chord, mask: PitchClassMask): boolean => (chordMask(chord) & ~mask) === 0;

/** Adds the seventh and ninth that the key offers to a triad. */
function coloured(triad: Chord, mask: PitchClassMask, colouring: Colouring): Chord {
  if (colouring === 'triads' || triad.tones.length < 3) return triad;
  const diminished = triad.tones.includes('b5');
  const sevenths = diminished ? ['b7', 'bb7'] : triad.tones.includes('3') ? ['7', 'b7'] : ['b7', '7'];
  const seventh = sevenths.find((tone) => fits(makeChord(triad.root, ['1', tone]), mask));
  if (seventh === undefined) return triad;
  const withSeventh = makeChord(triad.root, [...triad.tones, seventh]);
  const ninth = makeChord(triad.root, [...withSeventh.tones, '9']);
  return colouring === 'extended' && !diminished && fits(ninth, mask) ? ninth : withSeventh;
}

const numberOf = (interval: Fifths): number => Number(degreeLabel(interval).replaceAll(/[b#]/g, ''));

/** The chords that the scale itself holds, one on each of its degrees. */
export function diatonicCandidates(key: Key, colouring: Colouring): Candidate[] {
  const mask = keyMask(key);
  return scaleOf(key.scale).fifths.flatMap((interval): Candidate[] => {
    const root = key.tonic + interval;
    const triad = TRIADS.map((tones) => makeChord(root, tones)).find((chord) => fits(chord, mask));
    if (!triad || (triad.tones.length < 3 && interval !== 0)) return [];
    return [{ chord: coloured(triad, mask, colouring), kind: 'diatonic', degree: numberOf(interval), leadsTo: null }];
  });
}

/**
 * Chords of the parallel modes that songwriters borrow, as degree and triad. The plain degrees among them matter in
 * scales that cannot build a chord there themselves.
 */
const BORROWED: Readonly<Record<'major' | 'minor', readonly (readonly [degree: string, tones: string])[]>> = {
  major: [
    ['4', '1 b3 5'],
    ['b7', '1 3 5'],
    ['b6', '1 3 5'],
    ['b3', '1 3 5'],
    ['5', '1 b3 5'],
    ['5', '1 3 5'],
    ['1', '1 3 5'],
    ['4', '1 3 5'],
    ['6', '1 b3 5'],
  ],
  minor: [
    ['5', '1 3 5'],
    ['4', '1 3 5'],
    ['b2', '1 3 5'],
    ['6', '1 b3 b5'],
    ['b7', '1 3 5'],
    ['1', '1 3 5'],
    ['1', '1 b3 5'],
    ['4', '1 b3 5'],
    ['b6', '1 3 5'],
  ],
};
const MEDIANTS: Readonly<Record<'major' | 'minor', readonly string[]>> = {
  major: ['3', '6', 'b3', 'b6'],
  minor: ['3', '6'],
};

/** Degrees on which a borrowed major chord takes the minor seventh; in minor the fourth does too, as in Dorian. */
const DOMINANTS: ReadonlySet<string> = new Set(['5', 'b7', 'b2']);

function foreign(
  key: Key,
  degree: string,
  tones: readonly string[],
  kind: CandidateKind,
  colouring: Colouring,
): Candidate {
  const interval = intervalOf(degree);
  const dominant = DOMINANTS.has(degree) || (degree === '4' && isMinorish(scaleOf(key.scale)));
  const major = tones.includes('3') && !dominant;
  const seventh = colouring === 'triads' || kind === 'mediant' ? [] : [major ? '7' : 'b7'];
  return {
    chord: makeChord(key.tonic + interval, [...tones, ...seventh]),
    kind,
    degree: numberOf(interval),
    leadsTo: null,
  };
}

/** Dominants of the other degrees, and their tritone substitutes. */
function dominants(key: Key, diatonic: readonly Candidate[]): Candidate[] {
  return diatonic
    .filter(
      ({ chord, degree }) =>
        degree !== 1 && chord.tones.includes('5') && (chord.tones.includes('3') || chord.tones.includes('b3')),
    )
    .map(({ chord }) => makeChord(chord.root + 1, ['1', '3', '5', 'b7']))
    .map((chord): Candidate => ({
      chord,
      kind: 'applied',
      degree: numberOf(chord.root - key.tonic),
      leadsTo: pitchClassOf(chord.root - 1),
    }))
    .concat([
      {
        chord: makeChord(key.tonic - 5, ['1', '3', '5', 'b7']),
        kind: 'tritone',
        degree: 2,
        leadsTo: pitchClassOf(key.tonic),
      },
    ]);
}

/** A style's own chord on a degree, with as many of its notes as the colouring has. */
function ownChord(key: Key, degree: string, tones: string, colouring: Colouring): Candidate {
  const interval = intervalOf(degree);
  const all = tones.split(' ');
  const kept = colouring === 'triads' ? all.slice(0, 3) : colouring === 'sevenths' ? all.slice(0, 4) : all;
  return { chord: makeChord(key.tonic + interval, kept), kind: 'diatonic', degree: numberOf(interval), leadsTo: null };
}

/**
 * The key's chords as a style has them: its own on some degrees, and in minor the dominant with its leading note where
 * the style wants one.
 */
function inDialect(
  diatonic: readonly Candidate[],
  key: Key,
  colouring: Colouring,
  { harmony, scales }: Style,
): Candidate[] {
  const minor = isMinorish(scaleOf(key.scale));
  const own = minor && !scales.includes(key.scale) ? {} : ((minor ? harmony.minorChords : harmony.majorChords) ?? {});
  const leading = minor && harmony.leadingNote ? { 5: '1 3 5 b7', ...own } : own;
  const chords = Object.entries(leading).map(([degree, tones]) => ownChord(key, degree, tones, colouring));
  return [
    ...chords,
    ...diatonic.filter(({ chord }) =>
      chords.every((other) => rootDistance(other.chord, key) !== rootDistance(chord, key)),
    ),
  ];
}

/**
 * Every chord that a progression in this key may use at some adventure, as a style has them where one is given. No two
 * are the same set of notes on the same root; the one closest to the key wins.
 */
export function candidatesFor(key: Key, colouring: Colouring, style?: Style): Candidate[] {
  const character = isMinorish(scaleOf(key.scale)) ? 'minor' : 'major';
  const own = diatonicCandidates(key, colouring);
  const diatonic = style ? inDialect(own, key, colouring, style) : own;
  const all = [
    ...diatonic,
    ...BORROWED[character].map(([degree, tones]) => foreign(key, degree, tones.split(' '), 'borrowed', colouring)),
    ...dominants(key, diatonic),
    ...MEDIANTS[character].map((degree) => foreign(key, degree, ['1', '3', '5'], 'mediant', colouring)),
  ];
  const seen = new Set<string>();
  return all.filter(({ chord }) => {
    const triad = chord.tones.filter((tone) => !['b7', '7', 'bb7', '9'].includes(tone)).join();
    const same = `${pitchClassOf(chord.root)} ${triad} ${chord.tones.includes('b7') && chord.tones.includes('3')}`;
    if (seen.has(same)) return false;
    seen.add(same);
    return true;
  });
}

/** True where a chord can end on or stand for home. */
export const isTonic = (candidate: Candidate, key: Key): boolean =>
  pitchClassOf(candidate.chord.root) === pitchClassOf(key.tonic) &&
  candidate.leadsTo === null &&
  !candidate.chord.tones.includes('b5');

/** Semitones of the chord's root above the tonic. */
export const rootDistance = (chord: Chord, key: Key): number =>
  modulo(pitchClassOf(chord.root) - pitchClassOf(key.tonic), 12);
