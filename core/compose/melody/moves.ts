import { chordMask, type Chord } from '../../theory/chord';
import { inMask } from '../../theory/pitch';
import type { MidiNote, PitchClassMask, Semitones } from '../../theory/units';
import { FORBIDDEN, type Links } from '../../trellis/trellis';
import type { PartContext } from '../context';

/** How a note was reached; what follows a leap depends on it, so it is part of the trellis state. */
export const ARRIVED = { byStep: 0, byLeapUp: 1, byLeapDown: 2 } as const;
export const ARRIVALS = 3;

/** Price of an interval in semitones (0–12), in hundredths of a nat, at an even stride. */
const INTERVAL_PRICE = [54, 20, 12, 52, 54, 77, 365, 90, 200, 186, 390, 485, 168] as const;

/** What a wider leap costs; only to or from a held note may there be one. */
const BEYOND_AN_OCTAVE = 1_200;

/** Stride in % up to which steps are as welcome as ever. */
const USUAL_STRIDE = 50;

/** Adventure in % from which dissonances may be left as they like. */
const UNRULY = 60;

/** What is left and what it stands on. */
export interface Departure {
  readonly chord: Chord | null;
  /** Whether it stands on a beat: what leans there resolves. */
  readonly strong: boolean;
  /** The chord under the next note. */
  readonly coming: Chord | null;
  /** Whether this note or the next one is held: nothing is forbidden then. */
  readonly held: boolean;
}

/** Links already tabulated, by the progression that they were made for: many attempts share one. */
const knownLinks = new WeakMap<object, Map<string, Map<number, Links>>>();

const maskOf = (chord: Chord | null): PitchClassMask => (chord === null ? 0xfff : chordMask(chord));

/**
 * What makes the links of a line, from note to note. They depend on the chords under both notes and the beat, never on
 * the position: equal ones are shared.
 */
export function linksBetween(
  pitches: readonly MidiNote[],
  { brief, chords }: PartContext,
): (leaving: Departure) => Links {
  const lines = knownLinks.get(chords) ?? new Map<string, Map<number, Links>>();
  knownLinks.set(chords, lines);
  const strict = brief.adventure < UNRULY;
  const line = `${brief.stride} ${strict} ${pitches.join()}`;
  const known = lines.get(line) ?? new Map<number, Links>();
  lines.set(line, known);
  const evenness = 1.9 - 1.8 * (brief.stride / 100);
  const restless = Math.max(0, brief.stride - USUAL_STRIDE) * 1.6;
  return ({ chord, coming, strong, held }) => {
    const [mask, comingMask] = [maskOf(chord), strong ? maskOf(coming) : 0];
    const name = (((mask << 12) | comingMask) << 2) | (strong ? 2 : 0) | (held ? 1 : 0);
    const found = known.get(name);
    if (found) return found;
    const manner = { evenness, restless, strict: strict && !held, held, strong };
    const links = linksOf(pitches, mask, comingMask, manner);
    known.set(name, links);
    return links;
  };
}

/** The widest interval that may be where nothing is held, in semitones. */
const OCTAVE = 12;

/** Tabulates the weights of a line's moves once for each interval, then lays them out as links between its pitches. */
function linksOf(
  pitches: readonly MidiNote[],
  mask: PitchClassMask,
  comingMask: PitchClassMask,
  manner: Manner,
): Links {
  const range = (pitches.at(-1) ?? 0) - (pitches[0] ?? 0);
  const reach = manner.held ? range : Math.min(OCTAVE, range);
  const table = weightsOf(reach, manner);
  const kinds = pitches.map((pitch) => (inMask(mask, pitch) ? 0 : DISSONANT));
  const ends = pitches.map((pitch) => (inMask(comingMask, pitch) ? RESOLVED : 0));
  const most = pitches.length * ARRIVALS * Math.min(pitches.length, 2 * reach + 1);
  const offsets = new Int32Array(pitches.length * ARRIVALS + 1);
  const [targets, weights] = [new Int32Array(most), new Int32Array(most)];
  let count = 0;
  let lowest = 0;
  for (let from = 0; from < pitches.length; from++) {
    const source = pitches[from] as MidiNote;
    while (source - (pitches[lowest] as MidiNote) > reach) lowest++;
    for (let arrivedBy = 0; arrivedBy < ARRIVALS; arrivedBy++) {
      const row = arrivedBy * KINDS + (kinds[from] as number);
      for (let to = lowest; to < pitches.length; to++) {
        const interval = (pitches[to] as MidiNote) - source;
        if (interval > reach) break;
        const weight = table[(interval + reach) * ARRIVALS * KINDS + row + (ends[to] as number)] as number;
        if (weight <= FORBIDDEN) continue;
        targets[count] = to * ARRIVALS + arrivalBy(interval);
        weights[count] = weight;
        count++;
      }
      offsets[from * ARRIVALS + arrivedBy + 1] = count;
    }
  }
  return { offsets, targets: targets.slice(0, count), weights: weights.slice(0, count) };
}

