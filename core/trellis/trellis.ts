import type { Random } from './random';

/**
 * A layered graph in which every draft is a path: states at each position, their weights, and the weights of moving on.
 *
 * All weights are log-weights in whole hundredths of a nat, so that sums are exact and equal on every machine.
 */
export interface Trellis {
  /** Weight of each state at each position; `FORBIDDEN` takes a state out. */
  readonly layers: readonly Int32Array[];
  /** `links[i]` leads from position i to i + 1; equal neighbours may share one object. */
  readonly links: readonly Links[];
}

/** Successors of each state in compressed rows: those of state s stand at offsets[s] … offsets[s + 1] − 1. */
export interface Links {
  readonly offsets: Int32Array;
  readonly targets: Int32Array;
  readonly weights: Int32Array;
}

/** One state for each position. */
export type Path = Int32Array;

/** No allowed path gets past this position: whatever was asked for there is to blame. */
export interface DeadEnd {
  readonly deadEnd: number;
}

export const FORBIDDEN = -0x4000_0000;

export const isDeadEnd = (result: object): result is DeadEnd => 'deadEnd' in result;

/**
 * Tabulates the links between two layers once, so that no closure is called while paths are searched.
 *
 * @param weight  log-weight of moving from one state to another, in hundredths of a nat; `FORBIDDEN` leaves the link
 * out
 */
export function linkLayers(from: number, to: number, weight: (from: number, to: number) => number): Links {
  const offsets = new Int32Array(from + 1);
  const targets: number[] = [];
  const weights: number[] = [];
  for (let source = 0; source < from; source++) {
    for (let target = 0; target < to; target++) {
      const value = weight(source, target);
      if (value <= FORBIDDEN) continue;
      targets.push(target);
      weights.push(Math.round(value));
    }
    offsets[source + 1] = targets.length;
  }
  return { offsets, targets: Int32Array.from(targets), weights: Int32Array.from(weights) };
}

/** The layer for a position that is held: only one state is left. */
export function holdState(size: number, state: number): Int32Array {
  const layer = new Int32Array(size).fill(FORBIDDEN);
  layer[state] = 0;
  return layer;
}

/**
 * The path of greatest total weight (Viterbi, 1967). Of equal paths the one with the lower states wins.
 *
 * @returns one state for each position, or the first position that no allowed path reaches
 */
export function bestPath(trellis: Trellis): Path | DeadEnd {
  const { layers, links } = trellis;
  if (layers.length === 0) return new Int32Array(0);
  let scores: Int32Array = Int32Array.from(layers[0] ?? []);
  const origins: Int32Array[] = [];
  if (!scores.some((score) => score > FORBIDDEN)) return { deadEnd: 0 };
  for (let position = 1; position < layers.length; position++) {
    const step = bestStep(scores, links[position - 1] as Links, layers[position] as Int32Array);
    if (!step.scores.some((score) => score > FORBIDDEN)) return { deadEnd: position };
    origins.push(step.origin);
    scores = step.scores;
  }
  const path = new Int32Array(layers.length);
  let state = indexOfMaximum(scores);
  for (let position = layers.length - 1; position >= 0; position--) {
    path[position] = state;
    state = origins[position - 1]?.[state] ?? 0;
  }
  return path;
}

function bestStep(
  scores: Int32Array,
  { offsets, targets, weights }: Links,
  layer: Int32Array,
): { scores: Int32Array; origin: Int32Array } {
  const next = new Int32Array(layer.length).fill(FORBIDDEN);
  const origin = new Int32Array(layer.length);
  for (let source = 0; source < scores.length; source++) {
    const score = scores[source] as number;
    if (score <= FORBIDDEN) continue;
    for (let link = offsets[source] as number; link < (offsets[source + 1] as number); link++) {
      const target = targets[link] as number;
      const unary = layer[target] as number;
      if (unary <= FORBIDDEN) continue;
      const value = score + (weights[link] as number) + unary;
      if (value > (next[target] as number)) {
        next[target] = value;
        origin[target] = source;
      }
    }
  }
  return { scores: next, origin };
}

function indexOfMaximum(values: Int32Array): number {
  let best = 0;
  for (let index = 1; index < values.length; index++)
    if ((values[index] as number) > (values[best] as number)) best = index;
  return best;
}

/**
 * e^(−i/100) for i = 0 … 30,000, by repeated multiplication: + − × ÷ round alike in every engine, Math.exp does not.
 * Anything weaker counts as e^−300.
 */
const EXPONENTIALS = makeExponentials(30_001);

function makeExponentials(count: number): Float64Array {
  const table = new Float64Array(count);
  let value = 1;
  for (let index = 0; index < count; index++) {
    table[index] = value;
    value *= 0.990_049_833_749_168_1;
  }
  return table;
}

/** e^(weight / temperature) relative to `top`, the greatest weight around. */
function scaled(weight: number, top: number, temperature: number): number {
  const index = Math.round(((top - weight) * 100) / temperature);
  return EXPONENTIALS[index < EXPONENTIALS.length ? index : EXPONENTIALS.length - 1] as number;
}

