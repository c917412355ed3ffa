import type { ChordSpan, Note } from '../song/schema';
import type { Chord } from '../theory/chord';
import { colouredChords } from '../theory/colour';
import { beatsOf, metricalWeight, WEIGHT } from '../theory/metre';
import { range, SIXTEENTH, TICKS_PER_QUARTER, type Ticks } from '../theory/units';
import type { ArpeggioFigure, CompingFigure } from '../song/style';
import { unmet, type PartContext, type PartDraft, type Unmet } from './context';
import { drawVelocities } from './dynamics';
import { playedCell, type CellStroke } from './figure-cell';
import { chanceOf, homeMetre, layFigure } from '../styles/figure';
import { happens, pickIndex, pickWeighted, type Random } from '../trellis/random';
import type { Streams } from './stages';
import { drawBar } from './strokes';
import { lengthened } from './melody/rhythm';
import { isDeadEnd } from '../trellis/trellis';
import type { Voicing } from '../voicing/types';
import { voiceChords } from '../voicing/voicing';

/** A chord span that sounds, with how it is voiced. */
interface VoicedSpan extends ChordSpan {
  readonly pitches: Voicing;
}

type Voiced = { readonly ok: true; readonly spans: VoicedSpan[] } | Unmet;

/** Adventure in % up to which chords are played as they stand, and the chance that each percent more colours one. */
const PLAIN = { upTo: 20, each: 1.25 } as const;

/** The chord as this take plays it: with a seventh, ninth or sixth of the key as adventure grows. */
function coloured(chord: Chord, { brief, keyMask }: PartContext, random: Random): Chord {
  if (!happens(random, (brief.adventure - PLAIN.upTo) * PLAIN.each)) return chord;
  const ways = colouredChords(chord, keyMask);
  return ways[pickIndex(random, ways.length)] ?? chord;
}

/** Voices the section's chords for one take: near the smoothest way, in a register that differs a little each time. */
function voice(context: PartContext, voices: number, random: Random): Voiced {
  const { brief, chords } = context;
  const sounding = chords.flatMap((span) =>
    span.chord ? [{ ...span, chord: voices > 2 ? coloured(span.chord, context, random) : span.chord }] : [],
  );
  const centre = (brief.low + brief.high) / 2 + (random.next() - 0.5) * Math.min(8, brief.high - brief.low);
  const voicings = voiceChords(
    sounding,
    { low: brief.low, high: brief.high, voices, centre },
    random,
    20 + brief.adventure / 3,
  );
  if (isDeadEnd(voicings))
    return unmet(
      'register',
      `The register holds no voicing of chord ${voicings.deadEnd + 1}. Widen it to at least an octave.`,
    );
  return { ok: true, spans: sounding.map((span, index) => ({ ...span, pitches: voicings[index] as Voicing })) };
}

interface Stroke {
  readonly start: Ticks;
  readonly end: Ticks;
  readonly accent: boolean;
  readonly pitches: Voicing;
}

/** Turns strokes into notes; a stroke's notes share its velocity but for a little balance towards the top line. */
function strike(strokes: readonly Stroke[], context: PartContext, random: Random): Note[] {
  const accents = strokes.map(({ accent }) => (accent ? 8 : 0));
  const velocities = drawVelocities(
    strokes.map(({ start }) => start),
    context.brief.loudness,
    context,
    random,
    accents,
  );
  return strokes.flatMap(({ start, end, pitches }, index) =>
    pitches.map((pitch, voice): Note => {
      const top = voice === pitches.length - 1 ? 3 : 0;
      return {
        start,
        duration: Math.max(30, end - start),
        pitch,
        velocity: Math.min(127, Math.max(1, (velocities[index] as number) + top)),
      };
    }),
  );
}

const density = (steps: string): number =>
  [...steps].reduce((total, symbol) => total + (symbol === '|' ? 0 : chanceOf(symbol) / 100), 0) /
  steps.split('|').length;

function pickFigure(figures: readonly CompingFigure[], context: PartContext, random: Random): CompingFigure {
  return pickWeighted(
    random,
    figures.map((figure) => {
      const away = 0.6 + Math.abs(density(figure.steps) - context.brief.busyness);
      return [figure, 1 / (away * away)] as const;
    }),
  );
}

