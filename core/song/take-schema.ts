import './validation';
import * as z from 'zod';
import { briefSchema, harmonyBriefSchema, percent, ROLES } from './brief-schema';
import { LIMITS } from './limits';
import { patternSchema } from './pattern-schema';
import { MOTIF_USES, motifSchema } from './plan-schema';
import {
  chordSpanSchema,
  fifths,
  groundSchema,
  length,
  noteSchema,
  partId,
  pitch,
  SECTION_KINDS,
  sectionId,
  takeId,
} from './music-schema';

/** What takes are, and the ledger that keeps them. */

/** The stages of a draft, in their order; an attempt of its own draws each. */
export const STAGES = ['plan', 'rhythm', 'pitch', 'dynamics'] as const;
/** What of a take can be held: all but the plan that it was made by. */
export const ASPECTS = ['rhythm', 'pitch', 'dynamics'] as const;

const bar = z
  .number()
  .int()
  .min(0)
  .max(LIMITS.bars - 1);
/** Bars, counted from 0, `to` not included. */
const barSpanSchema = z.object({ from: bar, to: z.number().int().min(1).max(LIMITS.bars) }).readonly();
const count = z.number().int().min(0);
const noteId = z.number().int().min(0);

/** What stays of a take while the rest is drafted again. */
export const holdSchema = z
  .object({
    take: takeId,
    aspects: z.array(z.enum(ASPECTS)).min(1).max(ASPECTS.length).readonly(),
    /** Bars of which it stays, counted from 0: no other notes come into them. */
    bars: z.array(bar).max(LIMITS.bars).readonly(),
    /** Single notes of which it stays, by their ids in the take. A note that is held in anything stays where it is. */
    notes: z.array(noteId).max(LIMITS.notes).readonly(),
  })
  .readonly();

const two = z.tuple([takeId, takeId]).readonly();

/** The takes that a draft is to be near: one that it varies, or two that it blends. */
const kinSchema = z
  .discriminatedUnion('by', [
    /** About this share of the take is drawn anew, in %. */
    z.object({ by: z.literal('variation'), takes: z.tuple([takeId]).readonly(), share: percent }),
    /** The rhythm and dynamics of the first, the pitches of the second as nearly as the chords allow. */
    z.object({ by: z.literal('rhythm and pitches'), takes: two }),
    /** Some bars of the one, the rest of the other. */
    z.object({ by: z.literal('bars in turn'), takes: two }),
    /** As like the one as the other. */
    z.object({ by: z.literal('halfway'), takes: two }),
  ])
  .readonly();

/** Everything a take was made from, so that it can be made again. */
export const askingSchema = z
  .object({
    engine: z.number().int(),
    ground: groundSchema,
    bars: z.number().int(),
    kind: z.enum(SECTION_KINDS),
    brief: briefSchema.optional(),
    harmonyBrief: harmonyBriefSchema.optional(),
    role: z.enum(ROLES).optional(),
    /** The progression drafted to. */
    harmony: takeId.optional(),
    /** Chords that were held while the others were drafted. */
    heldChords: z.array(chordSpanSchema).max(512).readonly().optional(),
    /** Whether the brief leans as sections of this kind do. */
    bound: z.boolean().optional(),
    /** A motif of the song, and what is done with it. */
    motif: motifSchema
      .unwrap()
      .extend({
        use: z.enum(MOTIF_USES),
        /** What it is called, where the writer asked for it by hand and no plan did. */
        name: z.string().max(LIMITS.name).optional(),
        /** The bars that it is said in, where they were chosen. */
        over: barSpanSchema.optional(),
      })
      .readonly()
      .optional(),
    /** Mean energy over the section's places, in %; none where no line is drawn. */
    energy: percent.optional(),
    /** Bars that were drafted alone, counted from 0, `to` not included; none is the whole section. */
    only: barSpanSchema.optional(),
    /** What stayed of other takes of the line; of two holds of one bar the first counts. */
    holds: z
      .array(holdSchema)
      .max(2 * LIMITS.holds)
      .readonly()
      .optional(),
    kin: kinSchema.optional(),
    /** Takes of other parts that were listened to. */
    beside: z.array(takeId).readonly(),
  })
  .readonly();

export const attemptsSchema = z.object({ plan: count, rhythm: count, pitch: count, dynamics: count }).readonly();

