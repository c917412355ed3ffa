import type { MidiNote } from '../theory/units';
import { clockFollowed, ledTempo, PULSES, UNLED, type Followed } from './midi-clock';
import type { MidiMessage } from './midi-message';

/** What came on one channel. */
interface ChannelHeard {
  readonly sounding: ReadonlySet<MidiNote>;
  /** Notes that were struck. */
  readonly struck: number;
  /** The lowest and the highest of them. */
  readonly low: MidiNote;
  readonly high: MidiNote;
  readonly program: number | null;
}

/** What a studio has been sent. */
export interface StudioHeard {
  readonly clock: Followed;
  /** When the first pulse since the start came, in ms, and how many have come since. */
  readonly first: number | null;
  readonly since: number;
  /** How far the last pulse was from an even clock, and the furthest, in ms. */
  readonly drift: number;
  readonly furthest: number;
  readonly channels: ReadonlyMap<number, ChannelHeard>;
}

export const NOTHING_CAME: StudioHeard = {
  clock: UNLED,
  first: null,
  since: 0,
  drift: 0,
  furthest: 0,
  channels: new Map(),
};

const UNHEARD: ChannelHeard = { sounding: new Set(), struck: 0, low: 127, high: 0, program: null };

/**
 * What a studio has after another message.
 *
 * @param tempo  the tempo of the studio's own project, in BPM: the clock that comes is held against it
 * @param at     when it is to be heard, in ms
 */
export function studioHeard(heard: StudioHeard, message: MidiMessage, at: number, tempo: number): StudioHeard {
  switch (message.says) {
    case 'start':
    case 'continue':
      return { ...heard, clock: clockFollowed(heard.clock, message, at), first: null, since: 0, drift: 0, furthest: 0 };
    case 'stop':
    case 'position':
      return { ...heard, clock: clockFollowed(heard.clock, message, at) };
    case 'clock':
      return pulsed({ ...heard, clock: clockFollowed(heard.clock, message, at) }, at, tempo);
    case 'note on':
    case 'note off':
    case 'program':
      return { ...heard, channels: new Map([...heard.channels, [message.channel, channelHeard(heard, message)]]) };
    default:
      return heard;
  }
}

function pulsed(heard: StudioHeard, at: number, tempo: number): StudioHeard {
  if (!heard.clock.running) return heard;
  if (heard.first === null) return { ...heard, first: at, since: 0 };
  const since = heard.since + 1;
  const drift = at - heard.first - (since * 60_000) / (tempo * PULSES);
  return { ...heard, since, drift, furthest: Math.max(heard.furthest, Math.abs(drift)) };
}

function channelHeard(
  { channels }: StudioHeard,
  message: Extract<MidiMessage, { readonly says: 'note on' | 'note off' | 'program' }>,
): ChannelHeard {
  const own = channels.get(message.channel) ?? UNHEARD;
  if (message.says === 'program') return { ...own, program: message.program };
  const { pitch } = message;
  const sounding = new Set(own.sounding);
  if (message.says === 'note off') {
    sounding.delete(pitch);
    return { ...own, sounding };
  }
  const [low, high] = [Math.min(own.low, pitch), Math.max(own.high, pitch)];
  return { ...own, sounding: sounding.add(pitch), struck: own.struck + 1, low, high };
}

/** The tempo of the clock that comes, in BPM; null where none does. */
export const tempoHeard = ({ clock }: StudioHeard): number | null => ledTempo(clock);

/** Bar and beat of the clock that comes, in 4/4, counted from 1. */
export function placeHeard({ clock }: StudioHeard): { readonly bar: number; readonly beat: number } {
  const beats = Math.floor(clock.pulses / PULSES);
  return { bar: 1 + Math.floor(beats / 4), beat: 1 + (beats % 4) };
}
