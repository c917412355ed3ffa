import { chordMask, type Chord } from '../theory/chord';
import { beatsOf } from '../theory/metre';
import { inMask, pitchClassOf, semitonesOf } from '../theory/pitch';
import { modulo, range, type MidiNote, type PitchClass, type Ticks } from '../theory/units';
import { BASS_WAY_FIGURES } from '../styles/common-figures';
import { DRUM_KEYS, type BassFigure } from '../song/style';
import { chordAt, nextChord, spanAt, unmet, type PartContext, type PartDraft } from './context';
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
import type { Streams } from './stages';
import { homeMetre, layFigure } from '../styles/figure';
import { happens, pickWeighted, type Random } from '../trellis/random';
import { FORBIDDEN, isDeadEnd, linkLayers, pathSampler, type Links } from '../trellis/trellis';
import { temperatureOf } from '../trellis/weights';

/** What a bass note is asked to be; the small letters of a figure are the same wishes with a chance. */
type BassTone = 'R' | 'F' | 'O' | 'T' | 'A' | 'W' | 'P';

interface BassOnset extends Place {
  readonly tone: BassTone;
  /** Null where none sounds: only held notes stand there. */
  readonly chord: Chord | null;
  readonly coming: Chord | null;
}

/**
 * Drafts a bassline: a figure of the style carried to the metre, roots on every arrival of a chord, the rest chosen by
 * the trellis so that approaches lead into the next root.
 */
export function draftBass(context: PartContext, streams: Streams): PartDraft {
  const plan = streams('plan');
  const { way } = context.brief;
  const figures = way === null ? context.style.bass : [BASS_WAY_FIGURES[way]];
  const figure = pickFigure(figures, context, plan);
  const turn = happens(plan, 70) ? pickFigure(figures, context, plan) : figure;
  const onsets = drawOnsets(figure, turn, context, streams('rhythm'));
  if (onsets.length === 0) return { ok: true, notes: [] };
  const own = range(context.brief.high - context.brief.low + 1).map((step) => context.brief.low + step);
  const held = onsets.map(heldBottom);
  const pitches = withHeldPitches(own, held);
  const layers = onsets.map((onset, index) =>
    keptLayer(
      layerOf(onset, pitches, context, index),
      pitches,
      new Set(own),
      held[index] ?? null,
      leaningAt(context.held, onset.start),
    ),
  );
  const rootless = layers.findIndex((layer) => layer.every((weight) => weight <= FORBIDDEN));
  if (rootless >= 0)
    return unmet('register', 'The register of the bass does not hold every root. Widen it to at least an octave.');
  const shared = linkLayers(pitches.length, pitches.length, (from, to) =>
    leadingWeight(to - from, context.brief.stride),
  );
  const sampler = pathSampler(
    { layers, links: onsets.slice(1).map((): Links => shared) },
    temperatureOf(context.brief.adventure),
  );
  if (isDeadEnd(sampler))
    return unmet('register', 'No bassline reaches every root in this register. Widen it to at least an octave.');
  const path = sampler.draw(streams('pitch'));
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
      pitch: pitches[path[index] as number] as MidiNote,
      velocity: velocities[index] as number,
    };
    return asHeld(note, stroke);
  });
  return { ok: true, notes };
}

const density = (figure: BassFigure): number =>
  figure.steps.replaceAll(/[.|]/g, '').length / figure.steps.split('|').length;

/** Prefers the figure whose density comes nearest the busyness asked for. */
function pickFigure(figures: readonly BassFigure[], { brief }: PartContext, random: Random): BassFigure {
  return pickWeighted(
    random,
    figures.map((figure) => [figure, 1 / (0.6 + Math.abs(density(figure) - brief.busyness))] as const),
  );
}

/**
 * The figure's strokes over the section, a root at each arrival of a chord, and strokes of the kick where it is asked
 * to lock.
 */
