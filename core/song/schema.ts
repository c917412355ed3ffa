import './validation';
import * as z from 'zod';
import { briefSchema, harmonyBriefSchema, id, midiNote, percent, ROLES } from './brief-schema';
import { LIMITS, ROOM_FOR_OLDER } from './limits';
import { layerSchema, MOST_LAYERS, movesSchema, octave, toneSchema } from './mix-schema';
import {
  BASS_NOTES,
  groundSchema,
  metreSchema,
  occurrenceId,
  of,
  partId,
  SECTION_KINDS,
  sectionId,
  SPREADS,
  takeId,
  ticks,
  VOICING_FAMILIES,
} from './music-schema';
import { sectionPlanSchema, songMotifSchema } from './plan-schema';
import { styleSchema } from './style';
import { holdSchema, ledgerSchema } from './take-schema';
import { dealSchema } from './deal-schema';
import { guideSchema } from './guide-schema';
import { chainSchema } from './treat-schema';
import type { Percent, Ticks } from '../theory/units';

export * from './brief-schema';
export * from './deal-schema';
export * from './guide-schema';
export * from './lean-schema';
export * from './mix-schema';
export * from './music-schema';
export * from './pattern-schema';
export * from './plan-schema';
export * from './take-schema';
export * from './treat-schema';
export { HARMONY, type LineId, type MotifId, type OccurrenceId, type PartId, type SectionId, type TakeId } from './ids';

/** The version that this build writes; older ones are migrated, newer ones refused in words. */
export const SONG_VERSION = 14;

/** How far a place of the running order may be lifted, in semitones. */
export const LARGEST_LIFT = 12;

/** Where a section stands on ground of its own. */
const ownGroundSchema = z
  .object({
    tonic: groundSchema.unwrap().shape.tonic,
    scale: groundSchema.unwrap().shape.scale,
    tempo: groundSchema.unwrap().shape.tempo,
    metre: metreSchema,
    style: id,
  })
  .partial()
  .readonly();

/** How a section's chords are laid out and struck when the chord line sounds. */
const chordSettingSchema = z
  .object({
    family: z.enum(VOICING_FAMILIES),
    spread: z.enum(SPREADS),
    bass: z.enum(BASS_NOTES),
    /** Voices lead smoothly; otherwise every chord stands in root position. */
    smooth: z.boolean(),
    /** A rhythm's id, or the rhythm itself written out; null holds every chord. */
    rhythm: z.string().max(160).nullable(),
    loudness: z.number().int().min(1).max(127),
    /** Time between the first and the last note of a stroke, in ticks; rolled downwards where negative. */
    roll: ticks.min(-240).max(240),
  })
  .readonly();

export const partSchema = z
  .object({
    id: partId,
    name: z.string().min(1).max(LIMITS.name),
    role: z.enum(ROLES),
    instrument: id,
    /** Place in the ten part colours, 0–9. */
    colour: z.number().int().min(0).max(9),
    level: percent,
    /** −100 left to 100 right. */
    pan: z.number().min(-100).max(100),
    muted: z.boolean(),
    tone: toneSchema.optional(),
    /** Octaves by which it sounds away from what is written. */
    octave: octave.optional(),
    /** Further instruments that play the same. */
    layers: z.array(layerSchema).min(1).max(MOST_LAYERS).readonly().optional(),
    /** The style that this part is drafted in, where it is not the song's. */
    style: id.nullable(),
    brief: briefSchema,
    /** Drums of the kit that sound in place of others, by MIDI note number. */
    swaps: z.record(z.string().regex(/^\d{1,3}$/), midiNote).readonly(),
    /** What all its takes go through on their way to the ear. */
    treatments: chainSchema.optional(),
    /** The parts that play it in its place, behind its treatments. */
    deals: dealSchema.optional(),
  })
  .readonly();

/** A part that plays over some bars, counted from 0, `to` not included; another part rests there. */
const soloSchema = z
  .object({
    part: partId,
    over: partId.nullable(),
    from: z
      .number()
      .int()
      .min(0)
      .max(LIMITS.bars - 1),
    to: z.number().int().min(1).max(LIMITS.bars),
  })
  .readonly();

/** What a part plays in a section: one of its takes. Other kinds of source come to stand beside it. */
const sourceSchema = z.discriminatedUnion('of', [z.object({ of: z.literal('take'), take: takeId })]).readonly();

/** Sections of one group are versions of each other: in one place of the running order sounds one of them. */
const versionSchema = z
  .object({
    /** The group: the id of the section that its first version was. */
    of: sectionId,
    /** Null where it is called by what sets it apart. */
    name: z.string().min(1).max(LIMITS.name).nullable(),
  })
  .readonly();

