import type { Note } from '../song/schema';
import { COMMON_PERCUSSION } from '../styles/common-figures';
import { DRUM_KEYS, type DrumVoice, type Groove } from '../song/style';
import { beatsOf, type Metre } from '../theory/metre';
import { clamp, SIXTEENTH, type Percent, type Ticks } from '../theory/units';
import type { PartContext, PartDraft } from './context';
import { barsOfGroove, inTime } from './drum-time';
import { asBusy, SOFT, touched, type Hit } from './drum-hits';
import { drawVelocities } from './dynamics';
import type { Streams } from './stages';
import { chanceOf, homeMetre, layFigure } from '../styles/figure';
import { happens, pickIndex, pickWeighted, type Random } from '../trellis/random';

/** How loud each drum is played against the brief's loudness. */
export const BALANCE: Readonly<Partial<Record<DrumVoice, number>>> = {
  kick: 8,
  snare: 6,
  'closed hat': -16,
  'pedal hat': -20,
  'open hat': -10,
  ride: -14,
  shaker: -20,
  tambourine: -16,
  stick: -6,
  crash: 10,
};

/** Ghost notes are those a groove strikes in 30 % of cases or less. */
const GHOST = 30;

/** What can be struck again and again. */
const ROLLED: ReadonlySet<DrumVoice> = new Set(['snare', 'stick', 'clap', 'high tom', 'middle tom', 'low tom']);

/** Accent below which strokes are felt rather than heard. */
const GHOSTED = -20;

/**
 * Drafts drums: a groove whose likely strokes are drawn once for a two-bar cell and then kept, with small changes at
 * phrase ends, a fill into the next section and a crash on arrival.
 */
export function draftDrums(context: PartContext, streams: Streams): PartDraft {
  const [plan, rhythm] = [streams('plan'), streams('rhythm')];
  const { grooves, fills } = context.style;
  const groove = inTime(grooves[pickIndex(plan, grooves.length)] as Groove, context.brief.time);
  const fill = fills[pickIndex(plan, fills.length)] as Groove;
  const fillStart = drawFillStart(context, plan);
  const cell = drawCell(groove, context, rhythm);
  const hits = [
    ...repeatCell(cell, context, rhythm).filter(({ start }) => start < fillStart),
    ...drawFill(fill, fillStart, context, rhythm),
  ];
  if (arrives(context, plan)) hits.push({ start: 0, voice: 'crash', accent: 4 });
  return strike(rolled(hits, context, streams('rhythm', 'rolls')), context, streams('dynamics'));
}

/**
 * Drafts hand percussion: a cell of two bars that goes round, thinner or fuller by busyness, without fills of its
 * own.
 */
export function draftPercussion(context: PartContext, streams: Streams): PartDraft {
  const rhythm = streams('rhythm');
  const figures = context.style.percussion ?? COMMON_PERCUSSION;
  const wanted = figures.map(
    (figure) => [figure, 1 / (2 + Math.abs(densityOf(figure, context) - context.brief.busyness))] as const,
  );
  const groove = pickWeighted(streams('plan'), wanted);
  return strike(repeatCell(drawCell(groove, context, rhythm), context, rhythm), context, streams('dynamics'));
}

/** Repeats a struck snare or tom as a short roll, by the chance that the brief gives to rolls. */
function rolled(hits: readonly Hit[], { brief, length }: PartContext, random: Random): Hit[] {
  if (brief.rolls === 0) return [...hits];
  return hits.flatMap((hit): Hit[] => {
    const { accent } = hit;
    const rolls = ROLLED.has(hit.voice) && accent > GHOSTED && happens(random, brief.rolls);
    if (!rolls) return [hit];
    // Three strokes in the time of two sixteenths, growing.
    return [0, 1, 2]
      .map((step) => ({ ...hit, start: hit.start + (step * SIXTEENTH * 2) / 3, accent: hit.accent - 10 + step * 5 }))
      .filter(({ start }) => start < length);
  });
}

/** Hits as notes, in order, each drum balanced against the others. */
function strike(hits: readonly Hit[], context: PartContext, random: Random): PartDraft {
  const unique = new Map(hits.map((hit) => [`${hit.start} ${hit.voice}`, hit]));
  const sorted = [...unique.values()].sort((a, b) => a.start - b.start || DRUM_KEYS[a.voice] - DRUM_KEYS[b.voice]);
  const velocities = drawVelocities(
    sorted.map(({ start }) => start),
    context.brief.loudness,
    context,
    random,
    sorted.map(({ voice, accent }) => accent + (BALANCE[voice] ?? 0)),
  );
  const notes = sorted.map(({ start, voice }, index): Note => ({
    start,
    duration: Math.min(nextOf(sorted, index), SIXTEENTH, context.length - start),
    pitch: DRUM_KEYS[voice],
    velocity: velocities[index] as number,
  }));
  return { ok: true, notes };
}

