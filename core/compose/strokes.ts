import type { Brief, Role } from '../song/schema';
import { roleOf } from '../song/roles';
import type { Style } from '../song/style';
import { beatsOf, gridOf, metricalWeight, WEIGHT, type Metre } from '../theory/metre';
import { TICKS_PER_QUARTER, type Percent, type Ticks } from '../theory/units';
import { happens, pickIndex, pickWeighted, type Random } from '../trellis/random';

/** Onsets of one bar, made fewer or more and pushed off the beat or set on it, as a brief asks. */

export type StrokeBrief = Pick<Brief, 'busyness' | 'syncopation'> & Partial<Pick<Brief, 'grid'>>;

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

const readiness = (weight: number, syncopation: Percent): number =>
  ((STRAIGHT[weight] ?? 1) * (100 - syncopation) + (SYNCOPATED[weight] ?? 1) * syncopation) / 100;

/** Steps in a quarter note of each grid. */
const STEPS = { eighths: 2, sixteenths: 4, triplets: 3 } as const;

/** Onsets for each beat above which a bar of eighths has no room. */
const CROWDED = 1.9;

/** Where onsets may stand in a bar, each with how readily one does. */
function openPlaces(
  metre: Metre,
  count: number,
  { syncopation, grid }: StrokeBrief,
  fine: boolean,
): (readonly [Ticks, number])[] {
  const steps = grid ? STEPS[grid] : fine || count > CROWDED * beatsOf(metre).length ? 4 : 2;
  return gridOf(metre, steps).map((at) => {
    // Off the straight grid stand only triplets that were asked for: as likely as eighths.
    const found = metricalWeight(metre, at);
    const weight = found === WEIGHT.finer && grid === 'triplets' ? WEIGHT.division : found;
    return [at, readiness(weight, syncopation)] as const;
  });
}

/** Onsets nearer to each other than a sixteenth belong to two grids. */
const isFree = (at: Ticks, others: readonly Ticks[]): boolean =>
  others.every((other) => Math.abs(other - at) >= TICKS_PER_QUARTER / 4);

/**
 * Draws onsets of one bar without replacement, by metrical weight.
 *
 * @param count  how many there shall be, as far as there is room
 * @param there  onsets that stand there already
 * @returns all of them, in ticks from the bar line, rising
 */
export function drawBar(
  metre: Metre,
  count: number,
  brief: StrokeBrief,
  random: Random,
  there: readonly Ticks[] = [],
): Ticks[] {
  const fine = there.some((at) => at % (TICKS_PER_QUARTER / 2) !== 0);
  const chosen = [...there];
  let left = openPlaces(metre, count, brief, fine).filter(([at]) => isFree(at, chosen));
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

/** Leaves out onsets of a bar until `count` are left, those that a bar can do without first. */
export function thinned(
  onsets: readonly Ticks[],
  count: number,
  metre: Metre,
  { syncopation }: StrokeBrief,
  random: Random,
): Ticks[] {
  let left = [...onsets];
  while (left.length > count) {
    const out = pickWeighted(
      random,
      left.map((at) => [at, 100 / readiness(metricalWeight(metre, at), syncopation)] as const),
    );
    left = left.filter((at) => at !== out);
  }
  return left;
}

/** Onsets a bar that a figure may be away from the busyness before it is changed. */
const NEAR = 0.75;

/**
 * A bar of a figure with as many strokes as a brief asks for; as it is where it comes near.
 *
 * @param density  strokes a bar of the whole figure, of which this bar may have more or fewer
 * @param least    strokes that are left at least
 */
export function filledBar(
  onsets: readonly Ticks[],
  density: number,
  least: number,
  metre: Metre,
  brief: StrokeBrief,
  random: Random,
): Ticks[] {
  const more = brief.busyness - density;
  if (Math.abs(more) < NEAR) return [...onsets];
  const whole = Math.floor(more);
  const count = Math.max(least, onsets.length + whole + (happens(random, (more - whole) * 100) ? 1 : 0));
  return count < onsets.length
    ? thinned(onsets, count, metre, brief, random)
    : drawBar(metre, count, brief, random, onsets);
}

const isOff = (metre: Metre, at: Ticks): boolean => metricalWeight(metre, at) < WEIGHT.beat;

/** The share of onsets that lie off the beat, 0–1. */
export const offBeat = (onsets: readonly Ticks[], metre: Metre): number =>
  onsets.filter((at) => isOff(metre, at)).length / Math.max(1, onsets.length);

/** What a style usually asks of a role: its figures sound as they are written where a brief asks for the same. */
export function usualOf(style: Style, role: Role): Pick<Brief, 'busyness' | 'syncopation'> {
  const own = style.band.find((part) => part.role === role)?.brief;
  const { busyness, syncopation } = { ...roleOf(role).brief, ...own };
  return { busyness, syncopation };
}

/**
 * The share of onsets off the beat that a figure is brought to: its own where the brief asks for what its style usually
 * has, none at 0 %, all at 100 %.
 */
export function wantedOff(own: number, syncopation: Percent, usual: Percent): number {
  if (syncopation <= usual) return usual === 0 ? own : (own * syncopation) / usual;
  return own + ((1 - own) * (syncopation - usual)) / (100 - usual);
}

/** Moves onsets of a bar onto beats, or off them by a division of the beat, until so large a share is off the beat. */
export function leaned(onsets: readonly Ticks[], wanted: number, metre: Metre, random: Random): Ticks[] {
  const beats = beatsOf(metre);
  const now = [...onsets];
  const count = now.length;
  const isOpen = (at: Ticks, mover: Ticks): boolean =>
    isFree(
      at,
      now.filter((other) => other !== mover),
    );
  const move = (ways: readonly (readonly [from: Ticks, to: Ticks])[]): boolean => {
    const nearest = Math.min(...ways.map(([from, to]) => Math.abs(from - to)));
    const near = ways.filter(([from, to]) => Math.abs(from - to) === nearest);
    const way = near[pickIndex(random, near.length)];
    if (way) now[now.indexOf(way[0])] = way[1];
    return way !== undefined;
  };
  // Half an onset more or less is as near as a bar can come.
  const away = (): number => offBeat(now, metre) * count - wanted * count;
  for (let turn = 0; turn < count && away() > 0.5; turn++) {
    const off = now.filter((at) => isOff(metre, at));
    if (!move(off.flatMap((from) => beats.filter(({ at }) => isOpen(at, from)).map(({ at }) => [from, at] as const))))
      break;
  }
  for (let turn = 0; turn < count && away() < -0.5; turn++) {
    const on = beats.filter(({ at }) => now.includes(at));
    // An eighth early or late; where there is no room, a sixteenth.
    const waysBy = (part: number): (readonly [Ticks, Ticks])[] =>
      on.flatMap(({ at, length, division }) =>
        [at - length / division / part, at + length / division / part]
          .filter((to) => to >= 0 && isOpen(to, at))
          .slice(0, 1)
          .map((to) => [at, to] as const),
      );
    if (!move(waysBy(1)) && !move(waysBy(2))) break;
  }
  return now.sort((a, b) => a - b);
}

/** Onsets on a grid that was asked for, two that fall together as one. */
export function onGrid(onsets: readonly Ticks[], grid: Brief['grid']): Ticks[] {
  if (!grid) return [...onsets];
  return [...new Set(onsets.map((at) => snapped(at, grid)))];
}

/** A moment on a grid that was asked for, the last one that is not after it. */
export function snapped(at: Ticks, grid: Brief['grid']): Ticks {
  const step = grid ? TICKS_PER_QUARTER / STEPS[grid] : 1;
  return Math.floor(at / step) * step;
}
