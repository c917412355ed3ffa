import { groundOf } from '../song/ground';
import { layOut, type Placed } from '../song/resolve';
import type { Ground, Score } from '../song/schema';
import { barTicks } from '../theory/metre';
import { TICKS_PER_QUARTER, type Ticks } from '../theory/units';

/** A stretch of the running order on one ground. */
export interface GroundSpan {
  readonly start: Ticks;
  readonly end: Ticks;
  readonly ground: Ground;
}

/** The grounds of the running order, one span for each place. */
export const groundSpans = (score: Score, placed: readonly Placed[] = layOut(score)): GroundSpan[] =>
  placed.map(({ section, start, length }) => ({ start, end: start + length, ground: groundOf(score, section) }));

/** The ground at a moment; before and after the song, its own. */
export const groundAt = (score: Score, at: Ticks, placed?: readonly Placed[]): Ground =>
  groundSpans(score, placed).findLast(({ start, end }) => start <= at && at < end)?.ground ?? score.ground;

/** Every bar line of the running order and its end. */
export function barLines(score: Score, placed?: readonly Placed[]): Ticks[] {
  const lines: Ticks[] = [];
  let last = 0;
  for (const { start, end, ground } of groundSpans(score, placed)) {
    for (let at = start; at < end; at += barTicks(ground.metre)) lines.push(at);
    last = end;
  }
  return [...lines, last];
}

/** Seconds of a tick at a tempo. */
export const secondsPerTick = (tempo: number): number => 60 / (tempo * TICKS_PER_QUARTER);

/** Seconds from the start of the running order to a moment, over all its tempos. */
export function secondsTo(score: Score, to: Ticks): number {
  return groundSpans(score).reduce(
    (total, { start, end, ground }) => total + Math.max(0, Math.min(end, to) - start) * secondsPerTick(ground.tempo),
    0,
  );
}