/** Ticks to the next hit of the same drum, so that a roll does not overlap itself. */
const nextOf = (hits: readonly Hit[], index: number): Ticks => {
  const { start, voice } = hits[index] as Hit;
  return (hits.slice(index + 1).find((hit) => hit.voice === voice)?.start ?? start + SIXTEENTH) - start;
};

const voicesOf = (groove: Groove): [DrumVoice, string][] => Object.entries(groove.voices) as [DrumVoice, string][];

/** A style's figures are written in its home metre, the common ones in 4/4. */
const homeOf = (groove: Groove, { style }: PartContext): Metre =>
  homeMetre(COMMON_PERCUSSION.includes(groove) ? '4/4' : (style.metres[0] ?? '4/4'));

/** Strokes of a figure's bar, likely ones drawn by chance. */
function strikeBar(groove: Groove, bar: number, context: PartContext, random: Random, scale: number): Hit[] {
  const home = homeOf(groove, context);
  return voicesOf(groove).flatMap(([voice, steps]) =>
    layFigure(steps, home, context.metre, bar).flatMap(({ at, symbol }): Hit[] => {
      const written = chanceOf(symbol);
      const accent = symbol === 'X' ? 8 : written <= GHOST ? SOFT : 0;
      return happens(random, written === 100 ? 100 : written * scale) ? [{ start: at, voice, accent }] : [];
    }),
  );
}

/** Expected strokes a bar of a groove as written. */
function densityOf(groove: Groove, context: PartContext): number {
  const home = homeOf(groove, context);
  return voicesOf(groove).reduce(
    (total, [, steps]) =>
      total + layFigure(steps, home, context.metre, 0).reduce((sum, { symbol }) => sum + chanceOf(symbol) / 100, 0),
    0,
  );
}

const busynessScale = (groove: Groove, context: PartContext): number =>
  clamp(context.brief.busyness / Math.max(1, densityOf(groove, context)), 0, 2.5);

/** A groove is drawn once for at least this many bars and goes round. */
const CELL_BARS = 2;

const drawCell = (groove: Groove, context: PartContext, random: Random): Hit[][] =>
  Array.from({ length: Math.max(CELL_BARS, barsOfGroove(groove)) }, (_, bar) =>
    asBusy(strikeBar(groove, bar, context, random, busynessScale(groove, context)), context, random),
  );

/**
 * Chance that a bar is played a little otherwise than the cell, in %: at phrase ends, and in the middle of phrases where
 * less is to return.
 */
function freshness(bar: number, { recall, adventure }: PartContext['brief']): Percent {
  const inPhrase = bar % PHRASE_BARS;
  const bold = Math.max(0, adventure - 20);
  if (inPhrase === PHRASE_BARS - 1) return 100 - recall + bold;
  return inPhrase === 0 && bar === 0 ? 0 : Math.max(0, 55 - recall) * 1.6 + bold;
}

const PHRASE_BARS = 4;

/** The cell over and over; some bars are touched, as recall and adventure allow. */
function repeatCell(cell: readonly Hit[][], context: PartContext, random: Random): Hit[] {
  const { bars, barTicks, brief } = context;
  return Array.from({ length: bars }, (_, bar) => {
    const usual = cell[bar % cell.length] ?? [];
    const hits = happens(random, freshness(bar, brief)) ? touched(usual, context, random) : usual;
    return hits.map((hit) => ({ ...hit, start: hit.start + bar * barTicks }));
  }).flat();
}

/** Chance that something leads into the next section, in %, and what is added for each percent of adventure. */
const FILLS = { least: 52, adventure: 0.5 } as const;
/** Of those that are whole bars, only bold ones. */
const BOLD = 40;

/**
 * Where a fill begins: on the last beat, in the middle of the last bar, seldom with it; at the section's end where there
 * is none, for a bar may stand still.
 */
function drawFillStart({ length, barTicks, metre, brief, bars }: PartContext, random: Random): Ticks {
  if (bars < 2 || !happens(random, FILLS.least + FILLS.adventure * brief.adventure)) return length;
  const beats = beatsOf(metre);
  const last = beats.at(-1)?.at ?? 0;
  const half = beats.find((beat) => beat.at >= barTicks / 2)?.at ?? last;
  const options = [last, half, brief.adventure > BOLD ? 0 : last];
  return length - barTicks + (options[pickIndex(random, options.length)] ?? 0);
}

function drawFill(fill: Groove, from: Ticks, context: PartContext, random: Random): Hit[] {
  const bar = context.length - context.barTicks;
  const grown = (start: Ticks): number => Math.round((14 * (start - from)) / Math.max(1, context.length - from));
  return strikeBar(fill, 0, context, random, 1)
    .map((hit) => ({ ...hit, start: hit.start + bar }))
    .filter(({ start }) => start >= from)
    .map((hit) => ({ ...hit, accent: hit.accent + grown(hit.start) }));
}

/** A crash marks the arrival: always in a chorus, sometimes elsewhere, never at the very beginning of an intro. */
function arrives({ kind }: PartContext, random: Random): boolean {
  if (kind === 'intro') return false;
  return kind === 'chorus' || happens(random, 40);
}
