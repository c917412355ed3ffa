import './validation';
import * as z from 'zod';
import { midiNote, percent } from './brief-schema';
import { RATES } from './pattern-schema';
import { of } from './music-schema';
import type { Ticks } from '../theory/units';

/** Treatments: what notes go through on their way from a take to what sounds. */

/** Treatments of one branch, and branches of one chain, at most. */
export const MOST_TREATMENTS = 16;
export const MOST_BRANCHES = 4;

/** How often an arpeggio goes on through its notes, at most. */
export const MOST_FURTHER = 7;

export const ARPEGGIO_ORDERS = ['up', 'down', 'to and fro', 'by chance'] as const;
export const STRUM_WAYS = ['up', 'down', 'to and fro'] as const;
export const VOICES = ['lowest', 'highest', 'middle'] as const;
export const STEPS_OF = ['chord', 'scale', 'semitones'] as const;
export const LOUDNESS_WAYS = ['set', 'scale', 'draw'] as const;
export const INVERT_AROUND = ['first', 'middle'] as const;

const share = percent.int();
const rate = of<Ticks>(z.number().refine((ticks) => RATES.includes(ticks), 'no such length'));
const steps = z.number().int().min(-24).max(24);
const velocity = z.number().int().min(1).max(127);

/** The notes that a treatment is for: of some pitches or of some loudness; the others pass it by. */
const onlySchema = z
  .discriminatedUnion('by', [
    z.object({ by: z.literal('pitch'), low: midiNote, high: midiNote }),
    z.object({ by: z.literal('loudness'), low: velocity, high: velocity }),
  ])
  .refine(({ low, high }) => low <= high, 'the wrong way round')
  .readonly();

const common = {
  /** Struck out, but not lost. */
  off: z.boolean().optional(),
  only: onlySchema.optional(),
};

const treatmentSchema = z
  .discriminatedUnion('does', [
    z.object({ ...common, does: z.literal('transpose'), by: steps }),
    z.object({ ...common, does: z.literal('octave'), by: z.number().int().min(-4).max(4) }),
    /** Adds a note for each of the steps, counted from the note itself. */
    z.object({
      ...common,
      does: z.literal('stack'),
      of: z.enum(STEPS_OF),
      steps: z
        .array(steps.refine((by) => by !== 0, 'the note itself'))
        .min(1)
        .max(4)
        .readonly(),
    }),
    /** Plays what is struck together one after the other, as long as it lasts. */
    z.object({
      ...common,
      does: z.literal('arpeggiate'),
      order: z.enum(ARPEGGIO_ORDERS),
      rate,
      /** How often each note comes before the next. */
      repeats: z.number().int().min(1).max(8),
      /** How often it goes on through the same notes, each time so many semitones higher. */
      further: z.number().int().min(0).max(MOST_FURTHER),
      distance: z.number().int().min(1).max(12),
    }),
    /** Moves notes by so many steps at most, in so many % of all times. */
    z.object({
      ...common,
      does: z.literal('stray'),
      chance: share,
      of: z.enum(STEPS_OF),
      up: z.number().int().min(0).max(24),
      down: z.number().int().min(0).max(24),
    }),
    z.object({ ...common, does: z.literal('snap'), to: z.enum(['chord', 'scale']) }),
    z.object({ ...common, does: z.literal('length'), percent: z.number().int().min(5).max(400) }),
    z.object({ ...common, does: z.literal('delay'), by: rate }),
    /** Says each note again, so much softer each time. */
    z.object({ ...common, does: z.literal('echo'), times: z.number().int().min(1).max(8), gap: rate, fade: share }),
    z.object({
      ...common,
      does: z.literal('strum'),
      way: z.enum(STRUM_WAYS),
      /** From the first to the last note of a stroke, in ticks. */
      spread: of<Ticks>(z.number().int().min(1).max(480)),
    }),
    z.object({ ...common, does: z.literal('thin'), chance: share }),
    z.object({
      ...common,
      does: z.literal('loudness'),
      way: z.enum(LOUDNESS_WAYS),
      /** What is set, or the least that is drawn. */
      low: velocity,
      high: velocity,
      percent: z.number().int().min(5).max(300),
    }),
    z.object({ ...common, does: z.literal('humanise'), amount: share }),
    z.object({ ...common, does: z.literal('legato') }),
    /** So many times as long: 2 is half time, ½ double time. */
    z.object({
      ...common,
      does: z.literal('time'),
      times: z.number().int().min(1).max(4),
      over: z.number().int().min(1).max(4),
    }),
    z.object({ ...common, does: z.literal('reverse') }),
    z.object({ ...common, does: z.literal('invert'), around: z.enum(INVERT_AROUND), of: z.enum(STEPS_OF) }),
    z.object({ ...common, does: z.literal('voice'), which: z.enum(VOICES) }),
  ])
  .readonly();

/** Branches that sound together; each is gone through from its first treatment to its last. */
export const chainSchema = z
  .array(z.array(treatmentSchema).max(MOST_TREATMENTS).readonly())
  .min(1)
  .max(MOST_BRANCHES)
  .readonly();

/** Of what steps are counted: chord notes, notes of the scale, or semitones. */
export type StepsOf = (typeof STEPS_OF)[number];
export type Treatment = z.infer<typeof treatmentSchema>;
export type TreatmentName = Treatment['does'];
export type Only = NonNullable<Treatment['only']>;
export type Chain = z.infer<typeof chainSchema>;
