import type { MidiNote } from '../theory/units';

/** A note that was heard; in seconds from the beginning of the recording. */
export interface HeardNote {
  readonly start: number;
  readonly end: number;
  readonly pitch: MidiNote;
  /** How surely it sounds, 0 to 1. */
  readonly strength: number;
}
