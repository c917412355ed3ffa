import type { ChordSpan, Note } from '../song/schema';
import { COMMON_PICKING, COMMON_STRUMS } from '../styles/common-figures';
import type { GuitarFigure } from '../song/style';
import { metricalWeight, WEIGHT, type Metre } from '../theory/metre';
import { range, SIXTEENTH, type MidiNote, type Ticks } from '../theory/units';
import { happens, pickWeighted, type Random } from '../trellis/random';
import { bestPath, isDeadEnd, pathSampler } from '../trellis/trellis';
import { unmet, type PartContext, type PartDraft, type Unmet } from './context';
import { drawVelocities } from './dynamics';
import { playedCell } from './figure-cell';
import { homeMetre, layFigure } from '../styles/figure';
import type { Streams } from './stages';
import { lengthened } from './melody/rhythm';
import { FEWEST_STRINGS, shapeOfPitches } from '../voicing/guitar';
import type { Voicing } from '../voicing/types';
import { voicingsOf, voicingTrellis, type VoicingWish } from '../voicing/voicing';

interface Held extends ChordSpan {
  readonly pitches: Voicing;
}

type Shaped = { readonly ok: true; readonly spans: Held[] } | Unmet;

/** Shapes for the section's chords inside the register, near the path of least motion of the hand. */
function shape(context: PartContext, random: Random): Shaped {
  const { brief, chords } = context;
  const sounding = chords.flatMap((span) => (span.chord ? [{ ...span, chord: span.chord }] : []));
  const wish: VoicingWish = {
    low: brief.low,
    high: brief.high,
    voices: brief.voices,
    // Open shapes lie in the lower half of what a guitar reaches.
    centre: brief.low + Math.round((brief.high - brief.low) * 0.37),
    pull: 24,
    family: 'guitar',
    bass: 'as it comes',
  };
  const inRegister = (pitches: Voicing): boolean =>
    pitches.every((pitch) => pitch >= brief.low && pitch <= brief.high) &&
    pitches.length <= Math.max(FEWEST_STRINGS, brief.voices);
  // Where no shape fits, the fallback for two hands is no guitar chord: it is refused rather than played.
  const candidates = sounding.map((span) =>
    voicingsOf(span, wish)
      .filter(inRegister)
      .filter((pitches) => pitches.length >= FEWEST_STRINGS && shapeOfPitches(span.chord, pitches) !== null),
  );
  const empty = candidates.findIndex((shapes) => shapes.length === 0);
  if (empty >= 0)
    return unmet(
      'register',
      `No shape of chord ${empty + 1} lies in this register. Widen it: a guitar’s chords need about two octaves from E2 up.`,
    );
  const trellis = voicingTrellis(
    sounding.map(({ chord }) => chord),
    candidates,
    wish,
  );
  const sampler = pathSampler(trellis, 15 + brief.adventure / 2);
  const path = isDeadEnd(sampler) ? bestPath(trellis) : sampler.draw(random);
  if (isDeadEnd(path)) return { ok: false, reason: 'These chords cannot be held one after the other on a guitar.' };
  return {
    ok: true,
    spans: sounding.map((span, index) => ({ ...span, pitches: candidates[index]?.[path[index] as number] ?? [] })),
  };
}

const densityOf = ({ steps }: GuitarFigure): number => steps.replaceAll(/[.|]/g, '').length / steps.split('|').length;

const pickFigure = (figures: readonly GuitarFigure[], { brief }: PartContext, random: Random): GuitarFigure =>
  pickWeighted(
    random,
    figures.map((figure) => {
      const away = 0.6 + Math.abs(densityOf(figure) - brief.busyness);
      return [figure, 1 / (away * away)] as const;
    }),
  );

interface Stroke {
  readonly at: Ticks;
  readonly symbol: string;
}

/** What a stroke is that a busier brief adds: strums go down on the beat and up after it, fingers roll upwards. */
const FILLER: Readonly<Record<'D' | 'p', (at: Ticks, metre: Metre) => string>> = {
  D: (at, metre) => (metricalWeight(metre, at) >= WEIGHT.beat ? 'd' : 'u'),
  p: (at) => 'ima'.charAt((at / SIXTEENTH) % 3),
};

/** A figure's strokes over the section, and one on every arrival of a chord that it misses. */
function strokesOf(
  figure: GuitarFigure,
  turn: GuitarFigure,
  own: boolean,
  arrival: 'D' | 'p',
  spans: readonly Held[],
  context: PartContext,
  random: Random,
): Stroke[] {
  const { bars, barTicks, metre, style } = context;
  const home = homeMetre(own ? (style.metres[0] ?? '4/4') : '4/4');
  const cellOf = ({ steps }: GuitarFigure) =>
    playedCell(
      range(steps.split('|').length).map((bar) =>
        layFigure(steps, home, metre, bar).map(({ at, symbol }) => ({ at, what: symbol })),
      ),
      FILLER[arrival],
      context,
      random,
    );
  const cell = cellOf(figure);
  const ending = turn === figure ? cell : cellOf(turn);
  const strokes = new Map<Ticks, string>();
  for (const bar of range(bars)) {
    const played = bar % PHRASE_BARS === PHRASE_BARS - 1 ? ending : cell;
    for (const { at, what } of played[bar % played.length] ?? []) strokes.set(bar * barTicks + at, what);
  }
  for (const { start } of spans) if (!strokes.has(start)) strokes.set(start, arrival);
  return [...strokes].map(([at, symbol]) => ({ at, symbol })).sort((a, b) => a.at - b.at);
}

