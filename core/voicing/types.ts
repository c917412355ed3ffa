import type { MidiNote } from '../theory/units';

/** Sounding pitches from low to high. */
export type Voicing = readonly MidiNote[];