const PHRASE_BARS = 4;
/** Chance that phrases end with another figure, in %. */
const TURNS = 68;

/** A figure's bars as they are played throughout, strokes with whether they are accented: chances are drawn once. */
function drawCell({ steps }: CompingFigure, context: PartContext, random: Random): CellStroke<boolean>[][] {
  const home = homeMetre(context.style.metres[0] ?? '4/4');
  const bars = range(steps.split('|').length).map((bar) =>
    layFigure(steps, home, context.metre, bar)
      .filter(({ symbol }) => happens(random, chanceOf(symbol)))
      .map(({ at, symbol }) => ({ at, what: symbol === 'X' })),
  );
  return playedCell(bars, () => false, context, random);
}

/**
 * When a chord is struck: the figure's strokes, plus every arrival of a chord the figure would miss by more than a
 * beat.
 */
function drawStarts(
  figure: CompingFigure,
  turn: CompingFigure,
  spans: readonly VoicedSpan[],
  context: PartContext,
  random: Random,
): Map<Ticks, boolean> {
  const { bars, barTicks, metre } = context;
  const cell = drawCell(figure, context, random);
  const ending = turn === figure ? cell : drawCell(turn, context, random);
  const starts = new Map<Ticks, boolean>();
  for (const bar of range(bars)) {
    // The last bar of a phrase may turn to another figure, as players do before they go round again.
    const own = bar % PHRASE_BARS === PHRASE_BARS - 1 ? ending : cell;
    for (const { at, what } of own[bar % own.length] ?? []) starts.set(bar * barTicks + at, what);
  }
  const beat = beatsOf(metre)[0]?.length ?? TICKS_PER_QUARTER;
  for (const { start } of spans) {
    const reached = [...starts.keys()].some((other) => other >= start && other <= start + beat);
    if (!reached) starts.set(start, false);
  }
  return starts;
}

/** A stroke on the last eighth before a chord change may take the coming chord. */
function soundingSpan(spans: readonly VoicedSpan[], start: Ticks, pushes: boolean): VoicedSpan | undefined {
  const here = spans.findLast((span) => span.start <= start && start < span.start + span.duration);
  const coming = spans.find((span) => span.start > start && span.start - start <= TICKS_PER_QUARTER / 2);
  return pushes && coming ? coming : here;
}

/** Drafts comping: smooth voicings struck in one of the style's figures. */
export function draftComping(context: PartContext, streams: Streams): PartDraft {
  const [plan, rhythm] = [streams('plan'), streams('rhythm')];
  const figure = pickFigure(context.style.comping, context, plan);
  const voiced = voice(context, context.brief.voices, streams('pitch'));
  if (!voiced.ok) return voiced;
  const others = context.style.comping.filter((other) => other !== figure);
  const turn = others.length > 0 && happens(plan, TURNS) ? pickFigure(others, context, plan) : figure;
  const starts = [...drawStarts(figure, turn, voiced.spans, context, rhythm)].sort(([a], [b]) => a - b);
  const strokes = starts.flatMap(([start, accent], index): Stroke[] => {
    const offBeat = metricalWeight(context.metre, start) < WEIGHT.beat;
    const span = soundingSpan(voiced.spans, start, offBeat && happens(rhythm, context.brief.syncopation));
    if (!span) return [];
    const next = starts[index + 1]?.[0] ?? context.length;
    const limit = Math.min(next, span.start + span.duration, context.length);
    const end =
      start + lengthened(Math.round(((limit - start) * figure.length) / 100), limit - start, context.brief.length);
    return [{ start, end, accent, pitches: span.pitches }];
  });
  return { ok: true, notes: strike(strokes, context, streams('dynamics')) };
}

/** Busyness from which a pad strikes its chords again. */
const SWELLS = 1.2;

/** When a pad strikes again what it holds: in every bar as often as it is busy. */
function drawSwells({ metre, bars, barTicks, brief }: PartContext, random: Random): Set<Ticks> {
  if (brief.busyness < SWELLS) return new Set();
  const cell = drawBar(metre, Math.round(brief.busyness), { ...brief, grid: null }, random);
  return new Set(range(bars).flatMap((bar) => cell.map((at) => bar * barTicks + at)));
}

