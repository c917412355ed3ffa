import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';

/** A seeded stream of numbers; the same on every machine. */
export interface Random {
  /** At least 0, below 1, in steps of 2⁻³². */
  next(): number;
}

/** The label of a stream: a stage's name, a phrase unit, an attempt … */
export type StreamLabel = string | number;

/** 32-bit FNV-1a over the labels, finished with the murmur mixer so that neighbouring numbers part. */
export function hashLabels(seed: number, labels: readonly StreamLabel[]): number {
  let hash = 0x811c9dc5;
  for (const character of [seed, ...labels].join('\u0000')) {
    hash = Math.imul(hash ^ character.charCodeAt(0), 0x01000193);
  }
  hash = Math.imul(hash ^ (hash >>> 16), 0x85ebca6b);
  hash = Math.imul(hash ^ (hash >>> 13), 0xc2b2ae35);
  return hash ^ (hash >>> 16);
}

/**
 * A stream of its own for every purpose: asking for another one, or asking more often, leaves the others as they were.
 */
export function stream(seed: number, ...labels: StreamLabel[]): Random {
  const generator = xoroshiro128plus(hashLabels(seed, labels));
  return { next: () => (generator.next() >>> 0) / 0x1_0000_0000 };
}

/**
 * One number of a seed and labels, for what draws once and never again: a tenth of what a stream costs.
 *
 * @returns at least 0, below 1
 */
export const once = (seed: number, ...labels: StreamLabel[]): number =>
  (hashLabels(seed, labels) >>> 0) / 0x1_0000_0000;

/** True with a chance in percent; 0 never, 100 always. */
export const happens = (random: Random, chance: number): boolean => random.next() * 100 < chance;

/** A whole number from 0 to `count` − 1. */
export const pickIndex = (random: Random, count: number): number => Math.floor(random.next() * count);

/**
 * One of several options by weight.
 *
 * @throws RangeError when there is no option
 */
export function pickWeighted<T>(random: Random, options: readonly (readonly [option: T, weight: number])[]): T {
  const total = options.reduce((sum, [, weight]) => sum + Math.max(0, weight), 0);
  let left = random.next() * total;
  for (const [option, weight] of options) {
    left -= Math.max(0, weight);
    if (left < 0 && weight > 0) return option;
  }
  const last = options.findLast(([, weight]) => weight > 0) ?? options.at(-1);
  if (!last) throw new RangeError('nothing to pick from');
  return last[0];
}

/** A number between `low` and `high`, most likely near the middle (triangular). */
export const between = (random: Random, low: number, high: number): number =>
  low + ((high - low) * (random.next() + random.next())) / 2;
