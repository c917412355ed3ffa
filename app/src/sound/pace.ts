import { tempoMap } from '@fendro/core/sounding/tempo-map';
import type { Ticks } from '@fendro/core/theory/units';
import type { Pass } from './schedule';

/** How soon music joins another's clock, in seconds: what is queued must be computed until then. */
export const JOIN_SECONDS = 0.12;

/** Another's clock that the music goes by. Moments are in ms of the page's clock, ticks those of the other's song. */
export interface Pace {
  /** In BPM. */
  tempo(): number;
  tickAt(moment: number): Ticks;
  /** The tempo at which a stretch that begins at a moment meets the clock at its end; null where it cannot. */
  tempoFor(from: Ticks, length: Ticks, moment: number): number | null;
}

/**
 * A pass at the tempo at which it meets the clock that is followed.
 *
 * @param moment  when it begins to sound, in ms
 * @returns null where the clock is too far away for that
 */
export function paced<P extends Omit<Pass, 'frame'>>(pass: P, pace: Pace, moment: number): P | null {
  const tempo = pace.tempoFor(pass.led ?? 0, pass.to - pass.from, moment);
  return tempo === null ? null : { ...pass, tempo: tempoMap([{ start: 0, end: 1, tempo }]) };
}
