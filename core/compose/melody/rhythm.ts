import { barTicks, beatsOf, metricalWeight, WEIGHT } from '../../theory/metre';
import { range, TICKS_PER_QUARTER, type Percent, type Ticks } from '../../theory/units';
import type { PartContext } from '../context';
import { happens, type Random } from '../../trellis/random';
import { barAt, endOf } from '../held';
import { latestEnd, placesAround, type Place } from '../held-line';
import { motifNotes } from '../motif';
import { cellsOf, fittedCell, pickCell, type Cell } from './cells';
import type { PhraseUnit } from './plan';

/** When a note starts and how long it lasts; ticks from the section's start. */
export interface RhythmNote extends Place {
  readonly duration: Ticks;
  readonly unit: number;
  /** The longest note that ends a phrase. */
  readonly closing: boolean;
}

const LONGEST = 3 * TICKS_PER_QUARTER;

/** A rhythm that a letter of the plan stands for. */
interface Motif {
  readonly bars: readonly (readonly Ticks[])[];
  readonly cells: readonly Cell[];
}

/** How much a hook's rhythm is one that can be clapped, and any other, in %. */
const CLEAR = { hook: 160, other: 80 } as const;

/** Chance that a cell of one bar is said twice, in %: without recall, and for each percent of it. */
const TWICE = { least: 15, each: 0.75 } as const;
/** Chance that another motif begins in the rhythm of the first, for each percent of recall. */
const GOES_ON = 0.6;

/**
 * The rhythm of a motif: a cell of the style, of two bars or said again, or two that belong together.
 *
 * @param others  motifs that this one is to differ from
 */
function drawMotif(context: PartContext, unit: PhraseUnit, others: readonly Motif[], random: Random): Motif {
  const { brief, motif } = context;
  const given = motif && unit.motif ? givenBars(motif, unit, context) : null;
  if (given) return { bars: given, cells: [] };
  const cells = usableCells(unit, context);
  const clear = unit.hook ? CLEAR.hook : CLEAR.other;
  const used = others.flatMap((other) => other.cells);
  const before = others[0];
  const kept = before?.cells[0] && happens(random, brief.recall * GOES_ON) ? before : null;
  const first = kept?.cells[0] ?? pickCell(cells, brief, clear, used, random);
  const bars = kept?.bars.slice(0, first.bars.length) ?? fittedCell(first, context, random);
  if (bars.length >= unit.bars) return { bars, cells: [first] };
  if (unit.hook || happens(random, TWICE.least + brief.recall * TWICE.each))
    return { bars: [...bars, ...bars], cells: [first] };
  const second = pickCell(cells, brief, clear, [...used, first], random);
  return { bars: [...bars, ...fittedCell(second, context, random)], cells: [first, second] };
}

/** The bars of a motif of the song as a unit takes it up, said again where the unit has room; null where none is left. */
function givenBars(
  motif: NonNullable<PartContext['motif']>,
  { bars }: PhraseUnit,
  { barTicks: bar, brief }: PartContext,
): Ticks[][] | null {
  const notes = motifNotes(motif, bars * bar, bar, brief.grid);
  if (notes.length === 0) return null;
  const own = Math.min(bars, motif.use === 'stretches' ? bars : motif.bars);
  const stated = barsOf(notes, own, bar);
  return range(bars).map((index) => stated[index % own] ?? []);
}

/** Onsets of each of so many bars, in ticks from its bar line. */
const barsOf = (notes: readonly { readonly at: Ticks }[], bars: number, bar: Ticks): Ticks[][] =>
  range(bars).map((index) => notes.flatMap(({ at }) => (Math.floor(at / bar) === index ? [at - index * bar] : [])));

/** Cells of a style that a unit has room for, but for those in the rhythm of a motif that is to be avoided. */
function usableCells(unit: PhraseUnit, { style, metre, motif, barTicks: bar }: PartContext): readonly Cell[] {
  const all = cellsOf(style, metre);
  const short = all.filter(({ bars }) => bars.length <= unit.bars);
  const cells = short.length > 0 ? short : all;
  if (motif?.use !== 'avoids') return cells;
  const said = new Set(barsOf(motifNotes(motif, motif.bars * bar, bar), motif.bars, bar).map((own) => own.join()));
  const others = cells.filter(({ bars }) => bars.every((onsets) => !said.has(onsets.join())));
  return others.length > 0 ? others : cells;
}

