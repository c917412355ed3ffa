import './validation';
import * as z from 'zod';
import { LIMITS } from './limits';
import { length, motifId, ticks } from './music-schema';

/** What a song remembers, and what its sections do with it. */

/** What a section may do with a motif. */
export const MOTIF_USES = ['states', 'quotes', 'answers', 'sequences', 'stretches', 'inverts', 'avoids'] as const;

/** A rhythm with a contour: notes as they lie from the motif's beginning, in steps of the scale from its first one. */
export const motifSchema = z
  .object({
    bars: z.number().int().min(1).max(4),
    /** How long each of its bars is. */
    barTicks: length,
    notes: z
      .array(
        z.object({ start: ticks.min(0), duration: ticks.min(1), step: z.number().int().min(-28).max(28) }).readonly(),
      )
      .min(1)
      .max(64)
      .readonly(),
  })
  .readonly();

/** A motif of a song, under its name. */
export const songMotifSchema = motifSchema
  .unwrap()
  .extend({ id: motifId, name: z.string().min(1).max(LIMITS.name) })
  .readonly();

/** A section's line of the plan. */
export const sectionPlanSchema = z
  .object({
    /** Bound sections lean as sections of their kind do, and use the motif; free ones take each brief as it stands. */
    bound: z.boolean(),
    motif: motifId.nullable(),
    use: z.enum(MOTIF_USES),
  })
  .readonly();

export type MotifUse = (typeof MOTIF_USES)[number];
export type Motif = z.infer<typeof motifSchema>;
export type SongMotif = z.infer<typeof songMotifSchema>;
export type SectionPlan = z.infer<typeof sectionPlanSchema>;
