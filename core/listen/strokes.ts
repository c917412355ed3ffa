// The package has no types, and every program that reads this file needs them.
// eslint-disable-next-line @typescript-eslint/triple-slash-reference
/// <reference path="./fft.d.ts" />
import FFT from 'fft.js';
import { HOP, RATE } from './frames';

/**
 * Where something is struck, by how much louder each band of the spectrum becomes from one frame to the next: spectral
 * flux over logarithmic bands (S. Dixon, “Onset Detection Revisited”, 2006; S. Böck and G. Widmer, 2013). Drums are heard
 * by it too, of which the transcription model knows nothing.
 */

const SIZE = 1024;
/** Bands a third of an octave wide, from here in Hz. */
const [LOWEST_BAND, BANDS] = [40, 24] as const;
/** What is softer than this counts as silence, in full scale. */
const FLOOR = 1e-3;
/** Bands below the first and from the second on are where kicks, and where snares and cymbals are heard. */
const [LOW, HIGH] = [6, 17] as const;
/** A frame is held against the one that lies so far before it. */
const BACK = 2;

/** How strongly something is struck in each frame, with a mean of 1 over the recording (0 where it is silent). */
export interface Strokes {
  readonly all: Float32Array;
  /** In the lowest octaves alone: kicks and basses. */
  readonly low: Float32Array;
  /** In the highest alone: snares and cymbals. */
  readonly high: Float32Array;
}

/** The bins of the spectrum that each band is made of. */
const EDGES: readonly number[] = Array.from({ length: BANDS + 1 }, (_, band) =>
  Math.max(1 + band, Math.min(SIZE / 2, Math.round((LOWEST_BAND * 2 ** (band / 2.7) * SIZE) / RATE))),
);
const WINDOW = Float32Array.from({ length: SIZE }, (_, at) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (at + 0.5)) / SIZE));

/** The level of each band in each frame, frame by frame. */
function levelsOf(samples: Float32Array, frames: number): Float32Array {
  const fft = new FFT(SIZE);
  const [input, spectrum] = [new Float32Array(SIZE), fft.createComplexArray()];
  const levels = new Float32Array(frames * BANDS);
  for (let frame = 0; frame < frames; frame++) {
    const from = frame * HOP - SIZE / 2;
    for (let at = 0; at < SIZE; at++) input[at] = (samples[from + at] ?? 0) * (WINDOW[at] as number);
    fft.realTransform(spectrum, input);
    for (let band = 0; band < BANDS; band++) {
      let power = 0;
      for (let bin = EDGES[band] as number; bin < (EDGES[band + 1] as number); bin++)
        power += (spectrum[2 * bin] as number) ** 2 + (spectrum[2 * bin + 1] as number) ** 2;
      levels[frame * BANDS + band] = Math.log1p(Math.sqrt(power) / (SIZE * FLOOR));
    }
  }
  return levels;
}

/** How much the levels of some bands rise at each frame. */
function rises(levels: Float32Array, frames: number, from: number, to: number): Float32Array {
  const rise = new Float32Array(frames);
  let total = 0;
  for (let frame = BACK; frame < frames; frame++) {
    let sum = 0;
    for (let band = from; band < to; band++)
      sum += Math.max(0, (levels[frame * BANDS + band] as number) - (levels[(frame - BACK) * BANDS + band] as number));
    rise[frame] = sum;
    total += sum;
  }
  const mean = total / Math.max(1, frames);
  return mean > 0 ? rise.map((value) => value / mean) : rise;
}

/**
 * Where something is struck in a recording.
 *
 * @param samples  one channel at `RATE`
 */
export function strokesIn(samples: Float32Array): Strokes {
  const frames = Math.ceil(samples.length / HOP);
  const levels = levelsOf(samples, frames);
  return {
    all: rises(levels, frames, 0, BANDS),
    low: rises(levels, frames, 0, LOW),
    high: rises(levels, frames, HIGH, BANDS),
  };
}
