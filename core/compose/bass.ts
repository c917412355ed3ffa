import { chordMask, type Chord } from '../theory/chord';
import { inMask, pitchClassOf, semitonesOf } from '../theory/pitch';
import { modulo, range, type MidiNote, type PitchClass, type Semitones, type Ticks } from '../theory/units';
import { BASS_WAY_FIGURES } from '../styles/common-figures';
import type { BassFigure } from '../song/style';
import { drawBassStrokes, figuresFor, pickFigure, type BassStroke } from './bass-strokes';
import { nextChord, chordAt, spanAt, unmet, type PartContext, type PartDraft } from './context';
import { drawVelocities } from './dynamics';
import {
  asHeld,
  heldBottom,
  keptLayer,
  latestEnd,
  leaningAt,
  placesAround,
  withHeldPitches,
  type Place,
} from './held-line';
import { lengthened } from './melody/rhythm';
import type { Streams } from './stages';
import { between, happens, type Random } from '../trellis/random';
import { FORBIDDEN, isDeadEnd, linkLayers, pathSampler, type Links, type Trellis } from '../trellis/trellis';
import { temperatureOf } from '../trellis/weights';

/** What a bass note is asked to be, over which chord, and whether the next chord comes right after it. */
interface BassOnset extends Place {
  readonly tone: BassStroke['tone'];
  /** Null where none sounds: only held notes stand there. */
  readonly chord: Chord | null;
  readonly coming: Chord | null;
}

/** How one line sits in its register: it is drawn once, so that a figure stays itself from chord to chord. */
interface Seat {
  /** The octave in which each root is at home. */
  readonly homes: ReadonlyMap<PitchClass, MidiNote>;
  /** From the root to its fifth: above it or below. */
  readonly fifthAbove: boolean;
}

/** Chance that a phrase ends with another figure, in %. */
const TURNS = 65;
/** How readily bars over the same chords say the same, in %, and that much less for each percent of adventure. */
const STAYS = { figure: 92, walking: 30, adventure: 0.6 } as const;

/**
 * Drafts a bassline: one figure of the style carried through the section, with another for phrase ends, roots in one
 * octave on every arrival of a chord, the rest chosen by the trellis so that approaches lead into the next root. Bars
 * over the same chords say the same.
 */
export function draftBass(context: PartContext, streams: Streams): PartDraft {
  const plan = streams('plan');
  const { way } = context.brief;
  const figures = way === null ? figuresFor(context) : [BASS_WAY_FIGURES[way]];
  const figure = pickFigure(figures, context, plan);
  const others = figures.filter((other) => other !== figure);
  const turn = others.length > 0 && happens(plan, TURNS) ? pickFigure(others, context, plan) : figure;
  const seat = drawSeat(figure, context, plan);
  const onsets = drawOnsets(figure, turn, context, streams('rhythm'));
  if (onsets.length === 0) return { ok: true, notes: [] };
  const own = range(context.brief.high - context.brief.low + 1).map((step) => context.brief.low + step);
  const held = onsets.map(heldBottom);
  const pitches = withHeldPitches(own, held);
  const ownPitches = new Set(own);
  const layerAt = layersOf(pitches, seat, context);
  const layers = onsets.map((onset, index) =>
    keptLayer(layerAt(onset), pitches, ownPitches, held[index] ?? null, leaningAt(context.held, onset.start)),
  );
  const rootless = layers.findIndex((layer) => layer.every((weight) => weight <= FORBIDDEN));
  if (rootless >= 0)
    return unmet('register', 'The register of the bass does not hold every root. Widen it to at least an octave.');
  const trellis: Trellis = { layers, links: linksOf(onsets, pitches, context) };
  const line = drawPitches(trellis, onsets, pitches, figure, context, streams);
  if (line === null)
    return unmet('register', 'No bassline reaches every root in this register. Widen it to at least an octave.');
  const velocities = drawVelocities(
    onsets.map(({ start }) => start),
    context.brief.loudness,
    context,
    streams('dynamics'),
  );
  const notes = onsets.flatMap(({ start, stroke }, index) => {
    const next = latestEnd(start, onsets[index + 1]?.start ?? context.length, context);
    const note = {
      start,
      duration: durationOf(start, next, figure.length, context),
      pitch: line[index] as MidiNote,
      velocity: velocities[index] as number,
    };
    return asHeld(note, stroke);
  });
  return { ok: true, notes };
}

