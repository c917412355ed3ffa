import './validation';
import * as z from 'zod';
import { briefSchema, harmonyBriefSchema, id, midiNote, percent, ROLES } from './brief-schema';
import { LIMITS, LONGEST_UNREAD, ROOM_FOR_OLDER } from './limits';
import { styleSchema } from './style';
import { isScaleId } from '../theory/scale';
import type { MidiNote, Percent, Ticks, Velocity } from '../theory/units';
import type { OccurrenceId, PartId, SectionId, TakeId } from './ids';

export * from './brief-schema';
export { HARMONY, type LineId, type OccurrenceId, type PartId, type SectionId, type TakeId } from './ids';

/** The version that this build writes; older ones are migrated, newer ones refused in words. */
export const SONG_VERSION = 4;

/** A schema whose values are of a kind that the compiler tells from others of their kind. */
const of = <T>(schema: z.ZodType): z.ZodType<T, T> => schema as z.ZodType<T, T>;

const partId = of<PartId>(id);
const sectionId = of<SectionId>(id);
const occurrenceId = of<OccurrenceId>(id);
const takeId = of<TakeId>(id);

const ticks = z.number().int();
const length = of<Ticks>(ticks.min(1));
const pitch = of<MidiNote>(midiNote);
const fifths = z.number().int().min(-30).max(30);

export const TEMPO_LIMITS = { low: 20, high: 300 } as const;

const metreSchema = z
  .object({
    beats: z.number().int().min(1).max(16),
    unit: z.union([z.literal(2), z.literal(4), z.literal(8), z.literal(16)]),
    groups: z.array(z.number().int().min(1).max(16)).min(1).max(16).readonly(),
  })
  .refine(
    (metre) => metre.groups.reduce((total, group) => total + group, 0) === metre.beats,
    'the groups must add up to the beats',
  )
  .readonly();

export const groundSchema = z
  .object({
    tonic: z.number().int().min(-9).max(11),
    scale: z.string().max(160).refine(isScaleId, 'no such scale'),
    tempo: z.number().min(TEMPO_LIMITS.low).max(TEMPO_LIMITS.high),
    metre: metreSchema,
    swing: percent,
    style: id,
    /** How much of the style's feel sounds, in %; none means all of it. */
    feel: z.number().min(0).max(150).optional(),
    /** How likely drafters take each degree of the scale, in %, in its order; none means all alike. */
    weights: z.array(percent).max(12).readonly().optional(),
  })
  .readonly();

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

export const VOICING_FAMILIES = ['keyboard', 'guitar', 'ensemble'] as const;
export const SPREADS = ['free', 'close', 'open', 'drop 2', 'drop 3', 'wide'] as const;
export const BASS_NOTES = ['as it comes', 'added', 'left out'] as const;

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
    /** The style that this part is drafted in, where it is not the song's. */
    style: id.nullable(),
    brief: briefSchema,
    /** Drums of the kit that sound in place of others, by MIDI note number. */
    swaps: z.record(z.string().regex(/^\d{1,3}$/), midiNote).readonly(),
  })
  .readonly();

export const SECTION_KINDS = ['intro', 'verse', 'pre-chorus', 'chorus', 'bridge', 'solo', 'outro'] as const;

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

export const sectionSchema = z
  .object({
    id: sectionId,
    kind: z.enum(SECTION_KINDS),
    name: z.string().min(1).max(LIMITS.name),
    bars: z.number().int().min(1).max(LIMITS.bars),
    harmony: takeId.nullable(),
    harmonyBrief: harmonyBriefSchema,
    ground: ownGroundSchema,
    chordSetting: chordSettingSchema,
    /** Parts that take over some bars, and whom each replaces there. */
    solos: z
      .array(soloSchema)
      .max(LIMITS.parts * ROOM_FOR_OLDER)
      .readonly(),
    /** Bars whose chords a redraft keeps, counted from 0. */
    heldBars: z
      .array(
        z
          .number()
          .int()
          .min(0)
          .max(LIMITS.bars - 1),
      )
      .max(LIMITS.bars)
      .readonly(),
    chosen: z.record(partId, takeId.nullable()).readonly(),
  })
  .readonly();

export const occurrenceSchema = z.object({ id: occurrenceId, section: sectionId }).readonly();

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
    energy: z.array(energyPointSchema).max(LIMITS.energyPoints).readonly(),
    remarks: z.record(takeId, remarkSchema).readonly(),
    /** Styles of the writer's own that the song uses. */
    styles: z
      .array(styleSchema)
      .max(LIMITS.styles * ROOM_FOR_OLDER)
      .readonly(),
  })
  .readonly();

export const noteSchema = z
  .object({
    /** From the section's start; negative in a pick-up. */
    start: of<Ticks>(ticks),
    duration: length,
    pitch,
    velocity: of<Velocity>(z.number().int().min(1).max(127)),
    /** How far it sounds from where it is written: strums, rolls, a recorded hand. */
    nudge: of<Ticks>(ticks.min(-480).max(480)).optional(),
  })
  .readonly();

