import './validation';
import * as z from 'zod';
import { id, percent } from './brief-schema';
import { occurrenceId, of, ticks } from './music-schema';
import { LIMITS } from './limits';
import type { Ticks } from '../theory/units';

/** How long a recording of a guide may be, in seconds: ten minutes. */
export const LONGEST_GUIDE = 600;
/** How far a recording may be put before or behind its place by hand, in ms. */
export const FURTHEST_OFFSET = 2000;

/**
 * A recorded voice or instrument under the song. Its sound lies in the browser's storage, by its name there; a song that
 * came without it still says where it was.
 */
export const guideSchema = z
  .object({
    id,
    name: z.string().min(1).max(LIMITS.name),
    /** The place of the running order that it travels with; it is silent while that is gone. */
    place: occurrenceId,
    /** From the place's start. */
    at: of<Ticks>(ticks.min(0)),
    /** How much later than there it sounds, in ms. */
    offset: z.number().int().min(-FURTHEST_OFFSET).max(FURTHEST_OFFSET),
    level: percent,
    muted: z.boolean(),
    seconds: z.number().positive().max(LONGEST_GUIDE),
    /** Its sound in the browser's storage. */
    sound: z.string().min(1).max(80),
  })
  .readonly();
export type Guide = z.infer<typeof guideSchema>;