/** Draws the line, then again with every bar held to what was said over the same chords before it. */
function drawPitches(
  { layers, links }: Trellis,
  onsets: readonly BassOnset[],
  pitches: readonly MidiNote[],
  figure: BassFigure,
  context: PartContext,
  streams: Streams,
): MidiNote[] | null {
  const temperature = temperatureOf(context.brief.adventure);
  const free = pathSampler({ layers, links }, temperature);
  if (isDeadEnd(free)) return null;
  const path = free.draw(streams('pitch'));
  const stays = (/W.*W/i.test(figure.steps) ? STAYS.walking : STAYS.figure) - STAYS.adventure * context.brief.adventure;
  const echoes = drawEchoes(onsets, stays, context, streams('pitch', 'echoes'));
  const bound = layers.map((layer, index) => {
    const from = echoes.get(index) ?? (new Set(echoes.values()).has(index) ? index : null);
    if (from === null || onsets[index]?.stroke) return layer;
    const wanted = path[from] as number;
    return (layer[wanted] as number) <= FORBIDDEN
      ? layer
      : layer.map((weight, state) => (state === wanted ? weight : FORBIDDEN));
  });
  const again = pathSampler({ layers: bound, links }, temperature);
  const line = isDeadEnd(again) ? path : again.draw(streams('pitch', 'bound'));
  return Array.from(line, (state) => pitches[state] as MidiNote);
}

/** For onsets of bars that say an earlier one again, the onsets that they repeat. */
function drawEchoes(
  onsets: readonly BassOnset[],
  stays: number,
  { bars, barTicks }: PartContext,
  random: Random,
): Map<number, number> {
  const echoes = new Map<number, number>();
  const known = new Map<string, number[]>();
  for (const bar of range(bars)) {
    const own = range(onsets.length).filter((index) => Math.floor((onsets[index]?.start ?? 0) / barTicks) === bar);
    const name = own
      .map((index) => {
        const { start, tone, chord, coming } = onsets[index] as BassOnset;
        const target = tone === 'A' && coming ? pitchClassOf(coming.bass ?? coming.root) : '';
        return `${start % barTicks} ${tone} ${chord ? `${chordMask(chord)} ${chord.bass ?? chord.root}` : ''} ${target}`;
      })
      .join(';');
    const before = known.get(name);
    if (!before) known.set(name, own);
    else if (happens(random, stays)) own.forEach((index, order) => echoes.set(index, before[order] as number));
  }
  return echoes;
}

/** Semitones above the lowest note around which roots are at home: less where their octaves are to be struck too. */
const ROOM = { plain: 9, octaves: 5 } as const;

function drawSeat({ steps }: BassFigure, { brief }: PartContext, random: Random): Seat {
  const room = /o/i.test(steps) ? ROOM.octaves : ROOM.plain;
  const centre = brief.low + Math.min(room, (brief.high - brief.low) / 2) + between(random, -3, 3);
  const homes = new Map<PitchClass, MidiNote>();
  for (const pitch of range(brief.high - brief.low + 1).map((step) => brief.low + step)) {
    const known = homes.get(modulo(pitch, 12));
    // Where octaves are struck, they have to lie in the register too.
    const tooHigh = room === ROOM.octaves && pitch + 12 > brief.high;
    if (known === undefined || (!tooHigh && Math.abs(pitch - centre) < Math.abs(known - centre)))
      homes.set(modulo(pitch, 12), pitch);
  }
  return { homes, fifthAbove: happens(random, 60) };
}

/** The strokes with their chords, around what is held. */
function drawOnsets(figure: BassFigure, turn: BassFigure, context: PartContext, random: Random): BassOnset[] {
  const { chords, length } = context;
  const strokes = new Map(drawBassStrokes(figure, turn, context, random).map(({ start, tone }) => [start, tone]));
  const starts = [...strokes.keys()].filter((start) => chordAt(chords, start)).sort((a, b) => a - b);
  const places = placesAround(starts, context, random);
  return places.map(({ start, stroke }, index): BassOnset => {
    const next = places[index + 1]?.start ?? length;
    const leads = (spanAt(chords, start)?.start ?? 0) !== (spanAt(chords, next)?.start ?? -1);
    const wished = strokes.get(start) ?? 'W';
    const tone = wished === 'A' && !leads ? 'W' : wished;
    return { start, stroke, tone, chord: chordAt(chords, start), coming: nextChord(chords, start) };
  });
}

const at = (root: PitchClass, semitones: number): PitchClass => modulo(root + semitones, 12);

/** What a root in another octave than its own costs. */
const STRANGE = 700;
/** What the note that a figure asks for is worth. */
const WANTED = 300;

/** Layers of one line; those of equal notes over equal chords are made once. */
function layersOf(pitches: readonly MidiNote[], seat: Seat, context: PartContext): (onset: BassOnset) => Int32Array {
  const made = new Map<Chord | null, Map<string, Int32Array>>();
  return (onset) => {
    const own = made.get(onset.chord) ?? new Map<string, Int32Array>();
    made.set(onset.chord, own);
    const target = onset.tone === 'A' && onset.coming ? (onset.coming.bass ?? onset.coming.root) : '';
    const name = `${onset.tone} ${isArrival(onset, context)} ${target} ${onset.coming === null}`;
    const layer = own.get(name) ?? layerOf(onset, pitches, seat, context);
    own.set(name, layer);
    return layer;
  };
}

const isArrival = ({ start }: BassOnset, { chords }: PartContext): boolean => spanAt(chords, start)?.start === start;

