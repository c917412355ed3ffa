import '@fendro/core/song/validation';
import * as z from 'zod';

/** What the worker says that writes sound; what it is asked for is a `SoundWish`. */
export const fromSoundWorkerSchema = z.discriminatedUnion('kind', [
  /** What is being written, and how much of all is done, 0–1. */
  z.object({ kind: z.literal('progress'), name: z.string(), done: z.number() }),
  z.object({
    kind: z.literal('written'),
    /** A WAV file, or a zip of several. */
    blob: z.instanceof(Blob),
    seconds: z.number(),
    /** The peak of each file, 0–1, as they were asked for. */
    peaks: z.array(z.number()),
  }),
  z.object({ kind: z.literal('failed'), reason: z.string() }),
]);
export type FromSoundWorker = z.infer<typeof fromSoundWorkerSchema>;
export type SoundProgress = Omit<Extract<FromSoundWorker, { kind: 'progress' }>, 'kind'>;
export type WrittenSound = Omit<Extract<FromSoundWorker, { kind: 'written' }>, 'kind'>;
