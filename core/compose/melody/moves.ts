import { chordMask, type Chord } from '../../theory/chord';
import { inMask } from '../../theory/pitch';
import type { MidiNote, PitchClassMask, Semitones } from '../../theory/units';
import { FORBIDDEN, linkLayers, type Links } from '../../trellis/trellis';
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
const knownLinks = new WeakMap<object, Map<string, Links>>();

const maskOf = (chord: Chord | null): PitchClassMask => (chord === null ? 0xfff : chordMask(chord));

/** What makes the links of a line, from note to note; those of equal departures are shared. */
export function linksBetween(pitches: readonly MidiNote[], context: PartContext): (leaving: Departure) => Links {
  const line = pitches.join();
  return (leaving) => linksFrom(pitches, line, leaving, context);
}

/** Links depend on the chords under both notes and the beat, never on the position: equal ones are shared. */
function linksFrom(
  pitches: readonly MidiNote[],
  line: string,
  leaving: Departure,
  { brief, chords }: PartContext,
): Links {
  const known = knownLinks.get(chords) ?? new Map<string, Links>();
  knownLinks.set(chords, known);
  const [mask, comingMask] = [maskOf(leaving.chord), leaving.strong ? maskOf(leaving.coming) : 0];
  const strict = brief.adventure < UNRULY;
  const name = `${mask} ${comingMask} ${leaving.strong} ${leaving.held} ${brief.stride} ${strict} ${line}`;
  const found = known.get(name);
  if (found) return found;
  const evenness = 1.9 - 1.8 * (brief.stride / 100);
  const restless = Math.max(0, brief.stride - USUAL_STRIDE) * 1.6;
  const size = pitches.length * ARRIVALS;
  const links = linkLayers(size, size, (from, to) => {
    const source = pitches[Math.floor(from / ARRIVALS)] as MidiNote;
    const target = pitches[Math.floor(to / ARRIVALS)] as MidiNote;
    return moveWeight(target - source, from % ARRIVALS, to % ARRIVALS, {
      evenness,
      restless,
      strict: strict && !leaving.held,
      held: leaving.held,
      dissonant: !inMask(mask, source),
      strong: leaving.strong,
      resolved: inMask(comingMask, target),
    });
  });
  known.set(name, links);
  return links;
}

interface Move {
  /** How much of the price of skips and leaps is asked. */
  readonly evenness: number;
  /** What a step costs where leaps are wanted. */
  readonly restless: number;
  readonly strict: boolean;
  readonly held: boolean;
  readonly dissonant: boolean;
  readonly strong: boolean;
  readonly resolved: boolean;
}

/**
 * The weight of a melodic interval, `FORBIDDEN` where the new state does not describe it or a dissonance is left
 * badly. Whether a leap turns back is left to where in the register it ends: the heights that the line is drawn to do
 * it (von Hippel and Huron, Why do skips precede reversals?, 2000).
 */
function moveWeight(interval: Semitones, arrivedBy: number, arrival: number, move: Move): number {
  const { evenness, restless, strict, held, dissonant, strong, resolved } = move;
  const size = Math.abs(interval);
  const leap = size >= 5;
  const described = leap ? (interval > 0 ? ARRIVED.byLeapUp : ARRIVED.byLeapDown) : ARRIVED.byStep;
  if (arrival !== described || (size > 12 && !held)) return FORBIDDEN;
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
