import { chordMask, type Chord } from '../../theory/chord';
import { metricalWeight, WEIGHT } from '../../theory/metre';
import { inMask, pitchClassOf } from '../../theory/pitch';
import { clamp, modulo, range, type MidiNote, type PitchClassMask } from '../../theory/units';
import { chordAt, degreeShare, unmet, type PartContext, type Unmet } from '../context';
import { heldTop, leaningAt, withHeldPitches } from '../held-line';
import { pickWeighted, type Random } from '../../trellis/random';
import { FORBIDDEN, isDeadEnd, linkLayers, pathSampler, type Links, type Trellis } from '../../trellis/trellis';
import { logWeight, temperatureOf } from '../../trellis/weights';
import type { PhraseUnit } from './plan';
import type { RhythmNote } from './rhythm';

/** How a note was reached; what follows a leap depends on it, so it is part of the trellis state. */
const ARRIVED = { byStep: 0, byLeapUp: 1, byLeapDown: 2 } as const;
const ARRIVALS = 3;

/** Price of an interval in semitones (0–12), in hundredths of a nat, at an even stride. */
const INTERVAL_PRICE = [105, 0, 0, 72, 78, 150, 420, 170, 300, 270, 520, 620, 260] as const;

/** What a wider leap costs; only to or from a held note may there be one. */
const BEYOND_AN_OCTAVE = 1_200;

type Contour = 'arch' | 'rise' | 'fall' | 'wave' | 'level';

/** A phrase's line as heights from −1 to 1 over its time from 0 to 1. */
function heightOf(contour: Contour, time: number): number {
  switch (contour) {
    case 'arch':
      return 1 - 8 * (time - 0.45) * (time - 0.45);
    case 'rise':
      return 1.5 * time - 0.8;
    case 'fall':
      return 0.8 - 1.5 * time;
    case 'wave':
      return time < 0.5 ? 1 - Math.abs(8 * time - 2) / 1 : Math.abs(8 * (time - 0.5) - 2) - 1;
    case 'level':
      return 0;
  }
}

const CONTOURS: readonly (readonly [Contour, number])[] = [
  ['arch', 40],
  ['fall', 18],
  ['rise', 16],
  ['wave', 18],
  ['level', 8],
];

/** The pitches that a line may use: the scale's, chord tones outside it, and as adventure grows any. */
function palette(context: PartContext): MidiNote[] {
  const { brief, keyMask, chords } = context;
  const foreign =
    brief.adventure > 0 ? chords.reduce((mask, { chord }) => mask | (chord ? chordMask(chord) : 0), 0) : 0;
  const allowed: PitchClassMask = brief.adventure >= 55 ? 0xfff : keyMask | foreign;
  return range(brief.high - brief.low + 1)
    .map((step) => brief.low + step)
    .filter((pitch) => inMask(allowed, pitch));
}

/**
 * Sets a rhythm to pitches: an exact sample through the trellis of (pitch, how it was reached). Strong notes lean on
 * chord tones, the line follows a contour, leaps turn back, dissonances resolve by step, and returning units recall the
 * shape of the unit they return.
 *
 * @returns one pitch for each note, or what cannot be met
 */
export function drawPitches(
  context: PartContext,
  rhythm: readonly RhythmNote[],
  plan: readonly PhraseUnit[],
  streamOf: (label: string) => Random,
): MidiNote[] | Unmet {
  const own = palette(context);
  const held = rhythm.map(heldTop);
  const pitches = withHeldPitches(own, held);
  const foreign = new Set(pitches.filter((pitch) => !own.includes(pitch)));
  if (pitches.length === 0)
    return unmet('register', 'The register holds no note of the scale. Widen it by a few notes.');
  const chords = rhythm.map(({ start }) => chordAt(context.chords, start));
  const heights = drawHeights(context, rhythm, plan, streamOf('contour'));
  const touchesHeld = (index: number): boolean => held[index] !== null || held[index + 1] !== null;
  const allLinks = rhythm
    .slice(1)
    .map((_, index) => linksFrom(pitches, chords[index] ?? null, touchesHeld(index), context));

  const build = (recall: readonly (MidiNote | null)[]): Trellis => ({
    layers: rhythm.map((note, index) =>
      layerOf(
        note,
        index,
        rhythm.length,
        pitches,
        chords[index] ?? null,
        heights[index] ?? 0,
        recall[index] ?? leaningAt(context.held, note.start),
        { held: held[index] ?? null, foreign },
        context,
      ),
    ),
    links: allLinks,
  });
  const draw = (trellis: Trellis, label: string): MidiNote[] | number => {
    const sampler = pathSampler(trellis, temperatureOf(context.brief.adventure));
    if (isDeadEnd(sampler)) return sampler.deadEnd;
    return Array.from(sampler.draw(streamOf(label)), (state) => pitches[Math.floor(state / ARRIVALS)] as MidiNote);
  };

  const free = draw(build(rhythm.map(() => null)), 'free');
  if (typeof free === 'number') return blame(free, rhythm, context);
  const recalled = plan.some((unit) => unit.returns)
    ? draw(build(recallShapes(free, rhythm, plan, pitches, chords)), 'recall')
    : free;
  return typeof recalled === 'number' ? free : recalled;
}

