import { clamp } from '../theory/units';
import { HOP, KEYS, LOWEST, RATE, type Activations } from './frames';
import type { HeardNote } from './heard-note';

/**
 * Notes out of what the transcription model says, key by key: a note begins where its key is struck, and lasts as long
 * as it sounds (after R. Bittner and others, 2022).
 */

/** From this likelihood on a key is struck, and sounds. */
const [STRUCK, STRUCK_AGAIN, SOUNDS] = [0.5, 0.65, 0.3] as const;
/** A key that falls silent for fewer frames than this still sounds. */
const GAP = 8;
/** The shortest note, in frames. */
const SHORTEST = 5;
/** A key is struck again no sooner than this, in frames. */
const AGAIN = 5;

const seconds = (frame: number): number => (frame * HOP) / RATE;

/** How far the top of a peak lies beside its frame, by a parabola through its neighbours: −½ to ½. */
export function topOf(before: number, peak: number, after: number): number {
  const bend = before - 2 * peak + after;
  return bend < 0 ? clamp((before - after) / (2 * bend), -0.5, 0.5) : 0;
}

/**
 * The notes of a recording, in order of their starts.
 */
export function notesIn({ frames, notes, onsets }: Activations): HeardNote[] {
  const found: HeardNote[] = [];
  for (let key = 0; key < KEYS; key++) {
    const struck = (frame: number): number => onsets[frame * KEYS + key] ?? 0;
    const sounds = (frame: number): number => notes[frame * KEYS + key] ?? 0;
    const begins = (frame: number): boolean =>
      struck(frame) >= STRUCK && struck(frame) > struck(frame - 1) && struck(frame) >= struck(frame + 1);
    for (let frame = 0; frame < frames; frame++) {
      if (!begins(frame)) continue;
      let end = frame + 1;
      let sum = sounds(frame);
      for (let silent = 0; end < frames && silent < GAP; end++) {
        if (end >= frame + AGAIN && begins(end) && struck(end) >= STRUCK_AGAIN) break;
        silent = sounds(end) < SOUNDS ? silent + 1 : 0;
        sum += sounds(end);
        if (silent === GAP) end -= GAP - 1;
      }
      if (end - frame < SHORTEST) continue;
      found.push({
        start: seconds(frame + topOf(struck(frame - 1), struck(frame), struck(frame + 1))),
        end: seconds(end),
        pitch: LOWEST + key,
        strength: clamp(sum / (end - frame), 0, 1),
      });
      frame = Math.max(frame, end - 1);
    }
  }
  return found.sort((a, b) => a.start - b.start || a.pitch - b.pitch);
}
