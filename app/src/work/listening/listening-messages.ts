import * as z from 'zod';
import type { Correction } from '@fendro/core/listen/heard-file';
import type { Metre } from '@fendro/core/theory/metre';
import { fileSchema, keySchema, metreSchema, type FoundInFile } from '../import-messages';

const samples = z.custom<Float32Array>((value) => value instanceof Float32Array);
const correction = z.object({
  tempo: z.number().positive().optional(),
  line: z.number().optional(),
  metre: metreSchema.optional(),
});

/** A recording to listen to, and then how it is to be written down. */
export const toListeningWorkerSchema = z.discriminatedUnion('kind', [
  /** `base` is the folder that the model lies in, with a slash at its end. */
  z.object({ kind: z.literal('listen'), samples, base: z.string() }),
  z.object({ kind: z.literal('write'), correction }),
]);
export type ToListeningWorker =
  | { readonly kind: 'listen'; readonly samples: Float32Array; readonly base: string }
  | { readonly kind: 'write'; readonly correction: Correction };

/** A recording as it was written down. */
export interface WrittenSound extends FoundInFile {
  /** Where its first bar line lies, in seconds of the recording. */
  readonly first: number;
  /** Counted beats a minute. */
  readonly tempo: number;
  readonly metre: Metre;
  readonly even: boolean;
}

export const fromListeningWorkerSchema = z.discriminatedUnion('kind', [
  /** The share of it that has been heard, 0 to 1. */
  z.object({ kind: z.literal('heard'), share: z.number() }),
  z.object({
    kind: z.literal('written'),
    file: fileSchema,
    keys: z.array(z.object({ key: keySchema, confidence: z.number() })),
    first: z.number(),
    tempo: z.number(),
    metre: metreSchema,
    even: z.boolean(),
  }),
  z.object({ kind: z.literal('refused'), reason: z.string() }),
]);
export type FromListeningWorker = z.infer<typeof fromListeningWorkerSchema>;
