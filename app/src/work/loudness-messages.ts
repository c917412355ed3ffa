import '@fendro/core/song/validation';
import * as z from 'zod';

/** A line that is to be heard by numbers: its notes on an instrument. */
export const toLoudnessWorkerSchema = z.object({
  id: z.number().int(),
  /** The family's bank, where it is fetched from. */
  bank: z.string(),
  program: z.number().int(),
  drums: z.boolean(),
  /** One after the other, in order: start and end in seconds, MIDI note number, velocity. */
  notes: z.instanceof(Float64Array),
});
export type ToLoudnessWorker = z.infer<typeof toLoudnessWorkerSchema>;

export const fromLoudnessWorkerSchema = z.object({
  id: z.number().int(),
  /** In LUFS; null where it is silent or could not be measured. */
  loudness: z.number().nullable(),
});
export type FromLoudnessWorker = z.infer<typeof fromLoudnessWorkerSchema>;

/** Numbers of a note in `notes`. */
export const NOTE_SIZE = 4;