export const sectionSchema = z
  .object({
    id: sectionId,
    /** Which group of versions it belongs to; null where it is the only one of itself. */
    version: versionSchema.nullable(),
    kind: z.enum(SECTION_KINDS),
    name: z.string().min(1).max(LIMITS.name),
    bars: z.number().int().min(1).max(LIMITS.bars),
    harmony: takeId.nullable(),
    harmonyBrief: harmonyBriefSchema,
    ground: ownGroundSchema,
    /** Where its tempo changes on the way, in % of its own: points in ticks from its start, even changes between. */
    tempos: z
      .array(z.object({ at: of<Ticks>(ticks.min(0)), value: z.number().min(10).max(400) }).readonly())
      .max(LIMITS.tempoPoints)
      .refine((points) => points.every(({ at }, index) => index === 0 || at > (points[index - 1]?.at ?? at)), 'rising')
      .readonly()
      .optional(),
    chordSetting: chordSettingSchema,
    plan: sectionPlanSchema,
    /** Parts that take over some bars, and whom each replaces there. */
    solos: z
      .array(soloSchema)
      .max(LIMITS.parts * ROOM_FOR_OLDER)
      .readonly(),
    /** What stays of each line, the chords among them, whatever is drafted. */
    holds: z.record(partId, z.array(holdSchema).max(LIMITS.holds).readonly()).readonly(),
    /** What each part plays; null where it was emptied. */
    chosen: z.record(partId, sourceSchema.nullable()).readonly(),
  })
  .readonly();

/** A place of the running order: the section that it plays, and what is otherwise here than in its other places. */
export const occurrenceSchema = z
  .object({
    id: occurrenceId,
    section: sectionId,
    /** Semitones by which it sounds higher. */
    lift: z.number().int().min(-LARGEST_LIFT).max(LARGEST_LIFT).optional(),
    /** Bars in which parts rest here, counted from 0. */
    rests: z
      .record(
        partId,
        z
          .array(
            z
              .number()
              .int()
              .min(0)
              .max(LIMITS.bars - 1),
          )
          .min(1)
          .max(LIMITS.bars)
          .readonly(),
      )
      .readonly()
      .optional(),
    /** How parts move in the mix here; points in ticks from the place's start. */
    moves: z.record(partId, movesSchema).readonly().optional(),
  })
  .readonly();

/** A point of the energy line; it travels with its place when the order changes. */
export const energyPointSchema = z
  .object({ occurrence: occurrenceId, at: of<Ticks>(ticks.min(0)), value: of<Percent>(percent) })
  .readonly();

export const remarkSchema = z
  .object({ verdict: z.enum(['kept', 'discarded']).nullable(), name: z.string().max(LIMITS.name).optional() })
  .readonly();

export const scoreSchema = z
  .object({
    title: z.string().min(1).max(LIMITS.title),
    ground: groundSchema,
    /** The level of the whole mix, in %; all of it where nothing is said. */
    master: percent.optional(),
    parts: z
      .array(partSchema)
      .max(LIMITS.parts * ROOM_FOR_OLDER)
      .readonly(),
    sections: z
      .array(sectionSchema)
      .max(LIMITS.sections * ROOM_FOR_OLDER)
      .readonly(),
    order: z
      .array(occurrenceSchema)
      .max(LIMITS.places * ROOM_FOR_OLDER)
      .readonly(),
    motifs: z.array(songMotifSchema).max(LIMITS.motifs).readonly(),
    energy: z.array(energyPointSchema).max(LIMITS.energyPoints).readonly(),
    remarks: z.record(takeId, remarkSchema).readonly(),
    /** Styles of the writer's own that the song uses. */
    styles: z
      .array(styleSchema)
      .max(LIMITS.styles * ROOM_FOR_OLDER)
      .readonly(),
    /** Recordings under the song, the newest first. */
    guides: z.array(guideSchema).max(LIMITS.guides).readonly().optional(),
  })
  .readonly();

/**
 * Takes that sound in place of the chosen ones: by section, then by line. No step of undo, but there again after a
 * reload.
 */
const hearingSchema = z.record(sectionId, z.record(partId, takeId).readonly()).readonly();

export const songSchema = z
  .object({
    format: z.literal('fendro-song'),
    version: z.literal(SONG_VERSION),
    id,
    seed: z.number().int(),
    score: scoreSchema,
    ledger: ledgerSchema,
    hearing: hearingSchema,
  })
  .readonly();

export type TempoPoint = NonNullable<z.infer<typeof sectionSchema>['tempos']>[number];
export type OwnGround = z.infer<typeof ownGroundSchema>;
export type ChordSetting = z.infer<typeof chordSettingSchema>;
export type Part = z.infer<typeof partSchema>;
export type Source = z.infer<typeof sourceSchema>;
export type Section = z.infer<typeof sectionSchema>;
export type Solo = z.infer<typeof soloSchema>;
export type Occurrence = z.infer<typeof occurrenceSchema>;
export type EnergyPoint = z.infer<typeof energyPointSchema>;
export type Score = z.infer<typeof scoreSchema>;
export type Remark = z.infer<typeof remarkSchema>;
export type Hearing = z.infer<typeof hearingSchema>;
export type Song = z.infer<typeof songSchema>;
export type Verdict = 'kept' | 'discarded';
