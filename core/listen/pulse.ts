import { FRAMES_A_SECOND } from './frames';
import type { HeardSound } from './heard-sound';

/** What a note that is struck adds to what is heard of drums. */
const NOTE = 2;
/** What is held against its surroundings of so many frames: half a second to each side. */
const AROUND = Math.round(FRAMES_A_SECOND / 2);
/** Nothing counts for more than so many times the mean. */
const MOST = 8;

/** How strongly each frame pulses: what is struck in it, above what is struck all around. */
export function pulseOf({ notes, strokes }: Pick<HeardSound, 'notes' | 'strokes'>): Float32Array {
  const struck = Float32Array.from(strokes.all, (value) => Math.min(MOST, value));
  for (const { start, strength } of notes) {
    const place = start * FRAMES_A_SECOND;
    const frame = Math.floor(place);
    for (const [at, share] of [
      [frame, 1 - (place - frame)],
      [frame + 1, place - frame],
    ] as const)
      if (at >= 0 && at < struck.length) struck[at] = (struck[at] as number) + NOTE * strength * share;
  }
  const smooth = smoothed(struck);
  let sum = 0;
  const pulse = new Float32Array(smooth.length);
  for (let frame = -AROUND; frame < smooth.length; frame++) {
    sum += (smooth[frame + AROUND] ?? 0) - (smooth[frame - AROUND - 1] ?? 0);
    if (frame >= 0) pulse[frame] = Math.max(0, (smooth[frame] as number) - sum / (2 * AROUND + 1));
  }
  return pulse;
}

/** Each frame with a share of its neighbours: beats are never struck to a frame. */
const smoothed = (values: Float32Array): Float32Array =>
  values.map(
    (value, at) =>
      0.4 * value +
      0.25 * ((values[at - 1] ?? 0) + (values[at + 1] ?? 0)) +
      0.05 * ((values[at - 2] ?? 0) + (values[at + 2] ?? 0)),
  );
