import type { BassNote, ChordSpan, Spread, VoicingFamily } from '../song/schema';
import type { Chord } from '../theory/chord';
import { pitchClassOf, semitonesOf } from '../theory/pitch';
import { modulo, sum, type MidiNote, type PitchClass } from '../theory/units';
import type { Random } from '../trellis/random';
import { bestPath, isDeadEnd, linkLayers, pathSampler, type DeadEnd, type Trellis } from '../trellis/trellis';
import { ensembleVoicings } from './ensemble';
import { FEWEST_STRINGS, guitarShapes, type GuitarShape } from './guitar';
import { keyboardVoicings } from './keyboard';
import type { Voicing } from './types';

export interface VoicingWish {
  readonly low: MidiNote;
  readonly high: MidiNote;
  /** Notes of a full chord, an added bass note not counted. */
  readonly voices: number;
  /** Where the middle of the chord likes to be. */
  readonly centre: number;
  /** What each semitone away from there costs, in hundredths of a nat, where not as usual. */
  readonly pull?: number;
  readonly family?: VoicingFamily;
  readonly spread?: Spread;
  readonly bass?: BassNote;
}

/** A chord with what the writer has set for it by hand. */
export type ChordToVoice = Pick<ChordSpan, 'voicing'> & { readonly chord: Chord };

/** What each semitone away from where the middle of a chord likes to be costs, in hundredths of a nat. */
const PULL = 9;
/** The same for a hand on a fretboard, which goes where the shapes are. */
const HAND_PULL = 4;

const SHAPES_KEPT = 40;
const BASS_RANGE = { low: 36, high: 52 } as const;

/** The pitch class that must lie lowest: a slash bass, the root where a bass note is added, or none. */
function bassFor(chord: Chord, bass: BassNote): PitchClass | null {
  if (bass === 'left out') return null;
  if (chord.bass !== null) return pitchClassOf(chord.bass);
  return bass === 'added' ? pitchClassOf(chord.root) : null;
}

/** The pitch class of a chord's note by inversion: 0 the root, 1 the third … */
const inverted = (chord: Chord, inversion: number): PitchClass =>
  modulo(pitchClassOf(chord.root) + semitonesOf(chord.tones[inversion % chord.tones.length] ?? '1'), 12);

/** Puts a bass note under a voicing, close enough to belong to it and never inside it. */
function withBass(voicing: Voicing, bass: PitchClass): Voicing[] {
  const lowest = voicing[0] ?? BASS_RANGE.high;
  if (modulo(lowest, 12) === bass) return [voicing];
  const pitches: MidiNote[] = [];
  for (
    let pitch = BASS_RANGE.low + modulo(bass - BASS_RANGE.low, 12);
    pitch <= Math.min(lowest - 3, BASS_RANGE.high + 8);
    pitch += 12
  )
    pitches.push(pitch);
  return pitches.map((pitch) => [pitch, ...voicing]);
}

/**
 * Voicings for two hands with a set lowest note: of the spread asked for, else of any, else a little beyond the
 * register.
 */
function keyboardLayouts(
  chord: Chord,
  { low, high, voices }: VoicingWish,
  spread: Spread,
  lowest: PitchClass | null,
): Voicing[] {
  const inSpread = keyboardVoicings(chord, low, high, voices, spread);
  if (lowest === null) return inSpread;
  const turned = (all: readonly Voicing[]): Voicing[] =>
    all.filter((candidate) => modulo(candidate[0] ?? 0, 12) === lowest && candidate.length > 1);
  const attempts = [
    () => inSpread,
    () => keyboardVoicings(chord, low, high, voices, 'free'),
    () => keyboardVoicings(chord, low - 7, high + 7, voices, 'free'),
  ];
  for (const attempt of attempts) {
    const found = turned(attempt());
    if (found.length > 0) return found;
  }
  return inSpread;
}

