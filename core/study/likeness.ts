import { range } from '../theory/units';
import { distance, type Features } from './features';

/** A place on a field of takes, counted from its left top. */
export interface Spot {
  readonly column: number;
  readonly row: number;
}

type Point = readonly [x: number, y: number];

/** What lies one spot apart. */
const SPOT = 0.19;
/** Pictures are wider than high: a step down is smaller than a step aside. */
const FLAT = 1.5;
/** Rounds of majorization, from so many directions, against so many neighbours and the first that were laid out. */
const [ROUNDS, STARTS, NEIGHBOURS, FIRST] = [14, 4, 30, 24];

/** How many takes say what is usual: as many as are drafted at a time; and what is no distance at all. */
const [BATCH, LEAST] = [8, 1e-3];

/** The middle distance among the first takes: what is drawn goes by it, and later ones do not change it. */
function usualAmong(features: readonly Features[]): number {
  const first = features.slice(0, BATCH);
  const all = first.flatMap((own, index) => first.slice(0, index).map((other) => distance(own, other)));
  all.sort((a, b) => a - b);
  const middle = all[Math.floor(all.length / 2)] ?? 1;
  // Where they are all but equal, nothing is usual.
  return middle > LEAST ? middle : 1;
}

/** Distances as they are drawn: what is very unlike lies not much further than what is unlike, so that all stays in view. */
const drawn = (away: number, usual: number): number => Math.log1p(away / usual);

/** What a place is worth: how far the distances on the field are from the true ones, near ones counting most. */
function stress([x, y]: Point, placed: readonly Point[], away: readonly number[]): number {
  return placed.reduce((sum, [px, py], index) => {
    const wanted = away[index] as number;
    const off = Math.hypot(x - px, y - py) - wanted;
    return sum + (off * off) / (0.1 + wanted * wanted);
  }, 0);
}

/** A point moved to where it meets its distances better (majorization by de Leeuw, 1977, for one point). */
function settled(start: Point, placed: readonly Point[], away: readonly number[]): Point {
  let [x, y] = start;
  for (let round = 0; round < ROUNDS; round++) {
    let [sumX, sumY, weights] = [0, 0, 0];
    for (let index = 0; index < placed.length; index++) {
      const [px, py] = placed[index] as Point;
      const wanted = away[index] as number;
      const now = Math.hypot(x - px, y - py) || 1e-9;
      const weight = 1 / (0.1 + wanted * wanted);
      sumX += weight * (px + (wanted * (x - px)) / now);
      sumY += weight * (py + (wanted * (y - py)) / now);
      weights += weight;
    }
    [x, y] = [sumX / weights, sumY / weights];
  }
  return [x, y];
}

/** Where a take lies among those that lie already, the nearest of them first; they stay where they are. */
function placeAmong(placed: readonly Point[], away: readonly number[]): Point {
  if (placed.length === 0) return [0, 0];
  const [nearX, nearY] = placed[0] as Point;
  const far = (away[0] as number) || 0.1;
  const starts = range(STARTS).map((turn): Point => {
    const angle = (2 * Math.PI * (turn + 0.15)) / STARTS;
    return settled([nearX + far * Math.cos(angle), nearY + far * Math.sin(angle)], placed, away);
  });
  return starts.reduce((best, point) => (stress(point, placed, away) < stress(best, placed, away) ? point : best));
}

/** The free spot that is nearest to a point. */
function freeSpot([x, y]: Point, taken: ReadonlySet<string>): Spot {
  const [column, row] = [Math.round(x / SPOT), Math.round((y / SPOT) * FLAT)];
  for (let ring = 0; ; ring++) {
    const around = range(2 * ring + 1).flatMap((dx) =>
      range(2 * ring + 1).map((dy): Spot => ({ column: column + dx - ring, row: row + dy - ring })),
    );
    const away = (spot: Spot): number => (spot.column - x / SPOT) ** 2 + ((spot.row - (y / SPOT) * FLAT) / FLAT) ** 2;
    const free = around.filter((spot) => !taken.has(`${spot.column} ${spot.row}`));
    const [first] = free;
    if (first) return free.reduce((best, spot) => (away(spot) < away(best) ? spot : best), first);
  }
}

/**
 * Lays takes out on a field so that like lies near like, in steps of one take each. Each is placed among those before it
 * and stays there whatever comes after: the same takes in the same order always lie in the same places.
 *
 * @param features  in the order in which the takes came to be
 * @returns no two of them in one spot
 */
export function* layOutByLikeness(features: readonly Features[]): Generator<void, readonly Spot[]> {
  const usual = usualAmong(features);
  const placed: Point[] = [];
  const spots: Spot[] = [];
  const taken = new Set<string>();
  for (const own of features) {
    const near = placed
      .map((point, index) => [point, drawn(distance(own, features[index] as Features), usual), index] as const)
      .sort(([, a], [, b]) => a - b)
      .filter(([, , index], rank) => rank < NEIGHBOURS || index < FIRST);
    const point = placeAmong(
      near.map(([other]) => other),
      near.map(([, away]) => away),
    );
    const spot = freeSpot(point, taken);
    placed.push(point);
    spots.push(spot);
    taken.add(`${spot.column} ${spot.row}`);
    yield;
  }
  const [left, top] = [Math.min(...spots.map(({ column }) => column)), Math.min(...spots.map(({ row }) => row))];
  return spots.map(({ column, row }) => ({ column: column - left, row: row - top }));
}

/** A way to go on the field. */
export type Way = 'left' | 'right' | 'up' | 'down';

/**
 * The nearest spot in a direction: what lies straight on before what lies aside.
 *
 * @returns its place in the list; null where nothing lies there
 */
export function nextSpot(spots: readonly Spot[], from: number, way: Way): number | null {
  const start = spots[from];
  if (!start) return null;
  const [along, across] = (
    {
      left: [(spot: Spot) => start.column - spot.column, (spot: Spot) => spot.row - start.row],
      right: [(spot: Spot) => spot.column - start.column, (spot: Spot) => spot.row - start.row],
      up: [(spot: Spot) => start.row - spot.row, (spot: Spot) => spot.column - start.column],
      down: [(spot: Spot) => spot.row - start.row, (spot: Spot) => spot.column - start.column],
    } as const
  )[way];
  const worth = (spot: Spot): number => along(spot) + 2 * Math.abs(across(spot));
  return spots.reduce<number | null>((best, spot, index) => {
    if (along(spot) <= 0) return best;
    return best === null || worth(spot) < worth(spots[best] as Spot) ? index : best;
  }, null);
}
