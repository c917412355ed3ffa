import './validation';
import * as z from 'zod';
import { LIMITS } from './limits';

/** Leanings: words that move several settings of a brief or of a pattern at once. */

/**
 * What a leaning can move, where the thing that leans has it: settings of briefs, and what patterns have that is like
 * them; the last ones are those of patterns or of chords alone.
 */
export const LEAN_SETTINGS = [
  'register',
  'busyness',
  'syncopation',
  'stride',
  'anchoring',
  'breath',
  'adventure',
  'loudness',
  'recall',
  'length',
  'voices',
  'rolls',
  'dynamics',
  'humanise',
  'pickup',
  'pace',
  'slide',
  'swing',
  'colouring',
] as const;

/** How far one setting is moved, in notches of its own. */
export const FURTHEST_MOVE = 6;
/** Leanings that are at work in one brief or pattern, at most. */
export const MOST_LEANS = 4;
/** Bars over which something leans by itself, and of the windows in which chance decides, at most. */
export const LONGEST_LEAN = 64;

const moveSchema = z
  .object({
    setting: z.enum(LEAN_SETTINGS),
    by: z
      .number()
      .int()
      .min(-FURTHEST_MOVE)
      .max(FURTHEST_MOVE)
      .refine((by) => by !== 0, 'no move'),
  })
  .readonly();

/** What a leaning moves, each setting once. */
export const leanMovesSchema = z
  .array(moveSchema)
  .min(1)
  .max(LEAN_SETTINGS.length)
  .refine((moves) => new Set(moves.map(({ setting }) => setting)).size === moves.length, 'a setting twice')
  .readonly();

const bars = z.number().int().min(1).max(LONGEST_LEAN);

/** A leaning that is at work by itself. */
const leanSchema = z
  .discriminatedUnion('goes', [
    /** Further bar by bar, all the way after so many of them; then it stays there, or comes back as slowly. */
    z.object({
      goes: z.literal('slowly'),
      name: z.string().min(1).max(LIMITS.name),
      moves: leanMovesSchema,
      off: z.boolean().optional(),
      bars,
      then: z.enum(['stays', 'comes back']),
    }),
    /** All the way or not at all, as chance decides anew every so many bars; how likely, in %. */
    z.object({
      goes: z.literal('by chance'),
      name: z.string().min(1).max(LIMITS.name),
      moves: leanMovesSchema,
      off: z.boolean().optional(),
      bars,
      chance: z.number().int().min(0).max(100),
    }),
  ])
  .readonly();

export const leansSchema = z.array(leanSchema).max(MOST_LEANS).readonly();

export type LeanSetting = (typeof LEAN_SETTINGS)[number];
export type LeanMoves = z.infer<typeof leanMovesSchema>;
export type Lean = z.infer<typeof leanSchema>;