/** Clears the end of a phrase's last bar, so that its last note can be long. */
function close(onsets: readonly Ticks[], context: PartContext, final: boolean, random: Random): Ticks[] {
  const bar = barTicks(context.metre);
  const beats = beatsOf(context.metre);
  const stop =
    final || happens(random, 45)
      ? (beats.find((beat) => beat.at >= bar / 2)?.at ?? bar / 2)
      : (beats.at(-1)?.at ?? bar);
  const kept = onsets.filter((at) => at < stop || (at === stop && final));
  const closing = final ? kept.filter((at) => at === 0 || metricalWeight(context.metre, at) >= WEIGHT.division) : kept;
  return closing.length > 0 ? closing : [0];
}

/**
 * Draws the whole line's rhythm: one motif for each letter of the plan, returned where the letter returns, with breath
 * where phrases close.
 *
 * @param ledIn  whether a pick-up leads into the line
 */
export function drawRhythm(
  context: PartContext,
  plan: readonly PhraseUnit[],
  streamOf: (label: string) => Random,
  ledIn: boolean,
): RhythmNote[] {
  const { barTicks: bar, length, brief } = context;
  const motifs = new Map<string, Motif>();
  const onsets: { at: Ticks; unit: number }[] = [];
  plan.forEach((unit, index) => {
    const motif = motifs.get(unit.letter) ?? drawMotif(context, unit, [...motifs.values()], streamOf(unit.letter));
    motifs.set(unit.letter, motif);
    for (let inUnit = 0; inUnit < unit.bars; inUnit++) {
      const last = unit.closes && inUnit === unit.bars - 1;
      const final = last && index === plan.length - 1;
      const own = motif.bars[inUnit % motif.bars.length] ?? [0];
      const starts =
        last && context.bars > 1 ? close(own, context, final, streamOf(`close ${unit.letter} ${final}`)) : own;
      onsets.push(...starts.map((at) => ({ at: (unit.firstBar + inUnit) * bar + at, unit: index })));
    }
  });
  // A bar of a cell may be silent, a whole line never is.
  if (onsets.length === 0) onsets.push({ at: 0, unit: 0 });
  // What is led into begins on the bar line.
  const first = onsets[0];
  if (ledIn && first && first.at < bar) onsets[0] = { ...first, at: 0 };
  const places = placesAround(
    onsets.map(({ at }) => at),
    context,
    streamOf('held'),
  ).map((place) => ({ ...place, unit: unitAt(plan, barAt(place.start, bar)) }));
  const breath = streamOf('breath');
  return places.map(({ start, stroke, unit }, index) => {
    const next = places[index + 1];
    const closing = !next || (next.unit !== unit && (plan[unit]?.closes ?? false));
    const gap = latestEnd(start, next?.start ?? length, context) - start;
    const drawn = lengthened(soundingLength(gap, closing, brief.breath, breath), gap, brief.length);
    return { start, stroke, duration: stroke?.rhythm ? endOf(stroke) - start : drawn, unit, closing };
  });
}

/** The unit of the plan that a bar belongs to. */
const unitAt = (plan: readonly PhraseUnit[], bar: number): number =>
  Math.max(
    0,
    plan.findLastIndex(({ firstBar }) => firstBar <= bar),
  );

/**
 * A note as short or as tied as the brief asks: from clipped over as it comes (60 %) to the next note.
 */
export function lengthened(duration: Ticks, gap: Ticks, length: Percent): Ticks {
  if (length === 60) return duration;
  if (length > 60) return Math.round(duration + ((gap - duration) * (length - 60)) / 40);
  return Math.max(30, Math.round(duration * (0.25 + (0.75 * length) / 60)));
}

/** How much of the gap to the next note is sung; the rest is breath. All on the sixteenth grid. */
export function soundingLength(gap: Ticks, closing: boolean, breath: number, random: Random): Ticks {
  const longest = Math.min(gap, closing ? LONGEST * 1.5 : LONGEST);
  const rests = gap > TICKS_PER_QUARTER / 2 && happens(random, closing ? breath * 1.1 : (breath * breath) / 120);
  if (!rests) return longest;
  const step = TICKS_PER_QUARTER / 2;
  const sung = gap * (0.75 - (0.35 * breath) / 100);
  return Math.max(step, Math.min(longest, Math.ceil(sung / step) * step));
}