const originSchema = z
  .object({
    how: z.enum(['drafted', 'typed', 'edited', 'fitted', 'picked', 'imported', 'voiced', 'drawn', 'caught', 'played']),
    /** Where a picked or imported take came from, in words. */
    from: z.string().max(200).optional(),
    asking: askingSchema.nullable(),
    seed: z.number().int(),
    /** By which attempt each stage was drawn; null where nothing was. */
    attempts: attemptsSchema.nullable(),
    parents: z.array(takeId).readonly(),
  })
  .readonly();

/** What the notes of a take were made for: they follow when it changes. */
const overSchema = z
  .object({ harmony: takeId, tonic: fifths, scale: z.string().max(160), role: z.enum(ROLES), low: pitch, high: pitch })
  .readonly();

/** A note of a take. Its id is unique in the take and stays with it through every edit, in takes made of this one too. */
const anyTakeNoteSchema = noteSchema.unwrap().extend({ id: noteId });

const isInteger = (value: unknown, low: number, high: number): boolean =>
  Number.isSafeInteger(value) && (value as number) >= low && (value as number) <= high;

/** Whether something is a note with only the fields that every note has. */
function isPlainNote(value: unknown): boolean {
  if (typeof value !== 'object' || value === null || Object.keys(value).length !== 5) return false;
  const note = value as Readonly<Record<string, unknown>>;
  return (
    isInteger(note['id'], 0, Infinity) &&
    isInteger(note['start'], -Infinity, Infinity) &&
    isInteger(note['duration'], 1, Infinity) &&
    isInteger(note['pitch'], 0, 127) &&
    isInteger(note['velocity'], 1, 127)
  );
}

/** Nearly all notes are plain, and a song has thousands: without this shortcut it takes half as long again to open. */
const takeNoteSchema = z
  .union([z.custom<z.infer<typeof anyTakeNoteSchema>>(isPlainNote), anyTakeNoteSchema])
  .readonly();

/** A note as a drafter gives it: one of which something is held keeps its id. */
export const draftedNoteSchema = noteSchema.unwrap().extend({ id: noteId.optional() }).readonly();

const take = { id: takeId, section: sectionId, length, origin: originSchema };
export const partTakeSchema = z
  .object({
    ...take,
    of: z.literal('part'),
    part: partId,
    notes: z.array(takeNoteSchema).max(LIMITS.notes).readonly(),
    /** Null where the notes stay as they are, whatever the chords do: played, brought in, or made without chords. */
    over: overSchema.nullable(),
    /**
     * By what it goes on by itself: what sounds is made anew for every pass, over the chords of that moment. Its notes
     * are its first pass, as it came out when the take was made.
     */
    pattern: patternSchema.optional(),
    /** True where its notes are what sounded behind the part’s treatments: those pass it by. */
    treated: z.literal(true).optional(),
    /** True where its notes are the part’s own share of what was dealt out: they are dealt no further. */
    dealt: z.literal(true).optional(),
  })
  .readonly();
export const harmonyTakeSchema = z
  .object({ ...take, of: z.literal('harmony'), chords: z.array(chordSpanSchema).max(LIMITS.chords).readonly() })
  .readonly();
export const takeSchema = z.discriminatedUnion('of', [partTakeSchema.unwrap(), harmonyTakeSchema.unwrap()]).readonly();

/** One line of the logbook. */
const heardSchema = z
  .object({
    take: takeId,
    section: sectionId,
    /** When, in ms of the clock. */
    at: z.number(),
    /** Of what goes on by itself: how often the section had sounded before, since play was pressed. */
    pass: count.optional(),
    /** What sounded beside it otherwise than the logbook says up to here, by line; null where a line was silent. */
    beside: z.record(partId, takeId.nullable()).readonly().optional(),
  })
  .readonly();

export const ledgerSchema = z
  .object({ takes: z.record(takeId, takeSchema).readonly(), heard: z.array(heardSchema).readonly() })
  .readonly();

export type TakeNote = z.infer<typeof takeNoteSchema>;
export type Stage = (typeof STAGES)[number];
export type Aspect = (typeof ASPECTS)[number];
export type Attempts = z.infer<typeof attemptsSchema>;
export type Hold = z.infer<typeof holdSchema>;
export type Kin = z.infer<typeof kinSchema>;
export type Asking = z.infer<typeof askingSchema>;
export type Origin = z.infer<typeof originSchema>;
export type Over = z.infer<typeof overSchema>;
export type PartTake = z.infer<typeof partTakeSchema>;
export type HarmonyTake = z.infer<typeof harmonyTakeSchema>;
export type Take = PartTake | HarmonyTake;
export type Heard = z.infer<typeof heardSchema>;
export type Ledger = z.infer<typeof ledgerSchema>;
