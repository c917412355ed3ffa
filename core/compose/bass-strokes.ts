import { DRUM_KEYS, type BassFigure } from '../song/style';
import { homeMetre, layFigure } from '../styles/figure';
import { beatsOf } from '../theory/metre';
import { range, type Ticks } from '../theory/units';
import { happens, pickWeighted, type Random } from '../trellis/random';
import type { PartContext } from './context';
import { usualOf } from './strokes';
import { playedCell, type CellStroke } from './figure-cell';

/** What a bass note is asked to be; the small letters of a figure are the same wishes with a chance. */
type BassTone = 'R' | 'F' | 'O' | 'T' | 'A' | 'W' | 'P';

/** A stroke of a bass's figure. */
export interface BassStroke {
  readonly start: Ticks;
  readonly tone: BassTone;
}

/** The figures that a bass may keep: those of the style. */
export const figuresFor = ({ style }: PartContext): readonly BassFigure[] => style.bass;

/** Strokes a bar of a figure as written. */
const density = ({ steps }: BassFigure): number => steps.replaceAll(/[.|]/g, '').length / steps.split('|').length;

/** Prefers the figure whose density comes nearest the busyness asked for. */
export function pickFigure(figures: readonly BassFigure[], { brief }: PartContext, random: Random): BassFigure {
  return pickWeighted(
    random,
    figures.map((figure) => {
      const away = 0.6 + Math.abs(density(figure) - brief.busyness);
      return [figure, 1 / (away * away)] as const;
    }),
  );
}

/** What strokes are that a figure is filled with. */
const filler = ({ steps }: BassFigure): BassTone => (/W.*W/i.test(steps) ? 'W' : /^[P.|]+$/i.test(steps) ? 'P' : 'R');

/**
 * A figure's bars as they are played throughout: chances are drawn once, strokes made fewer or more and pushed as the
 * brief asks.
 */
function drawCell(figure: BassFigure, context: PartContext, random: Random): CellStroke<BassTone>[][] {
  const { metre, brief, style } = context;
  // The ways that any style can take are written in common time.
  const home = homeMetre(brief.way === null ? (style.metres[0] ?? '4/4') : '4/4');
  const likely = Math.min(95, (60 * brief.busyness) / Math.max(1, density(figure)));
  const bars = range(figure.steps.split('|').length).map((bar) =>
    layFigure(figure.steps, home, metre, bar)
      .filter(({ symbol }) => symbol === symbol.toUpperCase() || happens(random, likely))
      .map(({ at, symbol }) => ({ at, what: symbol.toUpperCase() as BassTone })),
  );
  return playedCell(bars, () => filler(figure), asItGoes(context), random);
}

/** How far the busyness may be from what the style usually asks before a way that was asked for is changed. */
const OWN_PACE = { least: 0.6, most: 1.6 } as const;

/** A way that was asked for goes at its own pace. */
function asItGoes(context: PartContext): PartContext {
  const { busyness } = usualOf(context.style, context.role);
  const share = context.brief.busyness / busyness;
  return context.brief.way === null || share < OWN_PACE.least || share > OWN_PACE.most
    ? context
    : { ...context, brief: { ...context.brief, busyness } };
}

/** Bars after which a cell goes round. */
const ROUND = 2;
const PHRASE_BARS = 4;

/**
 * The figure's strokes over a section, in no order: a root at each arrival of a chord, and strokes of the kick where the
 * brief asks to lock with it.
 *
 * @param turn  the figure that phrases of four bars end with
 */
export function drawBassStrokes(
  figure: BassFigure,
  turn: BassFigure,
  context: PartContext,
  random: Random,
): BassStroke[] {
  const { chords, metre, bars, barTicks, brief, beside, length } = context;
  const cell = drawCell(figure, context, random);
  const ending = turn === figure ? cell : drawCell(turn, context, random);
  const strokes = new Map<Ticks, BassTone>();
  for (const bar of range(bars)) {
    const own = bar % PHRASE_BARS === PHRASE_BARS - 1 ? ending : cell;
    for (const { at, what } of own[bar % own.length] ?? []) strokes.set(bar * barTicks + at, what);
  }
  const ground: BassTone = brief.way === 'pedal' ? 'P' : 'R';
  // Whether a stroke of the kick is taken is drawn once for each place of two bars: a bass that locks stays locked.
  const locked = new Map<Ticks, boolean>();
  const kick = beside.flatMap(({ notes }) => notes.filter(({ pitch }) => pitch === DRUM_KEYS.kick));
  const room = barTicks / beatsOf(metre).length / 4;
  for (const { start } of kick) {
    const place = start % (ROUND * barTicks);
    const lock = locked.get(place) ?? happens(random, brief.syncopation);
    locked.set(place, lock);
    const free = [...strokes.keys()].every((taken) => Math.abs(taken - start) >= room);
    if (lock && free && start < length) strokes.set(start, ground);
  }
  for (const { start, chord } of chords) if (chord) strokes.set(start, ground);
  leadOn(strokes, context, random);
  return [...strokes].map(([start, tone]) => ({ start, tone }));
}

/** Adventure in % from which other strokes than a figure's own approach the next chord. */
const LEADS_FROM = 15;

/** Makes the last stroke before a chord changes an approach, by the chance that adventure gives. */
function leadOn(strokes: Map<Ticks, BassTone>, { chords, brief }: PartContext, random: Random): void {
  if (brief.way !== null) return;
  for (const { start, duration } of chords) {
    const inside = [...strokes.keys()].filter((at) => at > start && at < start + duration);
    if (inside.length > 0 && happens(random, brief.adventure - LEADS_FROM)) strokes.set(Math.max(...inside), 'A');
  }
}