/** Weights of all pitches of the register as one bass note. */
function layerOf(
  onset: BassOnset,
  pitches: readonly MidiNote[],
  { homes, fifthAbove }: Seat,
  context: PartContext,
): Int32Array {
  const { tone, chord, coming } = onset;
  const { brief, keyMask } = context;
  if (!chord || !coming) return new Int32Array(pitches.length);
  const root = pitchClassOf(chord.bass ?? chord.root);
  const home = homes.get(root) ?? brief.low;
  // Fifth and third are the chord's own, whatever lies lowest.
  const chordRoot = pitchClassOf(chord.root);
  const arrival = isArrival(onset, context);
  const target = pitchClassOf(coming.bass ?? coming.root);
  const fifth = chord.tones.find((label) => label.endsWith('5')) ?? '5';
  const third = chord.tones.find((label) => /^b?3$|^[24]$/.test(label)) ?? '5';
  const allowed = brief.adventure === 0 ? keyMask | chordMask(chord) : 0xfff;
  const tonic = pitchClassOf(context.key.tonic);
  return Int32Array.from(pitches, (pitch) => {
    const pitchClass = modulo(pitch, 12);
    if (tone === 'P') return pitchClass !== tonic ? FORBIDDEN : pitch === homes.get(tonic) ? 0 : -STRANGE;
    if (arrival || tone === 'R') return pitchClass !== root ? FORBIDDEN : pitch === home ? 0 : -STRANGE;
    if (!inMask(allowed, pitch)) return FORBIDDEN;
    const inChord = inMask(chordMask(chord), pitch);
    let weight = -4 * Math.abs(pitch - home - (tone === 'O' ? 12 : 3));
    // The root comes back in its own octave, unless its octave is what is asked for.
    if (pitchClass === root && pitch !== home && tone !== 'O') weight -= STRANGE;
    if (tone === 'F') {
      const isFifth = pitchClass === at(chordRoot, semitonesOf(fifth));
      weight += isFifth ? WANTED + (pitch > home === fifthAbove ? 80 : 0) : inChord ? 0 : -600;
    }
    if (tone === 'O') weight += pitch === home + 12 ? WANTED + 200 : pitchClass === root ? WANTED : -600;
    if (tone === 'T')
      weight +=
        pitchClass === at(chordRoot, semitonesOf(third)) ? WANTED + (pitch > home ? 60 : 0) : inChord ? 0 : -600;
    if (tone === 'W') weight += inChord ? 60 : inMask(keyMask, pitch) ? -20 : -700;
    if (tone === 'A') weight += approachWeight(pitchClass, target, inMask(keyMask, pitch), inChord, brief.adventure);
    return weight;
  });
}

/** Approaches from a step away, chromatically as adventure allows, or from the fifth of the chord to come. */
function approachWeight(
  pitchClass: PitchClass,
  target: PitchClass,
  inKey: boolean,
  inChord: boolean,
  adventure: number,
): number {
  const below = modulo(target - pitchClass, 12);
  const distance = Math.min(below, 12 - below);
  if (distance === 0) return -400;
  if (distance <= 2) return inKey || inChord ? 200 : 4 * adventure - 140;
  if (below === 5) return inKey ? 110 : -200;
  return inChord ? 20 : -500;
}

/** Links already tabulated, by the progression that they were made for: many attempts share them. */
const knownLinks = new WeakMap<object, Map<string, readonly [Links, Links]>>();

/** Links between all onsets: what walks or approaches never strikes a note twice. */
function linksOf(onsets: readonly BassOnset[], pitches: readonly MidiNote[], { brief, chords }: PartContext): Links[] {
  const known = knownLinks.get(chords) ?? new Map<string, readonly [Links, Links]>();
  knownLinks.set(chords, known);
  const name = `${brief.stride} ${pitches.join()}`;
  const made = (): [Links, Links] =>
    [false, true].map((moves) =>
      linkLayers(pitches.length, pitches.length, (from, to) =>
        leadingWeight((pitches[to] as number) - (pitches[from] as number), brief.stride, moves),
      ),
    ) as [Links, Links];
  const [steady, moving] = known.get(name) ?? made();
  known.set(name, [steady, moving]);
  return onsets
    .slice(1)
    .map(({ tone, stroke }) => (stroke === null && (tone === 'W' || tone === 'A') ? moving : steady));
}

/** What striking a note again costs a line that moves. */
const RESTING = 600;

/** Small steps flow, octaves and fifths are the bass's own leaps. */
function leadingWeight(interval: Semitones, stride: number, moves: boolean): number {
  const size = Math.abs(interval);
  if (size > 14) return -900;
  if (moves && size === 0) return -RESTING;
  const own = size === 12 || size === 7 || size === 5 || size === 0;
  const each = moves ? (own ? 14 : 18) : own ? 6 : 11;
  return -Math.round(size * each * (1.4 - stride / 125));
}

/** Sounds for `length` percent of the way to the next note, never past the end of its chord. */
function durationOf(start: Ticks, next: Ticks, length: number, context: PartContext): Ticks {
  const span = spanAt(context.chords, start);
  const end = Math.min(next, span ? span.start + span.duration : next, context.length);
  return lengthened(Math.max(30, Math.round(((end - start) * length) / 100)), end - start, context.brief.length);
}
