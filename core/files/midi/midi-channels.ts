import type { Voice, VoiceId } from '../../sounding/setup';
import { range } from '../../theory/units';

/** Where a voice sounds in a file: a port, counted from 0, and one of its sixteen channels, 0–15. */
export interface Address {
  readonly port: number;
  readonly channel: number;
}

export const FIRST_ADDRESS: Address = { port: 0, channel: 0 };

/** General MIDI keeps drums on channel 10, counted from 0 here. */
const DRUM_CHANNEL = 9;

/** All channels of a port that pitches may sound on. */
export const PITCHED_CHANNELS: readonly number[] = range(16).filter((channel) => channel !== DRUM_CHANNEL);

const pitchedAddress = (index: number): Address => ({
  port: Math.floor(index / PITCHED_CHANNELS.length),
  channel: PITCHED_CHANNELS[index % PITCHED_CHANNELS.length] ?? 0,
});

/** Drums of one kit that are lines of their own are struck on one channel. */
const kitOf = ({ id, kit }: Voice): VoiceId => kit ?? id;

/**
 * A channel of its own for every voice, so that none takes another's program or level: pitches on all channels of the
 * first port but the tenth, drums on the tenth; what is left over goes to the same channels of further ports.
 */
export function addressesOf(voices: readonly Voice[]): ReadonlyMap<VoiceId, Address> {
  const pitched = voices.filter(({ drums }) => !drums);
  const kits = [...new Set(voices.filter(({ drums }) => drums).map(kitOf))];
  return new Map<VoiceId, Address>([
    ...pitched.map(({ id }, index) => [id, pitchedAddress(index)] as const),
    ...voices
      .filter(({ drums }) => drums)
      .map((voice) => [voice.id, { port: kits.indexOf(kitOf(voice)), channel: DRUM_CHANNEL }] as const),
  ]);
}

/** Channels for a file of one track, which has one port: all kits share the tenth. Null where pitches find no room. */
export function addressesInOneTrack(voices: readonly Voice[]): ReadonlyMap<VoiceId, Address> | null {
  const pitched = voices.filter(({ drums }) => !drums);
  if (pitched.length > PITCHED_CHANNELS.length) return null;
  const kits = voices.filter(({ drums }) => drums).map(({ id }) => [id, { port: 0, channel: DRUM_CHANNEL }] as const);
  return new Map([...addressesOf(pitched), ...kits]);
}