function drawOnsets(figure: BassFigure, turn: BassFigure, context: PartContext, random: Random): BassOnset[] {
  const { chords, metre, bars, barTicks, brief, style, beside } = context;
  // The ways that any style can take are written in common time.
  const home = homeMetre(brief.way === null ? (style.metres[0] ?? '4/4') : '4/4');
  const wishes = new Map<Ticks, BassTone>();
  const likely = Math.min(95, (60 * brief.busyness) / Math.max(1, density(figure)));
  for (let bar = 0; bar < bars; bar++) {
    // Phrases of four bars may end with another figure.
    for (const { at, symbol } of layFigure(bar % 4 === 3 ? turn.steps : figure.steps, home, metre, bar)) {
      const certain = symbol === symbol.toUpperCase();
      if (certain || happens(random, likely)) wishes.set(bar * barTicks + at, symbol.toUpperCase() as BassTone);
    }
  }
  const kick = new Set(
    beside.flatMap(({ notes }) => notes.filter(({ pitch }) => pitch === DRUM_KEYS.kick).map(({ start }) => start)),
  );
  for (const start of kick) {
    const free = [...wishes.keys()].every((taken) => Math.abs(taken - start) >= barTicks / beatsOf(metre).length / 4);
    if (free && start < context.length && happens(random, brief.syncopation))
      wishes.set(start, brief.way === 'pedal' ? 'P' : 'R');
  }
  for (const { start, chord } of chords) if (chord) wishes.set(start, brief.way === 'pedal' ? 'P' : 'R');
  const starts = [...wishes.keys()].filter((start) => chordAt(chords, start)).sort((a, b) => a - b);
  const places = placesAround(starts, context, random);
  return places.map(({ start, stroke }, index): BassOnset => {
    const next = places[index + 1]?.start ?? context.length;
    const leads = (spanAt(chords, start)?.start ?? 0) !== (spanAt(chords, next)?.start ?? -1);
    const wished = wishes.get(start) ?? 'W';
    const tone = wished === 'A' && !leads ? 'W' : wished;
    return { start, stroke, tone, chord: chordAt(chords, start), coming: nextChord(chords, start) };
  });
}

const at = (root: PitchClass, semitones: number): PitchClass => modulo(root + semitones, 12);

/** Weights of all pitches of the register as one bass note. */
function layerOf(
  { start, tone, chord, coming }: BassOnset,
  pitches: readonly MidiNote[],
  context: PartContext,
  index: number,
): Int32Array {
  const { brief, keyMask } = context;
  if (!chord || !coming) return new Int32Array(pitches.length);
  const root = pitchClassOf(chord.bass ?? chord.root);
  // Fifth and third are the chord's own, whatever lies lowest.
  const chordRoot = pitchClassOf(chord.root);
  const arrival = (spanAt(context.chords, start)?.start ?? -1) === start;
  const target = pitchClassOf(coming.bass ?? coming.root);
  const fifth = chord.tones.find((label) => label.endsWith('5')) ?? '5';
  const third = chord.tones.find((label) => /^b?3$|^[24]$/.test(label)) ?? '5';
  const centre = brief.low + Math.min(9, (brief.high - brief.low) / 2);
  const allowed = brief.adventure === 0 ? keyMask | chordMask(chord) : 0xfff;
  return Int32Array.from(pitches, (pitch) => {
    const pitchClass = modulo(pitch, 12);
    // Octaves need their lower note low.
    let weight = -Math.round(
      brief.way === 'octaves' && tone === 'R' ? 6 * (pitch - brief.low) : 5 * Math.abs(pitch - centre),
    );
    if (tone === 'P') return pitchClass === pitchClassOf(context.key.tonic) ? weight : FORBIDDEN;
    if (arrival || tone === 'R')
      return pitchClass === root ? weight - (index === 0 ? 2 * Math.abs(pitch - centre) : 0) : FORBIDDEN;
    if (!inMask(allowed, pitch)) return FORBIDDEN;
    const inChord = inMask(chordMask(chord), pitch);
    if (tone === 'F') weight += pitchClass === at(chordRoot, semitonesOf(fifth)) ? 300 : inChord ? 0 : -600;
    if (tone === 'O') weight += pitchClass === root ? 300 + (pitch - 12 >= brief.low ? 260 : 0) : inChord ? -60 : -600;
    if (tone === 'T') weight += pitchClass === at(chordRoot, semitonesOf(third)) ? 300 : inChord ? 0 : -600;
    if (tone === 'W') weight += inChord ? 60 : inMask(keyMask, pitch) ? -40 : -700;
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
  if (distance === 0) return -160;
  if (distance <= 2) return inKey || inChord ? 200 : adventure - 60;
  if (below === 5) return inKey ? 110 : -200;
  return inChord ? 20 : -500;
}

/** Small steps flow, octaves and fifths are the bass's own leaps. */
function leadingWeight(interval: number, stride: number): number {
  const size = Math.abs(interval);
  if (size > 14) return -900;
  const own = size === 12 || size === 7 || size === 5 || size === 0;
  return -Math.round(size * (own ? 6 : 11) * (1.4 - stride / 125));
}

/** Sounds for `length` percent of the way to the next note, never past the end of its chord. */
function durationOf(start: Ticks, next: Ticks, length: number, context: PartContext): Ticks {
  const span = spanAt(context.chords, start);
  const end = Math.min(next, span ? span.start + span.duration : next, context.length);
  return Math.max(30, Math.round(((end - start) * length) / 100));
}
