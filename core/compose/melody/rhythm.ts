import { barTicks, beatsOf, gridOf, metricalWeight, WEIGHT, type Metre } from '../../theory/metre';
import type { Brief } from '../../song/schema';
import { TICKS_PER_QUARTER, type Percent, type Ticks } from '../../theory/units';
import type { PartContext } from '../context';
import { happens, pickWeighted, type Random } from '../../trellis/random';
import { barAt, endOf } from '../held';
import { latestEnd, placesAround, type Place } from '../held-line';
import type { PhraseUnit } from './plan';

/** When a note starts and how long it lasts; ticks from the section's start. */
export interface RhythmNote extends Place {
  readonly duration: Ticks;
  readonly unit: number;
  /** The longest note that ends a phrase. */
  readonly closing: boolean;
}

/** How readily a note starts at each metrical weight, for straight and for syncopated lines. */
const STRAIGHT: Readonly<Record<number, number>> = {
  [WEIGHT.bar]: 100,
  [WEIGHT.strong]: 80,
  [WEIGHT.beat]: 66,
  [WEIGHT.division]: 34,
  [WEIGHT.subdivision]: 5,
};
const SYNCOPATED: Readonly<Record<number, number>> = {
  [WEIGHT.bar]: 50,
  [WEIGHT.strong]: 34,
  [WEIGHT.beat]: 36,
  [WEIGHT.division]: 74,
  [WEIGHT.subdivision]: 24,
};

const LONGEST = 3 * TICKS_PER_QUARTER;

/** Steps in a quarter note of each grid. */
const STEPS = { eighths: 2, sixteenths: 4, triplets: 3 } as const;

/** Draws `count` onsets of one bar without replacement, by metrical weight. */
export function drawBar(
  metre: Metre,
  count: number,
  { syncopation, grid }: Pick<Brief, 'syncopation' | 'grid'>,
  random: Random,
): Ticks[] {
  const beats = beatsOf(metre).length;
  const steps = grid ? STEPS[grid] : count > 2.4 * beats ? 4 : 2;
  const blend = syncopation / 100;
  const open = gridOf(metre, steps).map((at) => {
    // Off the straight grid stand only triplets that were asked for: as likely as eighths.
    const found = metricalWeight(metre, at);
    const weight = found === WEIGHT.finer && grid === 'triplets' ? WEIGHT.division : found;
    return [at, (STRAIGHT[weight] ?? 1) * (1 - blend) + (SYNCOPATED[weight] ?? 1) * blend] as const;
  });
  const chosen: Ticks[] = [];
  let left = [...open];
  while (chosen.length < count && left.length > 0) {
    const at = pickWeighted(random, left);
    chosen.push(at);
    // A lone sixteenth limps: its neighbours on the beat become likelier once it is taken.
    left = left
      .filter(([other]) => other !== at)
      .map(([other, weight]) => [other, Math.abs(other - at) === TICKS_PER_QUARTER / 4 ? weight * 3 : weight] as const);
  }
  return chosen.sort((a, b) => a - b);
}

/** A number of onsets whose mean is `busyness`. */
function drawCount(busyness: number, random: Random): number {
  const floor = Math.floor(busyness);
  const sway = random.next() < 0.25 ? -1 : random.next() > 0.75 ? 1 : 0;
  return Math.max(1, floor + (random.next() < busyness - floor ? 1 : 0) + sway);
}

/** The rhythm of a motif: its second bar often says the first again. */
function drawMotif(context: PartContext, bars: number, random: Random): Ticks[][] {
  const { metre, brief } = context;
  const first = drawBar(metre, drawCount(brief.busyness, random), brief, random);
  return Array.from({ length: bars }, (_, bar) => {
    if (bar > 0 && happens(random, 20 + brief.recall * 0.4)) return first;
    return bar === 0 ? first : drawBar(metre, drawCount(brief.busyness, random), brief, random);
  });
}

/** Clears the end of a phrase's last bar, so that its last note can be long. */
function close(onsets: Ticks[], context: PartContext, final: boolean, random: Random): Ticks[] {
  const bar = barTicks(context.metre);
  const beats = beatsOf(context.metre);
  const stop =
    final || happens(random, 55)
      ? (beats.find((beat) => beat.at >= bar / 2)?.at ?? bar / 2)
      : (beats.at(-1)?.at ?? bar);
  const kept = onsets.filter((at) => at < stop || (at === stop && final));
  const closing = final ? kept.filter((at) => at === 0 || metricalWeight(context.metre, at) >= WEIGHT.division) : kept;
  return closing.length > 0 ? closing : [0];
}

/**
 * Draws the whole line's rhythm: one motif for each letter of the plan, returned where the letter returns, with breath
 * where phrases close.
 */
export function drawRhythm(
  context: PartContext,
  plan: readonly PhraseUnit[],
  streamOf: (label: string) => Random,
): RhythmNote[] {
  const { barTicks: bar, length, brief } = context;
  const motifs = new Map<string, Ticks[][]>();
  const onsets: { at: Ticks; unit: number }[] = [];
  plan.forEach((unit, index) => {
    const motif = motifs.get(unit.letter) ?? drawMotif(context, unit.bars, streamOf(unit.letter));
    motifs.set(unit.letter, motif);
    for (let inUnit = 0; inUnit < unit.bars; inUnit++) {
      const last = unit.closes && inUnit === unit.bars - 1;
      const final = last && index === plan.length - 1;
      const own = motif[inUnit % motif.length] ?? [0];
      const starts =
        last && context.bars > 1 ? close(own, context, final, streamOf(`close ${unit.letter} ${final}`)) : own;
      onsets.push(...starts.map((at) => ({ at: (unit.firstBar + inUnit) * bar + at, unit: index })));
    }
  });
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
function soundingLength(gap: Ticks, closing: boolean, breath: number, random: Random): Ticks {
  const longest = Math.min(gap, closing ? LONGEST * 1.5 : LONGEST);
  const rests = gap > TICKS_PER_QUARTER / 2 && happens(random, closing ? breath : breath / 3);
  if (!rests) return longest;
  const step = TICKS_PER_QUARTER / 2;
  return Math.max(step, Math.min(longest, Math.ceil((gap * 0.6) / step) * step));
}
