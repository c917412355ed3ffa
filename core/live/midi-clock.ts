import { TICKS_PER_QUARTER, type Ticks } from '../theory/units';
import type { TempoMap } from '../sounding/tempo-map';

/** Pulses of the clock in a quarter note, as the MIDI standard has it. */
export const PULSES = 24;
/** Ticks from pulse to pulse. */
export const PULSE_TICKS: Ticks = TICKS_PER_QUARTER / PULSES;
/** Ticks of a sixteenth, in which song positions are told. */
const POSITION_TICKS: Ticks = TICKS_PER_QUARTER / 4;

/**
 * The pulses of a stretch of music, each with its moment: counted from the stretch's own beginning, so that no error adds
 * up however long it plays.
 *
 * @param span     ticks of the music
 * @param zero     when its first tick sounds, in ms
 * @returns moments in ms, rising
 */
export function pulsesIn(
  span: { readonly from: Ticks; readonly to: Ticks },
  tempo: TempoMap,
  zero: number,
): readonly { readonly tick: Ticks; readonly at: number }[] {
  const pulses: { tick: Ticks; at: number }[] = [];
  const begins = tempo.secondsAt(span.from);
  for (let tick = Math.ceil(span.from / PULSE_TICKS) * PULSE_TICKS; tick < span.to; tick += PULSE_TICKS)
    pulses.push({ tick, at: zero + 1000 * (tempo.secondsAt(tick) - begins) });
  return pulses;
}

/** A place in the song as it is told: whole sixteenths. */
export const positionOf = (tick: Ticks): number => Math.max(0, Math.floor(tick / POSITION_TICKS));
/** The tick that a told place means. */
export const tickOfPosition = (sixteenths: number): Ticks => sixteenths * POSITION_TICKS;

/** Another's clock as it is followed. */
export interface Followed {
  readonly running: boolean;
  /** Pulses since the song's start; the next one is this place. */
  readonly pulses: number;
  /** When the last pulses came, in ms, the latest last. */
  readonly recent: readonly number[];
}

export const UNLED: Followed = { running: false, pulses: 0, recent: [] };

/** Pulses over which the tempo is taken: two bars of quarters, since clocks tremble by a millisecond or two. */
const TAKEN_OVER = 8 * PULSES;
/** A pulse that comes later than this begins anew, in ms: 20 BPM is 125. */
const LOST_MS = 250;

export type ClockMessage =
  | { readonly says: 'clock' | 'start' | 'continue' | 'stop' }
  | { readonly says: 'position'; readonly sixteenths: number };

/** Follows a message of another's clock. @param at  when it came, in ms */
export function clockFollowed(clock: Followed, message: ClockMessage, at: number): Followed {
  switch (message.says) {
    case 'start':
      return { running: true, pulses: 0, recent: clock.recent };
    case 'continue':
      return { ...clock, running: true };
    case 'stop':
      return { ...clock, running: false };
    case 'position':
      return { ...clock, pulses: tickOfPosition(message.sixteenths) / PULSE_TICKS };
    case 'clock': {
      const lost = at - (clock.recent.at(-1) ?? at) > LOST_MS;
      const recent = [...(lost ? [] : clock.recent), at].slice(-TAKEN_OVER - 1);
      return { ...clock, recent, pulses: clock.running ? clock.pulses + 1 : clock.pulses };
    }
  }
}

/** The tempo of a followed clock, in BPM, by least squares over its last pulses; null until there are enough. */
export function ledTempo({ recent }: Followed): number | null {
  const count = recent.length;
  if (count < PULSES / 2) return null;
  const [first] = recent;
  const middle = (count - 1) / 2;
  let [up, across] = [0, 0];
  recent.forEach((at, index) => {
    up += (index - middle) * (at - (first ?? 0));
    across += (index - middle) ** 2;
  });
  return 60_000 / ((up / across) * PULSES);
}
