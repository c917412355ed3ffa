import '@fendro/core/song/validation';
import * as z from 'zod';
import { chordSchema } from '@fendro/core/song/music-schema';
import { toneSchema } from '@fendro/core/song/mix-schema';
import { chordSpanSchema, noteSchema, ROLES } from '@fendro/core/song/schema';
import { MOVE_KINDS } from '@fendro/core/song/moves';
import { isScaleId } from '@fendro/core/theory/scale';
import type { ImportFile } from '@fendro/core/files/incoming/file-model';
import type { Key } from '@fendro/core/theory/key';
import type { KeyGuess } from '@fendro/core/study/infer/key';

export const keySchema = z.object({ tonic: z.number().int(), scale: z.string().refine(isScaleId) });
const note = noteSchema
  .unwrap()
  .pick({ start: true, duration: true, pitch: true, velocity: true, bend: true, vibrato: true, swell: true })
  .extend({ held: z.number().int().optional() });
const point = z.object({ at: z.number().int(), value: z.number() });
const points = z.array(point);
export const metreSchema = z.object({
  beats: z.number(),
  unit: z.union([z.literal(2), z.literal(4), z.literal(8), z.literal(16)]),
  groups: z.array(z.number()),
});
const roles = z.enum(ROLES);
export const fileSchema = z.object({
  lines: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      drums: z.boolean(),
      role: roles,
      instrument: z.string(),
      level: z.number().optional(),
      pan: z.number().optional(),
      tone: toneSchema.optional(),
      moves: z.partialRecord(z.enum(MOVE_KINDS), points),
      notes: z.array(note),
    }),
  ),
  sections: z.array(
    z.object({
      name: z.string(),
      start: z.number(),
      bars: z.number().int(),
      metre: metreSchema,
      tempo: z.number(),
      tempos: points,
      key: keySchema.nullable(),
    }),
  ),
  length: z.number(),
  chords: z.array(z.object({ at: z.number(), chord: chordSchema.nullable() })),
  remarks: z.array(z.string()),
});

/** A file to read, or a read file whose chords are wanted. */
export const toImportWorkerSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('read'), bytes: z.instanceof(Uint8Array) }),
  z.object({ kind: z.literal('chords'), file: fileSchema, picked: z.array(z.string()), key: keySchema }),
]);
export type ToImportWorker =
  | { readonly kind: 'read'; readonly bytes: Uint8Array }
  | { readonly kind: 'chords'; readonly file: ImportFile; readonly picked: readonly string[]; readonly key: Key };

/** What was found in a file: its lines and sections, and the keys that it may be in, the likeliest first. */
export interface FoundInFile {
  readonly file: ImportFile;
  readonly keys: readonly KeyGuess[];
}

export const fromImportWorkerSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('found'),
    file: fileSchema,
    keys: z.array(z.object({ key: keySchema, confidence: z.number() })),
  }),
  z.object({ kind: z.literal('chords'), chords: z.array(z.array(chordSpanSchema)) }),
  z.object({ kind: z.literal('refused'), reason: z.string() }),
]);
export type FromImportWorker = z.infer<typeof fromImportWorkerSchema>;
