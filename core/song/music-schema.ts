import './validation';
import * as z from 'zod';
import { id, midiNote, percent } from './brief-schema';
import { LONGEST_UNREAD } from './limits';
import type { MotifId, OccurrenceId, PartId, SectionId, TakeId } from './ids';
import { isScaleId } from '../theory/scale';
import type { MidiNote, Ticks, Velocity } from '../theory/units';

/** What notes, chords and ground are: what scores and takes are made of. */

/** A schema whose values are of a kind that the compiler tells from others of their kind. */
export const of = <T>(schema: z.ZodType): z.ZodType<T, T> => schema as z.ZodType<T, T>;

export const partId = of<PartId>(id);
export const sectionId = of<SectionId>(id);
export const occurrenceId = of<OccurrenceId>(id);
export const takeId = of<TakeId>(id);
export const motifId = of<MotifId>(id);

export const ticks = z.number().int();
export const length = of<Ticks>(ticks.min(1));
export const pitch = of<MidiNote>(midiNote);
export const fifths = z.number().int().min(-30).max(30);

export const TEMPO_LIMITS = { low: 20, high: 300 } as const;

export const metreSchema = z
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

export const VOICING_FAMILIES = ['keyboard', 'guitar', 'ensemble'] as const;
export const SPREADS = ['free', 'close', 'open', 'drop 2', 'drop 3', 'wide'] as const;
export const BASS_NOTES = ['as it comes', 'added', 'left out'] as const;

export const SECTION_KINDS = ['intro', 'verse', 'pre-chorus', 'chorus', 'bridge', 'solo', 'outro'] as const;

/** Points of a curve at most. */
export const MOST_POINTS = 64;
/** Notes that are set one by one in a chord, at most. */
const MOST_CHORD_NOTES = 128;
/** How far a note may be bent either way, in cents. */
export const WIDEST_BEND = 2400;

/** A curve over a note: straight lines between points, level before the first and after the last. */
export const curve = (low: number, high: number) =>
  z
    .array(z.object({ at: of<Ticks>(ticks.min(0)), value: z.number().int().min(low).max(high) }).readonly())
    .min(1)
    .max(MOST_POINTS)
    .refine((points) => points.every(({ at }, index) => index === 0 || at > (points[index - 1]?.at ?? at)), 'rising')
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
    /** How likely it sounds each time round, in %; always where nothing is said. */
    chance: percent.optional(),
    /** How often it is struck within its length; once where nothing is said. */
    strikes: z.number().int().min(2).max(16).optional(),
    /** How far it is bent, in cents; points in ticks from its start. */
    bend: curve(-WIDEST_BEND, WIDEST_BEND).optional(),
    /** How much it trembles, in %. */
    vibrato: curve(0, 100).optional(),
    /** How much of its loudness it has, in %; all of it where nothing is said. */
    swell: curve(0, 100).optional(),
  })
  .readonly();

export const chordSchema = z
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
        /** Every note that it strikes, where they were set one by one; in ticks from its start. */
        notes: z
          .array(
            z
              .object({
                at: of<Ticks>(ticks.min(0)),
                duration: length,
                pitch,
                velocity: of<Velocity>(z.number().int().min(1).max(127)),
              })
              .readonly(),
          )
          .max(MOST_CHORD_NOTES)
          .readonly()
          .optional(),
      })
      .readonly()
      .optional(),
    rhythm: z.string().max(160).optional(),
    /** Loudness of this chord, and of its notes from the lowest up. */
    velocity: z.number().int().min(1).max(127).optional(),
    velocities: z.array(z.number().int().min(1).max(127)).max(10).readonly().optional(),
  })
  .readonly();

export type Ground = z.infer<typeof groundSchema>;
export type VoicingFamily = (typeof VOICING_FAMILIES)[number];
export type Spread = (typeof SPREADS)[number];
export type BassNote = (typeof BASS_NOTES)[number];
export type SectionKind = (typeof SECTION_KINDS)[number];
export type Note = z.infer<typeof noteSchema>;
/** A curve of expression over a note; each kind in the unit that its field of a note names. */
export type Curve = NonNullable<Note['bend']>;
export type CurveKind = 'bend' | 'vibrato' | 'swell';
export type ChordSpan = z.infer<typeof chordSpanSchema>;
