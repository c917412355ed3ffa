import { FURTHEST_OFFSET, type Guide } from '../song/schema';
import { clamp, TICKS_PER_QUARTER } from '../theory/units';

/** How a recording lies under the song that was written from it. */
export interface LaidUnder extends Pick<Guide, 'at' | 'offset'> {
  /** So much of its beginning is left out, in seconds: what comes before the first bar line. */
  readonly leftOut: number;
}

/**
 * Lays a recording so that its bar lines are those of its writing.
 *
 * @param first  where its first bar line lies, in seconds of it; below 0 where it begins inside of the bar
 * @param tempo  quarter notes a minute
 */
export function laidUnder(first: number, tempo: number): LaidUnder {
  if (first >= 0) return { leftOut: first, at: 0, offset: 0 };
  const tick = 60 / tempo / TICKS_PER_QUARTER;
  const at = Math.round(-first / tick);
  const offset = clamp(Math.round((-first - at * tick) * 1000), -FURTHEST_OFFSET, FURTHEST_OFFSET);
  return { leftOut: 0, at, offset };
}