function blame(position: number, rhythm: readonly RhythmNote[], context: PartContext): Unmet {
  const bar = Math.floor((rhythm[position]?.start ?? 0) / context.barTicks) + 1;
  return context.brief.anchoring >= 100
    ? unmet(
        'anchoring',
        `No line fits bar ${bar} in this register on roots alone. Lower anchoring or widen the register.`,
      )
    : unmet('register', `No line fits bar ${bar} in this register. Widen it by a few notes.`);
}

/** The height each note is drawn to, in MIDI notes: one contour for each phrase, around the middle of the register. */
function drawHeights(
  { brief, barTicks }: PartContext,
  rhythm: readonly RhythmNote[],
  plan: readonly PhraseUnit[],
  random: Random,
): number[] {
  const centre = (brief.low + brief.high) / 2 + (random.next() - 0.5) * 3;
  const reach = clamp((brief.high - brief.low) / 2 - 2, 1, 7);
  const contours = plan.map(() => pickWeighted(random, CONTOURS));
  return rhythm.map(({ start, unit }) => {
    const { firstBar, bars } = plan[unit] as PhraseUnit;
    const time = (start - firstBar * barTicks) / (bars * barTicks);
    const contour = contours[unit - (unit % 2)] ?? 'arch';
    // Two units make one phrase: the contour spans both.
    return centre + reach * heightOf(contour, (time + (unit % 2)) / 2);
  });
}

function layerOf(
  note: RhythmNote,
  index: number,
  count: number,
  pitches: readonly MidiNote[],
  chord: Chord | null,
  height: number,
  recall: MidiNote | null,
  { held, foreign }: { readonly held: MidiNote | null; readonly foreign: ReadonlySet<MidiNote> },
  context: PartContext,
): Int32Array {
  const { brief, metre, keyMask } = context;
  const weight = metricalWeight(metre, note.start);
  const strength = weight >= WEIGHT.bar ? 1.35 : weight >= WEIGHT.beat ? 1 : note.duration >= 480 ? 0.7 : 0.16;
  const dissonance = -Math.round(strength * (70 + brief.anchoring * 4));
  const shares = context.weights ? pitches.map((pitch) => degreeShare(context, pitch)) : null;
  const rootOnly = brief.anchoring >= 100 && weight >= WEIGHT.beat;
  const last = index === count - 1;
  const layer = new Int32Array(pitches.length * ARRIVALS);
  const mask = chord === null ? 0xfff : chordMask(chord);
  const chordRoot = chord === null ? -1 : pitchClassOf(chord.root);
  pitches.forEach((pitch, place) => {
    const consonant = inMask(mask, pitch);
    const root = modulo(pitch, 12) === chordRoot;
    let value = consonant ? 0 : dissonance;
    value -= Math.round(2.2 * (pitch - height) * (pitch - height));
    if (!inMask(keyMask, pitch) && !consonant) value -= 330 - brief.adventure * 2;
    if (recall !== null) value += pitch === recall ? 260 : Math.abs(pitch - recall) <= 2 ? 60 : 0;
    const share = shares?.[place] ?? 1;
    if (share < 1) value += logWeight(share);
    if (note.closing) value += root ? 90 : 0;
    const unfit =
      foreign.has(pitch) ||
      share <= 0 ||
      (last && !consonant && brief.adventure < 85) ||
      (rootOnly && chord !== null && !root);
    const forbidden = held === null ? unfit : pitch !== held;
    for (let arrival = 0; arrival < ARRIVALS; arrival++) {
      const start = index > 0 || arrival === ARRIVED.byStep;
      layer[place * ARRIVALS + arrival] = forbidden || !start ? FORBIDDEN : value;
    }
  });
  return layer;
}