const chordSchema = z
  .object({
    root: fifths,
    tones: z
      .array(z.string().regex(/^(?:b*|#*)\d{1,2}$/))
      .max(12)
      .readonly(),
    bass: fifths.nullable(),
  })
  .readonly();

export const chordSpanSchema = z
  .object({
    start: of<Ticks>(ticks.min(0)),
    duration: length,
    /** Null where nothing sounds. */
    chord: chordSchema.nullable(),
    /** What was typed when it could not be read: it stays visible and marked. */
    unread: z.string().max(LONGEST_UNREAD).optional(),
    /** What the writer has set by hand for this chord; the rest follows the section's setting. */
    voicing: z
      .object({
        /** Which chord note lies lowest above the bass, counted from the root. */
        inversion: z.number().int().min(0).max(6).optional(),
        spread: z.enum(SPREADS).optional(),
        bass: z.enum(BASS_NOTES).optional(),
        /** Every voice, where they were nudged by hand. */
        pitches: z.array(midiNote).min(1).max(10).readonly().optional(),
      })
      .readonly()
      .optional(),
    rhythm: z.string().max(160).optional(),
    /** Loudness of this chord, and of its notes from the lowest up. */
    velocity: z.number().int().min(1).max(127).optional(),
    velocities: z.array(z.number().int().min(1).max(127)).max(10).readonly().optional(),
  })
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
    /** Mean energy over the section's places, in %; none where no line is drawn. */
    energy: percent.optional(),
    /** Bars that were drafted alone, counted from 0, `to` not included; none is the whole section. */
    only: z
      .object({
        from: z
          .number()
          .int()
          .min(0)
          .max(LIMITS.bars - 1),
        to: z.number().int().min(1).max(LIMITS.bars),
      })
      .readonly()
      .optional(),
    /** Takes of other parts that were listened to. */
    beside: z.array(takeId).readonly(),
  })
  .readonly();

const originSchema = z
  .object({
    how: z.enum(['drafted', 'typed', 'edited', 'fitted', 'picked', 'imported', 'voiced']),
    /** Where a picked or imported take came from, in words. */
    from: z.string().max(200).optional(),
    asking: askingSchema.nullable(),
    seed: z.number().int(),
    attempt: z.number().int().min(0),
    parents: z.array(takeId).readonly(),
  })
  .readonly();

/** What the notes of a take were made for: they follow when it changes. */
const overSchema = z
  .object({ harmony: takeId, tonic: fifths, scale: z.string().max(160), role: z.enum(ROLES), low: pitch, high: pitch })
  .readonly();

/** A note of a take. Its id is unique in the take and stays with it through every edit, in takes made of this one too. */
const takeNoteSchema = noteSchema
  .unwrap()
  .extend({ id: z.number().int().min(0) })
  .readonly();

const take = { id: takeId, section: sectionId, length, origin: originSchema };
export const partTakeSchema = z
  .object({
    ...take,
    of: z.literal('part'),
    part: partId,
    notes: z.array(takeNoteSchema).max(LIMITS.notes).readonly(),
    /** Null where the notes stay as they are, whatever the chords do: played, brought in, or made without chords. */
    over: overSchema.nullable(),
  })
  .readonly();
export const harmonyTakeSchema = z
  .object({ ...take, of: z.literal('harmony'), chords: z.array(chordSpanSchema).max(LIMITS.chords).readonly() })
  .readonly();
export const takeSchema = z.discriminatedUnion('of', [partTakeSchema.unwrap(), harmonyTakeSchema.unwrap()]).readonly();

/** One line of the logbook. */
const heardSchema = z.object({ take: takeId, at: z.number() }).readonly();

export const ledgerSchema = z
  .object({ takes: z.record(takeId, takeSchema).readonly(), heard: z.array(heardSchema).readonly() })
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

export type Ground = z.infer<typeof groundSchema>;
export type OwnGround = z.infer<typeof ownGroundSchema>;
export type ChordSetting = z.infer<typeof chordSettingSchema>;
export type VoicingFamily = (typeof VOICING_FAMILIES)[number];
export type Spread = (typeof SPREADS)[number];
export type BassNote = (typeof BASS_NOTES)[number];
export type SectionKind = (typeof SECTION_KINDS)[number];
export type Part = z.infer<typeof partSchema>;
export type Section = z.infer<typeof sectionSchema>;
export type Solo = z.infer<typeof soloSchema>;
export type Occurrence = z.infer<typeof occurrenceSchema>;
export type EnergyPoint = z.infer<typeof energyPointSchema>;
export type Score = z.infer<typeof scoreSchema>;
export type Note = z.infer<typeof noteSchema>;
export type TakeNote = z.infer<typeof takeNoteSchema>;
export type ChordSpan = z.infer<typeof chordSpanSchema>;
export type Asking = z.infer<typeof askingSchema>;
export type Origin = z.infer<typeof originSchema>;
export type Over = z.infer<typeof overSchema>;
export type PartTake = z.infer<typeof partTakeSchema>;
export type HarmonyTake = z.infer<typeof harmonyTakeSchema>;
export type Take = PartTake | HarmonyTake;
export type Remark = z.infer<typeof remarkSchema>;
export type Heard = z.infer<typeof heardSchema>;
export type Ledger = z.infer<typeof ledgerSchema>;
export type Hearing = z.infer<typeof hearingSchema>;
export type Song = z.infer<typeof songSchema>;
export type Verdict = 'kept' | 'discarded';
