import type { Direction } from '../song/schema';
import { modulo, range, type Percent, type Ticks } from '../theory/units';

/** One step of a pattern, as it comes in a pass. */
export interface Step {
  /** From the section's start, in ticks; the next step's beginning or the end of its window is its own end. */
  readonly at: Ticks;
  readonly until: Ticks;
  /** Counted from the last time that the pattern started anew. */
  readonly count: number;
  /** Ticks since the first pass began: what chance tells steps apart by. */
  readonly moment: Ticks;
}

/** How steps follow each other. */
export interface Pace {
  /** Length of a step, in ticks. */
  readonly rate: Ticks;
  /** By how much every second step comes late, in %. */
  readonly swing: Percent;
  /** Bars after which the pattern starts anew; null where it runs on. */
  readonly restart: number | null;
}

/** Where a pass lies: the section's length and its bars, and how often it was played before. */
export interface PassPlace {
  readonly length: Ticks;
  readonly bar: Ticks;
  readonly pass: number;
}

/**
 * The steps that begin in a pass. One pass goes on where the last has ended, so that strips that do not fit into a
 * section drift against it, unless the pattern starts anew.
 *
 * @returns in order of their beginnings, each at least a tick long
 */
export function stepsIn({ rate, swing, restart }: Pace, { length, bar, pass }: PassPlace): Step[] {
  const begun = pass * length;
  const end = begun + length;
  const window = restart === null ? end : restart * bar;
  const late = Math.round((rate * swing) / 300);
  const startOf = (count: number): Ticks => count * rate + (count % 2 === 1 ? late : 0);
  const windows = restart === null ? [0] : range(Math.ceil(end / window)).filter((at) => (at + 1) * window > begun);
  return windows.flatMap((place) => {
    const from = place * window;
    // A step before the first may come late enough to begin in the pass.
    const first = Math.max(0, Math.floor((begun - from) / rate) - 1);
    const last = Math.ceil((Math.min(end, from + window) - from) / rate);
    return range(Math.max(0, last - first)).flatMap((index): Step[] => {
      const count = first + index;
      const moment = from + startOf(count);
      const until = Math.min(from + startOf(count + 1), restart === null ? Number.POSITIVE_INFINITY : from + window);
      return moment < begun || moment >= end || until <= moment
        ? []
        : [{ at: moment - begun, until: until - begun, count, moment }];
    });
  });
}

/**
 * Which step of a strip comes when.
 *
 * @param count   steps since the pattern started anew
 * @param length  steps of the strip
 * @param drawn   what chance gives, at least 0 and below 1
 * @returns counted from 0
 */
export function stepAt(direction: Direction, count: number, length: number, drawn: () => number): number {
  switch (direction) {
    case 'forward':
      return modulo(count, length);
    case 'back':
      return length - 1 - modulo(count, length);
    case 'to and fro': {
      const there = modulo(count, Math.max(1, 2 * length - 2));
      return there < length ? there : 2 * length - 2 - there;
    }
    case 'by chance':
      return Math.floor(drawn() * length);
  }
}
