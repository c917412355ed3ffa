import type { MidiNote } from '../theory/units';

/** Recordings are listened to at this rate, in samples a second, in frames of so many samples, key by key of a piano. */
export const RATE = 22_050;
export const HOP = 256;
export const FRAMES_A_SECOND = RATE / HOP;
export const KEYS = 88;
export const LOWEST: MidiNote = 21;

/** What the transcription model says of a recording: `frames` rows of `KEYS` likelihoods, 0 to 1. */
export interface Activations {
  readonly frames: number;
  /** That a key sounds. */
  readonly notes: Float32Array;
  /** That a key is struck. */
  readonly onsets: Float32Array;
}
