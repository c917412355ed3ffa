import './validation';
import * as z from 'zod';
import {
  chordSpanSchema,
  id,
  noteSchema,
  ROLES,
  type ChordSpan,
  type Ground,
  type PartTake,
  type Role,
} from './schema';
import { barTicks } from '../theory/metre';
import { chordsWithin } from './progression';
import { isDrumRole } from './roles';

export const LONGEST_PHRASE_NAME = 80;

/** Where a phrase came from that was brought in: from whom, under which terms, out of which file. */
const provenanceSchema = z
  .object({ source: z.string().max(120), licence: z.string().max(120), file: z.string().max(200) })
  .readonly();

/** A phrase says what is struck when; what one take did with single notes stays with that take. */
const plainNote = noteSchema
  .unwrap()
  .pick({ start: true, duration: true, pitch: true, velocity: true, nudge: true })
  .readonly();

/**
 * A phrase of the writer's own: what a take played, with the chords that it was played to, so that it can move to
 * others.
 */
export const ownPhraseSchema = z
  .object({
    id,
    name: z.string().trim().min(1).max(LONGEST_PHRASE_NAME),
    role: z.enum(ROLES),
    tonic: z.number().int(),
    scale: z.string().max(160),
    /** One bar, in ticks. */
    bar: z.number().int().min(1),
    /** Ticks after which it begins again. */
    length: z.number().int().min(1),
    notes: z.array(plainNote).min(1).max(2_000).readonly(),
    chords: z.array(chordSpanSchema).max(512).readonly(),
    from: provenanceSchema.optional(),
  })
  .readonly();

export type OwnPhrase = z.infer<typeof ownPhraseSchema>;
export type Provenance = z.infer<typeof provenanceSchema>;

/** The longest phrase that is kept, in bars: longer takes give their first bars. */
const LONGEST_BARS = 8;

/**
 * Makes a phrase of a take: its first bars from where it begins to play, without empty bars before and after.
 *
 * @param chords  the chords that it sounds over
 * @returns null where the take is silent
 */
export function phraseFrom(
  take: PartTake,
  role: Role,
  chords: readonly ChordSpan[],
  ground: Ground,
  own: { readonly id: string; readonly name: string },
): OwnPhrase | null {
  const bar = barTicks(ground.metre);
  const played = take.notes.filter(({ start }) => start >= 0);
  const [first, last] = [played[0], played.at(-1)];
  if (!first || !last) return null;
  const from = Math.floor(first.start / bar) * bar;
  const to = Math.min((Math.floor(last.start / bar) + 1) * bar, from + LONGEST_BARS * bar);
  const notes = played
    .filter(({ start }) => start < to)
    .map((note) => ({ ...note, start: note.start - from, duration: Math.min(note.duration, to - note.start) }));
  // Drums know no chords.
  const heard = isDrumRole(role) ? [] : chordsWithin(chords, from, to);
  return { ...own, role, tonic: ground.tonic, scale: ground.scale, bar, length: to - from, notes, chords: heard };
}
