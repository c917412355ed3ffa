import '@fendro/core/song/validation';
import * as z from 'zod';
import { styleSchema } from '@fendro/core/song/style';
import {
  askingSchema,
  attemptsSchema,
  chordSpanSchema,
  draftedNoteSchema,
  partTakeSchema,
  takeSchema,
} from '@fendro/core/song/schema';

/** What the page asks of the drafting worker. */
export const toWorkerSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('draft'),
    id: z.number().int(),
    request: z.object({
      asking: askingSchema,
      seed: z.number().int(),
      chords: z.array(chordSpanSchema).nullable(),
      beside: z.array(partTakeSchema),
      models: z.array(takeSchema).optional(),
      kept: attemptsSchema.unwrap().partial().optional(),
      style: styleSchema.optional(),
    }),
    from: z.number().int().min(0),
    count: z.number().int().min(1).max(256),
    shown: z.array(z.string()),
  }),
  z.object({ kind: z.literal('cancel'), id: z.number().int() }),
]);
export type ToWorker = z.infer<typeof toWorkerSchema>;

const contentSchema = z.discriminatedUnion('of', [
  z.object({ of: z.literal('part'), notes: z.array(draftedNoteSchema) }),
  z.object({ of: z.literal('harmony'), chords: z.array(chordSpanSchema) }),
]);

/** What the worker answers. */
export const fromWorkerSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('take'), id: z.number().int(), attempts: attemptsSchema, content: contentSchema }),
  z.object({ kind: z.literal('progress'), id: z.number().int(), share: z.number() }),
  z.object({
    kind: z.literal('refused'),
    id: z.number().int(),
    reason: z.string(),
    /** The setting of the brief that is to blame, and the least change that helps, where there is one. */
    setting: z.enum(['register', 'anchoring', 'voices']).optional(),
    nearest: z
      .object({ low: z.number().int(), high: z.number().int(), anchoring: z.number(), voices: z.number().int() })
      .partial()
      .optional(),
  }),
  z.object({ kind: z.literal('used up'), id: z.number().int(), found: z.number() }),
  /** The work broke off on the way, for a reason that no brief is to blame for. */
  z.object({ kind: z.literal('failed'), id: z.number().int(), reason: z.string() }),
  z.object({ kind: z.literal('done'), id: z.number().int() }),
]);
export type FromWorker = z.infer<typeof fromWorkerSchema>;