/** Every way to lay out a chord that keeps what the writer has set: inversion, bass note, spread, nudged voices. */
export function voicingsOf({ chord, voicing }: ChordToVoice, wish: VoicingWish): Voicing[] {
  if (voicing?.pitches) return [[...voicing.pitches].sort((a, b) => a - b)];
  const family = wish.family ?? 'keyboard';
  const spread = voicing?.spread ?? wish.spread ?? 'free';
  const bass = bassFor(chord, voicing?.bass ?? wish.bass ?? 'left out');
  const lowest = voicing?.inversion === undefined ? null : inverted(chord, voicing.inversion);
  if (family === 'guitar') {
    const inReach = ({ pitches }: GuitarShape): boolean =>
      pitches.length <= Math.max(FEWEST_STRINGS, wish.voices) &&
      (pitches[0] as number) >= wish.low &&
      (pitches.at(-1) as number) <= wish.high;
    const shapes = guitarShapes(chord, bass ?? lowest).filter(inReach);
    const inSpread = shapes.filter(({ pitches }) => spread === 'free' || guitarSpread(pitches) === spread);
    // Shapes come from the nut up: the first few dozen are those that hands reach for.
    const found = (inSpread.length > 0 ? inSpread : shapes).slice(0, SHAPES_KEPT).map(({ pitches }) => pitches);
    if (found.length > 0) return found;
  }
  if (family === 'ensemble') {
    const found = ensembleVoicings(chord, Math.min(4, wish.voices), bass ?? lowest, spread);
    if (found.length > 0) return found;
  }
  const upper = keyboardLayouts({ ...chord, bass: null }, wish, spread, lowest);
  return bass === null ? upper : upper.flatMap((candidate) => withBass(candidate, bass));
}

/** Guitar shapes are called close within an octave and a half, wide beyond two octaves. */
const guitarSpread = (pitches: Voicing): Spread => {
  const size = (pitches.at(-1) ?? 0) - (pitches[0] ?? 0);
  return size <= 14 ? 'close' : size <= 24 ? 'open' : 'wide';
};

/**
 * Total semitones that the voices move, by their best assignment. Between equal numbers of voices that is the sorted
 * one (the classic result for matching on a line); otherwise each voice of the fuller chord goes to its nearest.
 */
export function motionBetween(a: Voicing, b: Voicing): number {
  let total = 0;
  if (a.length === b.length) {
    for (let index = 0; index < a.length; index++) total += Math.abs((a[index] as number) - (b[index] as number));
    return total;
  }
  const [few, many] = a.length < b.length ? [a, b] : [b, a];
  for (const pitch of many) {
    let least = Number.POSITIVE_INFINITY;
    for (const other of few) least = Math.min(least, Math.abs(pitch - other));
    total += least;
  }
  return total;
}

/** True where two voices keep a fifth or an octave between them while both move. */
function movesInParallel(a: Voicing, b: Voicing): boolean {
  if (a.length !== b.length) return false;
  for (let low = 0; low < a.length; low++) {
    for (let high = low + 1; high < a.length; high++) {
      const before = modulo((a[high] as number) - (a[low] as number), 12);
      const after = modulo((b[high] as number) - (b[low] as number), 12);
      const moved = a[low] !== b[low] && a[high] !== b[high];
      if (moved && before === after && (before === 7 || before === 0)) return true;
    }
  }
  return false;
}

/** The price of going from one voicing to the next, in hundredths of a nat: motion, the top line, parallels. */
export const leadingWeight = (from: Voicing, to: Voicing): number =>
  -28 * motionBetween(from, to) -
  12 * Math.abs((from.at(-1) ?? 0) - (to.at(-1) ?? 0)) -
  (movesInParallel(from, to) ? 60 : 0);

