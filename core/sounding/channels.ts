import { isDrumRole } from '../song/roles';
import type { Score } from '../song/schema';

/** General MIDI keeps drums on channel 10, counted from 0 here. */
export const DRUM_CHANNEL = 9;

/**
 * The MIDI channel (0–15) of every part: drums on channel 10, the others in order on the rest. Channels 15 and 16
 * stay free for previews and the metronome; beyond thirteen pitched
 * parts the channels are used again.
 *
 * @param inFiles  hand percussion shares channel 10 with the drums, as other programs expect; when it sounds here it
 * has a
 *                 channel of its own, so that its level and quiet are its own
 */
export function channelsOf(score: Score, inFiles = false): ReadonlyMap<string, number> {
  let next = 0;
  return new Map(
    score.parts.map((part) => {
      if (part.role === 'drums' || (inFiles && isDrumRole(part.role))) return [part.id, DRUM_CHANNEL];
      const channel = next % 13;
      next++;
      return [part.id, channel < DRUM_CHANNEL ? channel : channel + 1];
    }),
  );
}

/** A level or a pan as a MIDI controller value, 0–127. */
export const levelController = (level: number): number => Math.round((level * 127) / 100);
export const panController = (pan: number): number => Math.max(0, Math.min(127, Math.round(64 + (pan * 63) / 100)));