/** A span in pieces that begin at some moments. */
function cutAt(span: VoicedSpan, moments: ReadonlySet<Ticks>): VoicedSpan[] {
  const end = span.start + span.duration;
  const starts = [span.start, ...[...moments].filter((at) => at > span.start && at < end).sort((a, b) => a - b)];
  return starts.map((start, index) => ({ ...span, start, duration: (starts[index + 1] ?? end) - start }));
}

/** Drafts a pad: chords held and tied, voices that stay keep sounding. */
export function draftPad(context: PartContext, streams: Streams): PartDraft {
  const voices = context.brief.voices === 4 ? 3 + (happens(streams('plan'), 50) ? 1 : 0) : context.brief.voices;
  const voiced = voice(context, voices, streams('pitch'));
  if (!voiced.ok) return voiced;
  const struck = drawSwells(context, streams('rhythm'));
  const spans = voiced.spans.flatMap((span) => cutAt(span, struck));
  const notes: { start: Ticks; duration: Ticks; pitch: number }[] = [];
  spans.forEach((span, index) => {
    const before = spans[index - 1];
    for (const pitch of span.pitches) {
      const tied = before && before.start + before.duration === span.start && before.pitches.includes(pitch);
      const held = tied && !struck.has(span.start) ? notes.findLast((note) => note.pitch === pitch) : undefined;
      if (held) held.duration += span.duration;
      else notes.push({ start: span.start, duration: span.duration, pitch });
    }
  });
  notes.sort((a, b) => a.start - b.start || a.pitch - b.pitch);
  const velocities = drawVelocities(
    notes.map(({ start }) => start),
    context.brief.loudness,
    context,
    streams('dynamics'),
  );
  return { ok: true, notes: notes.map((note, index) => ({ ...note, velocity: velocities[index] as number })) };
}

/** Notes a quarter that come nearest the busyness asked for; compound beats divide by three. */
function rateOf(figure: ArpeggioFigure, context: PartContext): Ticks {
  const quarters = context.barTicks / TICKS_PER_QUARTER;
  const wanted = context.brief.busyness / quarters;
  const options = [1, 2, 4].map((rate) => TICKS_PER_QUARTER / rate);
  const nearest = options.reduce((best, step) =>
    Math.abs(TICKS_PER_QUARTER / step - wanted) < Math.abs(TICKS_PER_QUARTER / best - wanted) ? step : best,
  );
  return figure.rate === 3 && nearest === TICKS_PER_QUARTER / 2 ? TICKS_PER_QUARTER / 3 : nearest;
}

/** Drafts an arpeggio: an order of chord notes walked at a steady rate, beginning anew with every chord. */
export function draftArpeggio(context: PartContext, streams: Streams): PartDraft {
  const triplets = beatsOf(context.metre).every(({ division }) => division === 2);
  const usable = context.style.arpeggio.filter(({ rate }) => rate !== 3 || triplets);
  const figure = usable[pickIndex(streams('plan'), usable.length)] ?? context.style.arpeggio[0];
  if (!figure) return { ok: true, notes: [] };
  const voiced = voice(context, 4, streams('pitch'));
  if (!voiced.ok) return voiced;
  const step = Math.max(SIXTEENTH, rateOf(figure, context));
  const strokes = voiced.spans.flatMap((span) => {
    const rungs = [
      ...span.pitches,
      ...span.pitches.map((pitch) => pitch + 12).filter((pitch) => pitch <= context.brief.high),
    ];
    const count = Math.ceil(span.duration / step);
    return Array.from({ length: count }, (_, index): Stroke => {
      const start = span.start + index * step;
      const end = Math.min(start + Math.round((step * figure.length) / 100), span.start + span.duration);
      const rung = (figure.order[index % figure.order.length] ?? 0) % rungs.length;
      return { start, end, accent: index === 0, pitches: [rungs[rung] as number] };
    });
  });
  return { ok: true, notes: strike(thin(strokes, context, streams('rhythm')), context, streams('dynamics')) };
}

/** Leaves out weak notes by the share that breath asks for; arrivals always sound. */
function thin(strokes: readonly Stroke[], { brief, metre }: PartContext, random: Random): Stroke[] {
  return strokes.filter(
    ({ start, accent }) => accent || metricalWeight(metre, start) >= WEIGHT.beat || !happens(random, brief.breath / 2),
  );
}