/** What a voicing is worth by itself: near the register's middle, not too wide, no voice missing. */
function standingWeight(voicing: Voicing, chord: Chord, wish: VoicingWish): number {
  const spread = (voicing.at(-1) ?? 0) - (voicing[0] ?? 0);
  if (wish.family === 'guitar') {
    // Open and low positions ring best, and the root likes to lie lowest.
    const inversion = modulo(voicing[0] ?? 0, 12) === pitchClassOf(chord.bass ?? chord.root) ? 0 : 90;
    return (
      -inversion -
      14 * Math.max(0, 5 - voicing.length) -
      Math.round((wish.pull ?? HAND_PULL) * Math.abs(sum([...voicing]) / voicing.length - wish.centre))
    );
  }
  const missing = wish.voices - voicing.length;
  const limit = wish.spread === undefined || wish.spread === 'free' || wish.spread === 'close' ? 14 : 30;
  return (
    Math.round(-(wish.pull ?? PULL) * Math.abs(sum([...voicing]) / voicing.length - wish.centre)) -
    (spread > limit && wish.bass === undefined ? 4 * (spread - limit) : 0) -
    80 * Math.max(0, missing)
  );
}

/** The trellis of all voicings of all chords. */
export function voicingTrellis(
  chords: readonly Chord[],
  candidates: readonly (readonly Voicing[])[],
  wish: VoicingWish,
): Trellis {
  const layers = candidates.map((voicings, index) =>
    Int32Array.from(voicings, (voicing) => standingWeight(voicing, chords[index] as Chord, wish)),
  );
  const links = candidates.slice(1).map((to, index) => {
    const from = candidates[index] as readonly Voicing[];
    return linkLayers(from.length, to.length, (a, b) => leadingWeight(from[a] as Voicing, to[b] as Voicing));
  });
  return { layers, links };
}

/**
 * Voices a row of chords so that they flow: the path of least motion, or near it when a stream and temperature are
 * given.
 * What the writer has set for a chord is a constraint.
 *
 * @returns a voicing for each chord, or the first chord that cannot be voiced in the range
 */
export function voiceChords(
  chords: readonly ChordToVoice[],
  wish: VoicingWish,
  random?: Random,
  temperature = 0,
): Voicing[] | DeadEnd {
  const candidates = chords.map((chord) => voicingsOf(chord, wish));
  const empty = candidates.findIndex((voicings) => voicings.length === 0);
  if (empty >= 0) return { deadEnd: empty };
  const trellis = voicingTrellis(
    chords.map(({ chord }) => chord),
    candidates,
    wish,
  );
  const sampler = random && temperature > 0 ? pathSampler(trellis, temperature) : null;
  const path = sampler && !isDeadEnd(sampler) && random ? sampler.draw(random) : bestPath(trellis);
  if (isDeadEnd(path)) return path;
  return candidates.map((voicings, index) => voicings[path[index] as number] as Voicing);
}

/**
 * Every chord close in root position, as near the middle of the register as it comes: what smooth leading is measured
 * against.
 */
export function rootPositions(chords: readonly ChordToVoice[], wish: VoicingWish): Voicing[] {
  return chords.map((chord) => {
    const options = voicingsOf(
      { chord: chord.chord, voicing: { ...chord.voicing, inversion: chord.voicing?.inversion ?? 0 } },
      { ...wish, spread: wish.spread === 'free' ? 'close' : (wish.spread ?? 'close') },
    );
    const off = (voicing: Voicing): number =>
      Math.abs(sum([...voicing]) / voicing.length - wish.centre) +
      (wish.family === 'guitar' ? 2 * Math.max(0, 5 - voicing.length) : 0);
    return options.reduce<Voicing>(
      (best, option) => (best.length === 0 || off(option) < off(best) ? option : best),
      [],
    );
  });
}

/** Semitones that each voice moves from chord to chord on average; 0 for fewer than two chords. */
export function averageMotion(voicings: readonly Voicing[]): number {
  const moves = voicings
    .slice(1)
    .map(
      (to, index) =>
        motionBetween(voicings[index] as Voicing, to) / Math.max(1, to.length, (voicings[index] as Voicing).length),
    );
  return moves.length === 0 ? 0 : sum(moves) / moves.length;
}
