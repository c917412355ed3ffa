import { clamp } from '../theory/units';

/** Recorded sound: one channel of whole numbers of 16 bits, as they are stored. */
export interface Wave {
  /** Samples a second. */
  readonly rate: number;
  readonly samples: Int16Array;
}

const FULL = 32_767;

/** Samples that are turned over at once, before others have their turn. */
const STEP = 200_000;

/** Sound of any loudness as it is stored; what is beyond full is held there. In steps, since there may be much of it. */
export function* storing(samples: Float32Array): Generator<void, Int16Array> {
  const stored = new Int16Array(samples.length);
  for (let at = 0; at < samples.length; at++) {
    stored[at] = Math.round(clamp(samples[at] ?? 0, -1, 1) * FULL);
    if (at % STEP === STEP - 1) yield;
  }
  return stored;
}

/** All of it at once: for what is short. */
export function toStored(samples: Float32Array): Int16Array {
  const work = storing(samples);
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
  }
}

/** Stored sound as it is played: −1 to 1. In steps, as above. */
export function* playing(samples: Int16Array): Generator<void, Float32Array<ArrayBuffer>> {
  const played = new Float32Array(samples.length);
  for (let at = 0; at < samples.length; at++) {
    played[at] = (samples[at] ?? 0) / FULL;
    if (at % STEP === STEP - 1) yield;
  }
  return played;
}

/**
 * The greatest sample of each of so many stretches of equal length, 0 to 1: what a picture of the sound shows. Of long
 * stretches only some samples are looked at, evenly: nobody sees more.
 */
export function peaksOf({ samples }: Wave, count: number): readonly number[] {
  const length = samples.length / count;
  const stride = Math.max(1, Math.floor(length / LOOKED_AT));
  return Array.from({ length: count }, (_, index) => {
    let most = 0;
    for (let at = Math.floor(index * length); at < Math.floor((index + 1) * length); at += stride)
      most = Math.max(most, Math.abs(samples[at] ?? 0));
    return Math.min(1, most / FULL);
  });
}

/** Samples of a stretch that are looked at, at most. */
const LOOKED_AT = 400;

/** Joins what was recorded block by block, between two frames; where no block came there is silence. */
export function joined(
  blocks: readonly { readonly frame: number; readonly samples: Int16Array }[],
  from: number,
  to: number,
): Int16Array {
  const whole = new Int16Array(Math.max(0, to - from));
  for (const { frame, samples } of blocks) {
    const skips = Math.max(0, from - frame);
    const fits = Math.max(0, Math.min(samples.length, to - frame));
    if (skips < fits) whole.set(samples.subarray(skips, fits), frame + skips - from);
  }
  return whole;
}