/** Links already tabulated, by the progression that they were made for: many attempts share one. */
const knownLinks = new WeakMap<object, Map<string, Links>>();

/** Links depend on the chord under the note that is left, never on the position: equal chords share them. */
function linksFrom(
  pitches: readonly MidiNote[],
  chord: Chord | null,
  held: boolean,
  { brief, chords }: PartContext,
): Links {
  const known = knownLinks.get(chords) ?? new Map<string, Links>();
  knownLinks.set(chords, known);
  const mask = chord === null ? 0xfff : chordMask(chord);
  const name = `${mask} ${held} ${brief.stride} ${brief.adventure < 60} ${pitches.join()}`;
  const found = known.get(name);
  if (found) return found;
  const evenness = 1.75 - 1.5 * (brief.stride / 100);
  const strict = brief.adventure < 60;
  const size = pitches.length * ARRIVALS;
  const links = linkLayers(size, size, (from, to) => {
    const arrivedBy = from % ARRIVALS;
    const source = pitches[Math.floor(from / ARRIVALS)] as MidiNote;
    const target = pitches[Math.floor(to / ARRIVALS)] as MidiNote;
    return moveWeight(
      target - source,
      arrivedBy,
      to % ARRIVALS,
      !inMask(mask, source),
      evenness,
      strict && !held,
      held,
    );
  });
  known.set(name, links);
  return links;
}

/**
 * The weight of a melodic interval, `FORBIDDEN` where the new state does not describe it or a dissonance is left
 * badly.
 */
function moveWeight(
  interval: number,
  arrivedBy: number,
  arrival: number,
  dissonant: boolean,
  evenness: number,
  strict: boolean,
  held: boolean,
): number {
  const size = Math.abs(interval);
  const leap = size >= 5;
  const described = leap ? (interval > 0 ? ARRIVED.byLeapUp : ARRIVED.byLeapDown) : ARRIVED.byStep;
  if (arrival !== described || (size > 12 && !held)) return FORBIDDEN;
  const afterLeap = arrivedBy !== ARRIVED.byStep;
  // Appoggiaturas resolve by step; passing and neighbour notes move by step, escape tones by a small skip.
  if (dissonant && strict && (size > 2 || size === 0) && (afterLeap || size > 4 || size === 0)) return FORBIDDEN;
  let weight = -Math.round((INTERVAL_PRICE[size] ?? BEYOND_AN_OCTAVE) * (size > 2 ? evenness : 1));
  if (dissonant && size > 2) weight -= 160;
  if (afterLeap) {
    const turns = arrivedBy === ARRIVED.byLeapUp ? interval < 0 : interval > 0;
    weight += turns ? (size <= 2 ? 70 : 20) : size <= 2 ? -60 : -220;
  }
  return weight;
}

/**
 * For every note of a returning unit, the pitch that repeats the shape of the first one: transposed along the palette
 * by the step that puts most of its notes onto chord tones.
 */
function recallShapes(
  line: readonly MidiNote[],
  rhythm: readonly RhythmNote[],
  plan: readonly PhraseUnit[],
  pitches: readonly MidiNote[],
  chords: readonly (Chord | null)[],
): (MidiNote | null)[] {
  const result: (MidiNote | null)[] = rhythm.map(() => null);
  plan.forEach((unit, index) => {
    if (!unit.returns) return;
    const source = plan.findIndex((other) => other.letter === unit.letter);
    const from = indexesOf(rhythm, source);
    const to = indexesOf(rhythm, index);
    const places = from.map((note) => pitches.indexOf(line[note] as MidiNote));
    const fit = (shift: number): number =>
      to.reduce(
        (score, note, order) => {
          const pitch = pitches[(places[order] ?? 0) + shift];
          const chord = chords[note] ?? null;
          return score + (pitch === undefined ? -3 : chord === null || inMask(chordMask(chord), pitch) ? 1 : 0);
        },
        -Math.abs(shift) * 0.3,
      );
    const shift = [0, -1, 1, -2, 2, -3, 3].reduce((best, candidate) => (fit(candidate) > fit(best) ? candidate : best));
    to.forEach((note, order) => {
      const place = places[order];
      if (place !== undefined) result[note] = pitches[place + shift] ?? null;
    });
  });
  return result;
}

const indexesOf = (rhythm: readonly RhythmNote[], unit: number): number[] =>
  range(rhythm.length).filter((index) => rhythm[index]?.unit === unit);
