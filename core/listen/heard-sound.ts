import { RATE, type Activations } from './frames';
import type { HeardNote } from './heard-note';
import { strokesIn, type Strokes } from './strokes';
import { notesIn } from './transcribed';

/** All that is heard in a recording before it is written down. */
export interface HeardSound {
  readonly seconds: number;
  readonly notes: readonly HeardNote[];
  readonly strokes: Strokes;
}

/**
 * @param samples      one channel at `RATE`
 * @param activations  what the transcription model says of it
 */
export const heardSound = (samples: Float32Array, activations: Activations): HeardSound => ({
  seconds: samples.length / RATE,
  notes: notesIn(activations),
  strokes: strokesIn(samples),
});