/** Reachable states keep at least this share, so that rare paths never vanish by underflow. */
const FLOOR = 1e-150;

/** Draws paths in proportion to e^(total weight / temperature). */
export interface Sampler {
  draw(random: Random): Path;
}

/**
 * An exact sampler: backward filtering once, forward sampling for each draw (Rabiner, 1989; Scott, 2002), so that a
 * constraint at the end shapes everything before it.
 *
 * @param temperature  in percent; 100 follows the weights, less keeps to the best, more strays further
 * @returns the sampler, or the first position that no allowed path reaches
 */
export function pathSampler(trellis: Trellis, temperature: number): Sampler | DeadEnd {
  const { layers, links } = trellis;
  const heat = Math.max(1, temperature);
  const unaries = layers.map((layer) => exponentials(layer, heat));
  const moves = new Map<Links, Float64Array>();
  for (const link of links) if (!moves.has(link)) moves.set(link, sharedMoves(link, heat));

  // future[i][s]: the share of all that can follow when state s is taken at position i, that state included
  const future: Float64Array[] = [];
  for (let position = layers.length - 1; position >= 0; position--) {
    const own = unaries[position] as Float64Array;
    const link = links[position];
    const next = future[position + 1];
    future[position] = next && link ? backwardStep(own, link, moves.get(link) as Float64Array, next) : own;
  }
  // No way through from the first position: the best path tells where it breaks off.
  if (layers.length > 0 && !(future[0] as Float64Array).some((share) => share > 0)) {
    const broken = bestPath(trellis);
    return isDeadEnd(broken) ? broken : { deadEnd: 0 };
  }
  return { draw: (random) => drawPath(trellis, moves, future, random) };
}

/** Shares of all weights against the greatest; forbidden ones have none. Plain loops: this is the innermost work. */
function exponentials(weights: Int32Array, heat: number): Float64Array {
  let top = FORBIDDEN;
  for (let index = 0; index < weights.length; index++)
    if ((weights[index] as number) > top) top = weights[index] as number;
  const shares = new Float64Array(weights.length);
  for (let index = 0; index < weights.length; index++) {
    const weight = weights[index] as number;
    if (weight > FORBIDDEN) shares[index] = scaled(weight, top, heat);
  }
  return shares;
}

/** Shared links are turned into shares once for each temperature. */
const knownMoves = new WeakMap<Links, { readonly heat: number; readonly shares: Float64Array }>();

function sharedMoves(links: Links, heat: number): Float64Array {
  const known = knownMoves.get(links);
  if (known?.heat === heat) return known.shares;
  const shares = exponentials(links.weights, heat);
  knownMoves.set(links, { heat, shares });
  return shares;
}

function backwardStep(
  own: Float64Array,
  { offsets, targets }: Links,
  moves: Float64Array,
  next: Float64Array,
): Float64Array {
  const result = new Float64Array(own.length);
  let top = 0;
  for (let state = 0; state < own.length; state++) {
    if (own[state] === 0) continue;
    let total = 0;
    let open = false;
    for (let link = offsets[state] as number; link < (offsets[state + 1] as number); link++) {
      const after = next[targets[link] as number] as number;
      if (after === 0) continue;
      open = true;
      total += (moves[link] as number) * after;
    }
    if (!open) continue;
    result[state] = Math.max(FLOOR, total * (own[state] as number));
    top = Math.max(top, result[state] as number);
  }
  for (let state = 0; state < result.length; state++) {
    if (result[state] !== 0) result[state] = Math.max(FLOOR, (result[state] as number) / top);
  }
  return result;
}

function drawPath(
  { layers, links }: Trellis,
  moves: ReadonlyMap<Links, Float64Array>,
  future: readonly Float64Array[],
  random: Random,
): Path {
  const path = new Int32Array(layers.length);
  if (layers.length === 0) return path;
  let state = drawIndex(future[0] as Float64Array, random);
  path[0] = state;
  for (let position = 1; position < layers.length; position++) {
    const link = links[position - 1] as Links;
    const weights = moves.get(link) as Float64Array;
    const next = future[position] as Float64Array;
    const first = link.offsets[state] as number;
    const shares = new Float64Array((link.offsets[state + 1] as number) - first);
    for (let index = 0; index < shares.length; index++) {
      shares[index] = (weights[first + index] as number) * (next[link.targets[first + index] as number] as number);
    }
    state = link.targets[first + drawIndex(shares, random)] as number;
    path[position] = state;
  }
  return path;
}

/** An index in proportion to its share; a share of 0 is never drawn. */
function drawIndex(shares: Float64Array, random: Random): number {
  let total = 0;
  for (const share of shares) total += share;
  let left = random.next() * total;
  let last = 0;
  for (let index = 0; index < shares.length; index++) {
    const share = shares[index] as number;
    if (share === 0) continue;
    last = index;
    left -= share;
    if (left < 0) return index;
  }
  return last;
}
