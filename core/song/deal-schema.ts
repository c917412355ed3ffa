import './validation';
import * as z from 'zod';
import { partId } from './music-schema';

/** Dealing: what one part plays is shared out to several, which play it in its place. */

/**
 * Who takes which notes: the next part takes the next stroke; each note goes to the next part, counted from the first,
 * from the last, or there and back; the lowest goes to the first part and the highest to the last; chance says; or all
 * take all.
 */
export const DEAL_WAYS = ['in turn', 'up', 'down', 'to and fro', 'by height', 'by chance', 'to all'] as const;

/** Parts that a line is dealt to, at most. */
const MOST_HANDS = 16;

export const dealSchema = z
  .object({
    way: z.enum(DEAL_WAYS),
    /** In the order in which they are dealt to; the part itself is among them where it keeps its share. */
    to: z
      .array(partId)
      .min(1)
      .max(MOST_HANDS)
      .refine((parts) => new Set(parts).size === parts.length, 'a part twice')
      .readonly(),
    /** Struck out, but not lost. */
    off: z.boolean().optional(),
  })
  .readonly();

export type DealWay = (typeof DEAL_WAYS)[number];
export type Deal = z.infer<typeof dealSchema>;
