import { clamp, type Ticks } from '../theory/units';
import { MOST_POINTS, WIDEST_BEND, type Curve, type CurveKind, type Note } from './music-schema';

/** Curves of expression over a note: straight lines between points, level before the first and after the last. */

export const CURVE_KINDS: readonly CurveKind[] = ['bend', 'vibrato', 'swell'];

/** What each kind goes between, and what it is where nothing is said: cents for bends, % for the others. */
export const CURVES: Readonly<
  Record<CurveKind, { readonly low: number; readonly high: number; readonly rest: number }>
> = {
  bend: { low: -WIDEST_BEND, high: WIDEST_BEND, rest: 0 },
  vibrato: { low: 0, high: 100, rest: 0 },
  swell: { low: 0, high: 100, rest: 100 },
};

type Point = Curve[number];

/** The value of a curve at a moment, in ticks from its note's start. */
export function valueAt(curve: readonly Point[], at: Ticks): number {
  const after = curve.findIndex((point) => point.at >= at);
  const [before, next] = [curve[after < 0 ? curve.length - 1 : after - 1], curve[after]];
  if (!next) return before?.value ?? 0;
  if (!before) return next.value;
  return before.value + ((next.value - before.value) * (at - before.at)) / (next.at - before.at);
}

/**
 * As few of a curve's points as describe it within a tolerance (Douglas and Peucker, 1973), by the distance in value.
 *
 * @param points     in order of their moments, no two at one
 * @param tolerance  in the unit of the values
 */
export function thinned(points: readonly Point[], tolerance: number): Point[] {
  const kept = new Set<number>([0, points.length - 1]);
  const open: [number, number][] = [[0, points.length - 1]];
  for (let stretch = open.pop(); stretch; stretch = open.pop()) {
    const [from, to] = stretch;
    const ends = [points[from], points[to]].filter((point) => point !== undefined);
    let [furthest, away] = [-1, tolerance];
    for (let index = from + 1; index < to; index++) {
      const point = points[index] as Point;
      const off = Math.abs(point.value - valueAt(ends, point.at));
      if (off > away) [furthest, away] = [index, off];
    }
    if (furthest < 0) continue;
    kept.add(furthest);
    open.push([from, furthest], [furthest, to]);
  }
  return points.filter((_, index) => kept.has(index));
}

/** What nobody hears: 3 cents, or half a percent. */
const FINE: Readonly<Record<CurveKind, number>> = { bend: 3, vibrato: 0.5, swell: 0.5 };

/** A curve of at most so many points as a note may have, within the least tolerance that gives so few; null of none. */
export const curveOf = (kind: CurveKind, points: readonly Point[]): Curve | null =>
  curveWithin(points, CURVES[kind], FINE[kind]);

/** A curve between two values, of as few points as describe it within a tolerance; null of no points. */
export function curveWithin(
  points: readonly Point[],
  { low, high }: { readonly low: number; readonly high: number },
  fine: number,
): Curve | null {
  const inOrder = [...new Map(points.map((point) => [Math.max(0, Math.round(point.at)), point.value])).entries()]
    .sort(([a], [b]) => a - b)
    .map(([at, value]) => ({ at, value: clamp(Math.round(value), low, high) }));
  if (inOrder.length === 0) return null;
  for (let tolerance = fine; ; tolerance *= 1.5) {
    const few = thinned(inOrder, tolerance);
    if (few.length <= MOST_POINTS) return few;
  }
}

/** A note from a later moment on, with what is left of its curves; it ends where it did. */
export function begunLater<N extends Note>(note: N, by: Ticks): N {
  const left = CURVE_KINDS.flatMap((kind) => {
    const curve = note[kind];
    if (!curve) return [];
    const later = curve.filter(({ at }) => at > by).map(({ at, value }) => ({ at: at - by, value }));
    return [[kind, [{ at: 0, value: Math.round(valueAt(curve, by)) }, ...later.slice(0, MOST_POINTS - 1)]] as const];
  });
  return { ...note, start: note.start + by, duration: note.duration - by, ...Object.fromEntries(left) };
}