const PHRASE_BARS = 4;
/** Chance that the last bar of a phrase turns to another figure, in %. */
const TURNS = 65;

/** The figure that ends phrases: now and then another one. */
function turnOf(
  figure: GuitarFigure,
  figures: readonly GuitarFigure[],
  context: PartContext,
  random: Random,
): GuitarFigure {
  const others = figures.filter((other) => other !== figure);
  return others.length > 0 && happens(random, TURNS) ? pickFigure(others, context, random) : figure;
}

/** Ticks from string to string: a down stroke is slower than an up stroke. */
const SPREAD = { down: 9, up: 6 } as const;
const MUTED: Ticks = 40;

/** Drafts strumming: shapes that a hand can hold, struck down and up with the strings in their order. */
export function draftStrum(context: PartContext, streams: Streams): PartDraft {
  const plan = streams('plan');
  const shaped = shape(context, streams('pitch'));
  if (!shaped.ok) return shaped;
  const own = context.style.strums !== undefined;
  const figures = context.style.strums ?? COMMON_STRUMS;
  const figure = pickFigure(figures, context, plan);
  const strokes = strokesOf(
    figure,
    turnOf(figure, figures, context, plan),
    own,
    'D',
    shaped.spans,
    context,
    streams('rhythm'),
  );
  const loud = strokes.map(({ symbol }) => (symbol === 'D' ? 6 : symbol === 'U' ? 0 : symbol === '~' ? -20 : -10));
  const velocities = drawVelocities(
    strokes.map(({ at }) => at),
    context.brief.loudness,
    context,
    streams('dynamics'),
    loud,
  );
  const notes = strokes.flatMap(({ at, symbol }, index): Note[] => {
    const span = spanAt(shaped.spans, at);
    if (!span) return [];
    const limit = Math.min(strokes[index + 1]?.at ?? context.length, span.start + span.duration, context.length);
    const upwards = symbol === 'U' || symbol === 'u';
    // An up stroke catches the higher strings; a muted one is felt rather than heard.
    const struck = upwards ? span.pitches.slice(-4) : span.pitches;
    const duration =
      symbol === '~'
        ? Math.min(MUTED, limit - at)
        : lengthened(Math.max(30, Math.round((limit - at) * 0.92)), limit - at, context.brief.length);
    return struck.map((pitch, string): Note => {
      const order = upwards ? struck.length - 1 - string : string;
      const nudge = Math.min(order * (upwards ? SPREAD.up : SPREAD.down), Math.max(0, duration - 10));
      return { start: at, duration, pitch, velocity: velocities[index] as number, ...(nudge > 0 ? { nudge } : {}) };
    });
  });
  return { ok: true, notes };
}

const spanAt = (spans: readonly Held[], at: Ticks): Held | undefined =>
  spans.findLast(({ start, duration }) => start <= at && at < start + duration);

/** The string that a finger plucks, of the shape that the other hand holds. */
function plucked(symbol: string, { pitches }: Held): MidiNote[] {
  const fromTop = (place: number): MidiNote => pitches[Math.max(0, pitches.length - place)] as MidiNote;
  const bass = pitches[0] as MidiNote;
  switch (symbol) {
    case 'q':
      return [pitches[Math.min(1, pitches.length - 1)] as MidiNote];
    case 'i':
      return [fromTop(3)];
    case 'm':
      return [fromTop(2)];
    case 'a':
      return [fromTop(1)];
    case 'P':
      return [bass, fromTop(1)];
    default:
      return [bass];
  }
}

/**
 * Drafts picking: thumb and fingers on the strings of shapes that a hand can hold, each string ringing until it is
 * plucked again.
 */
export function draftPicking(context: PartContext, streams: Streams): PartDraft {
  const plan = streams('plan');
  const shaped = shape(context, streams('pitch'));
  if (!shaped.ok) return shaped;
  const own = context.style.picking !== undefined;
  const figures = context.style.picking ?? COMMON_PICKING;
  const figure = pickFigure(figures, context, plan);
  const strokes = strokesOf(
    figure,
    turnOf(figure, figures, context, plan),
    own,
    'p',
    shaped.spans,
    context,
    streams('rhythm'),
  );
  const velocities = drawVelocities(
    strokes.map(({ at }) => at),
    context.brief.loudness,
    context,
    streams('dynamics'),
    strokes.map(({ symbol }) => (/[pP]/.test(symbol) ? 5 : 0)),
  );
  const notes = strokes.flatMap(({ at, symbol }, index): Note[] => {
    const span = spanAt(shaped.spans, at);
    if (!span || span.pitches.length === 0) return [];
    const end = Math.min(span.start + span.duration, context.length);
    return [...new Set(plucked(symbol, span))].map((pitch): Note => {
      const again = strokes
        .slice(index + 1)
        .find((stroke) => stroke.at < end && plucked(stroke.symbol, span).includes(pitch));
      return {
        start: at,
        duration: Math.max(20, (again?.at ?? end) - at),
        pitch,
        velocity: velocities[index] as number,
      };
    });
  });
  return { ok: true, notes };
}