/** What tells moves of one interval and arrival apart, as digits of their place in the table. */
const DISSONANT = 2;
const RESOLVED = 1;
const KINDS = 4;

/** The weights of all moves up to some interval down and up, by how the note that is left was reached and their kind. */
function weightsOf(reach: Semitones, manner: Manner): Int32Array {
  const table = new Int32Array((2 * reach + 1) * ARRIVALS * KINDS);
  for (const dissonant of [false, true])
    for (const resolved of [false, true]) {
      const move = { ...manner, dissonant, resolved };
      const kind = (dissonant ? DISSONANT : 0) + (resolved ? RESOLVED : 0);
      for (let interval = -reach; interval <= reach; interval++)
        for (let arrivedBy = 0; arrivedBy < ARRIVALS; arrivedBy++)
          table[((interval + reach) * ARRIVALS + arrivedBy) * KINDS + kind] = moveWeight(interval, arrivedBy, move);
    }
  return table;
}

/** How a note is reached over an interval. */
const arrivalBy = (interval: Semitones): number =>
  Math.abs(interval) < 5 ? ARRIVED.byStep : interval > 0 ? ARRIVED.byLeapUp : ARRIVED.byLeapDown;

/** What moves weigh by, wherever they lead. */
interface Manner {
  /** How much of the price of skips and leaps is asked. */
  readonly evenness: number;
  /** What a step costs where leaps are wanted. */
  readonly restless: number;
  readonly strict: boolean;
  readonly held: boolean;
  readonly strong: boolean;
}

interface Move extends Manner {
  readonly dissonant: boolean;
  readonly resolved: boolean;
}

/**
 * The weight of a melodic interval, `FORBIDDEN` where a dissonance is left badly. Whether a leap turns back is left to
 * where in the register it ends: the heights that the line is drawn to do it (von Hippel and Huron, Why do skips
 * precede reversals?, 2000).
 */
function moveWeight(interval: Semitones, arrivedBy: number, move: Move): number {
  const { evenness, restless, strict, dissonant, strong, resolved } = move;
  const size = Math.abs(interval);
  const afterLeap = arrivedBy !== ARRIVED.byStep;
  const stepwise = size === 1 || size === 2;
  // What leans on a beat resolves by step; passing and neighbour notes move by step, escape tones by a small skip.
  if (dissonant && strict && !stepwise && (strong || afterLeap || size > 4 || size === 0)) return FORBIDDEN;
  let weight = -Math.round(
    (INTERVAL_PRICE[size] ?? BEYOND_AN_OCTAVE) * (size > 2 ? evenness : 1) + (size <= 2 ? restless : 0),
  );
  if (dissonant && size > 2) weight -= 160;
  // Suspensions and appoggiaturas fall more often than they rise.
  if (dissonant && strong) weight += (resolved ? 0 : -120) + (interval < 0 ? 20 : -30);
  if (afterLeap) {
    const turns = arrivedBy === ARRIVED.byLeapUp ? interval < 0 : interval > 0;
    weight += turns ? 30 : size >= 5 ? -120 : 0;
  }
  return weight;
}
