import * as z from 'zod';

/** What Fendro and its simulated studio say to each other, from one tab to the other. */
export const WIRE = 'fendro studio';

const wireSchema = z.discriminatedUnion('says', [
  /** A MIDI message, and when it is meant, in ms since 1970: tabs count their own time from their own beginnings. */
  z.object({
    says: z.literal('message'),
    to: z.enum(['studio', 'fendro']),
    bytes: z.array(z.number().int().min(0).max(255)).max(64),
    at: z.number(),
  }),
  /** Who is there, and who goes. */
  z.object({ says: z.enum(['here', 'who is there', 'gone']), from: z.enum(['studio', 'fendro']) }),
]);
export type Wired = z.infer<typeof wireSchema>;

/** Reads what came over the wire; null for anything else. */
export function readWire(data: unknown): Wired | null {
  const read = wireSchema.safeParse(data);
  return read.success ? read.data : null;
}

/** A moment of this tab's clock, as all tabs understand it. */
export const wiredMoment = (at: number): number => performance.timeOrigin + at;
/** What another tab's moment is here. */
export const ownMoment = (at: number): number => at - performance.timeOrigin;
