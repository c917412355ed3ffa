import type { Ticks } from '../theory/units';
import { ledTempo, PULSE_TICKS, PULSES, type Followed } from './midi-clock';

/** Another's clock as the music follows it: a straight line through its last pulses. */
export interface Leader {
  /** In BPM. */
  readonly tempo: number;
  /** A pulse that came, as ticks from its song's start, and when, in ms: the mean of its last ones, which trembles least. */
  readonly tick: Ticks;
  readonly at: number;
}

/** The leader that a clock is; null until enough pulses have come. */
export function leaderOf(clock: Followed): Leader | null {
  const tempo = ledTempo(clock);
  if (tempo === null || !clock.running) return null;
  const { recent, pulses } = clock;
  const mean = recent.reduce((sum, at) => sum + at, 0) / recent.length;
  // The last pulse that came was the one before the next.
  return { tempo, tick: (pulses - 1 - (recent.length - 1) / 2) * PULSE_TICKS, at: mean };
}

const msPerTick = (tempo: number): number => 60_000 / (tempo * PULSES * PULSE_TICKS);

/** Where the leader is at a moment, in ms; seldom a whole tick. */
export const leaderTick = ({ tempo, tick, at }: Leader, ms: number): number => tick + (ms - at) / msPerTick(tempo);

/** When the leader is at a tick, in ms. */
export const leaderTime = ({ tempo, tick, at }: Leader, place: Ticks): number => at + (place - tick) * msPerTick(tempo);

/** Beyond this much of another tempo the music does not hurry after a leader, but joins it anew. */
const MOST_HURRY = 0.12;

/**
 * The tempo at which a stretch of music meets the leader where it ends, in BPM; null where it is too far away for that.
 *
 * @param from    where the stretch begins, in the leader's ticks
 * @param length  of the stretch, in ticks
 * @param at      when it begins to sound, in ms
 */
export function meetingTempo(leader: Leader, from: Ticks, length: Ticks, at: number): number | null {
  const lasts = leaderTime(leader, from + length) - at;
  const tempo = (60_000 * length) / (PULSES * PULSE_TICKS * Math.max(1e-6, lasts));
  return Math.abs(tempo / leader.tempo - 1) > MOST_HURRY ? null : tempo;
}
