import { Limiter, limiterDelay } from '@fendro/core/sounding/limiter';
import { QUANTUM } from '../../../worklets/protocol';
import { pack } from '../schedule';
import { setUp, type Renderer, type SongSound } from './song-sound';

/** Two channels of one length. */
export type Stereo = readonly [left: Float32Array<ArrayBuffer>, right: Float32Array<ArrayBuffer>];

/** What is softer than this is silence: nobody hears it, and 16 bits cannot hold it. */
const SILENT = 10 ** (-110 / 20);
/** Sound is over when it has been silent for so long; in seconds, as is how long it may ring on after its last event. */
const [QUIET_FOR, RINGS_AT_MOST] = [0.25, 20];
/** Quanta that are rendered before others have their turn. */
const AT_ONCE = 256;

/**
 * Renders a song with what rings on after it, as loud as it comes.
 *
 * @param synth   new, with all sounds
 * @param frames  how long it is to be; until it has rung out where nothing is said
 * @returns by and by how much of it is done, 0–1; then the sound
 */
export function* rendering(synth: Renderer, sound: SongSound, frames?: number): Generator<number, Stereo> {
  const { rate, begin, events } = sound;
  setUp(synth, sound);
  synth.queue(pack(events));
  const last = events.reduce((latest, { frame }) => Math.max(latest, frame), sound.end) - begin;
  const most = frames ?? last + RINGS_AT_MOST * rate;
  const [left, right] = [new Float32Array(most), new Float32Array(most)];
  const [l, r] = [new Float32Array(QUANTUM), new Float32Array(QUANTUM)];
  let quiet = 0;
  let to = 0;
  for (let quantum = 0; to < most && (frames !== undefined || to <= last || quiet < QUIET_FOR * rate); quantum++) {
    l.fill(0);
    r.fill(0);
    synth.renderOpen(l, r, quantum * QUANTUM);
    for (let index = 0, at = quantum * QUANTUM - begin; index < QUANTUM; index++, at++) {
      if (at < 0 || at >= most) continue;
      const [a, b] = [l[index] as number, r[index] as number];
      left[at] = a;
      right[at] = b;
      quiet = Math.abs(a) < SILENT && Math.abs(b) < SILENT ? quiet + 1 : 0;
      to = at + 1;
    }
    if (quantum % AT_ONCE === AT_ONCE - 1) yield Math.min(1, to / (frames ?? last + rate));
  }
  return [left.subarray(0, to), right.subarray(0, to)];
}

/** The factors by which the limiter keeps a song below full, for each frame. */
export function heldBack([left, right]: Stereo, rate: number): Float32Array {
  const delay = limiterDelay(rate);
  const limiter = new Limiter(rate);
  const factors = new Float32Array(left.length + delay);
  const step = QUANTUM * AT_ONCE;
  for (let from = 0; from < factors.length; from += step) {
    const to = Math.min(factors.length, from + step);
    const [l, r] = [new Float32Array(to - from), new Float32Array(to - from)];
    l.set(left.subarray(from, to));
    r.set(right.subarray(from, to));
    limiter.process(l, r, factors.subarray(from, to));
  }
  // What leaves at a frame came in before.
  return factors.subarray(delay);
}

/** Turns a sound down by a factor for each frame, in place; so all of a song's files add up to the song. */
export function turnDown([left, right]: Stereo, factors: Float32Array): void {
  for (let at = 0; at < left.length; at++) {
    const factor = factors[at] as number;
    left[at] = (left[at] as number) * factor;
    right[at] = (right[at] as number) * factor;
  }
}

/** The greatest sample of a sound, 0–1. */
export const peakOf = (sound: Stereo): number =>
  sound.reduce((most, side) => side.reduce((peak, sample) => Math.max(peak, Math.abs(sample)), most), 0);
