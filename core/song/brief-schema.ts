import './validation';
import * as z from 'zod';
import { leansSchema } from './lean-schema';

/** What parts and chords are asked for; styles bring briefs of their own, so they stand apart from the song. */

/** Names that every object has by birth are no ids: look-ups would find them where nothing was stored. */
export const id = z
  .string()
  .min(1)
  .max(64)
  .refine((text) => !(text in Object.prototype), 'this cannot be an id');
export const percent = z.number().min(0).max(100);
export const midiNote = z.number().int().min(0).max(127);

export const ROLES = [
  'melody',
  'counter',
  'solo',
  'ostinato',
  'comping',
  'strum',
  'picking',
  'arpeggio',
  'pad',
  'ensemble',
  'bass',
  'drums',
  'percussion',
] as const;

export const GRIDS = ['eighths', 'sixteenths', 'triplets'] as const;

/** How drums may stand to the beat, where not as their groove is written. */
export const DRUM_TIMES = ['half', 'double'] as const;

/** Ways of a bass that any style can take. */
export const BASS_WAYS = ['roots', 'octaves', 'walking', 'arpeggiated', 'syncopated', 'latin', 'pedal'] as const;

export const briefSchema = z
  .object({
    low: midiNote,
    high: midiNote,
    /** Onsets a bar. */
    busyness: z.number().min(0.5).max(24),
    syncopation: percent,
    /** 0 is all steps, 100 is all leaps. */
    stride: percent,
    /** How strongly strong beats take chord tones. */
    anchoring: percent,
    /** How much earlier material returns. */
    recall: percent,
    /** Rests at phrase ends. */
    breath: percent,
    /** Mean velocity. */
    loudness: z.number().int().min(1).max(127),
    adventure: percent,
    /** How long notes last: 0 is short, 100 is tied over to the next. */
    length: percent,
    /** Notes that sound together at most. */
    voices: z.number().int().min(1).max(6),
    /** The finest steps that onsets may stand on; none takes what the busyness needs. */
    grid: z.enum(GRIDS).nullable(),
    /** Chance of repeated strokes in place of a longer one. */
    rolls: percent,
    /** How far loudness strays from its mean, in % of what a lively player does. */
    dynamics: percent,
    /** How far a player strays in time and loudness when it sounds; never written into the notes. */
    humanise: percent,
    /** Whether the part follows the energy line, within its limits. */
    follows: z.boolean(),
    /** Drums in half or double time; null plays the groove as it is. */
    time: z.enum(DRUM_TIMES).nullable(),
    /** How a bass moves, where not as the style has it. */
    way: z.enum(BASS_WAYS).nullable(),
    /** Chance of a pick-up into the section, in %. */
    pickup: percent,
    /** How it leans by itself from bar to bar. */
    leans: leansSchema.optional(),
  })
  .readonly();

export const CADENCES = ['authentic', 'half', 'plagal', 'deceptive', 'open'] as const;
export const PACES = [0.5, 1, 2] as const;
export const COLOURINGS = ['triads', 'sevenths', 'extended'] as const;

/** How chords come back, where not as the style has it. */
export const FORMS = ['free', 'loop of four', 'loop of two', 'twelve bars', 'a a b a'] as const;

export const harmonyBriefSchema = z
  .object({
    /** Chords a bar; a half is one chord for two bars. */
    pace: z.literal([...PACES]),
    colouring: z.enum(COLOURINGS),
    cadence: z.enum(CADENCES),
    /** None is as the style has it. */
    form: z.enum(FORMS).nullable(),
    /** Chord symbols as typed, or null for “as it comes”. */
    first: z.string().max(24).nullable(),
    last: z.string().max(24).nullable(),
    adventure: percent,
    /** The part whose melody the chords go under; null for chords that come first. */
    under: id.nullable(),
  })
  .readonly();

export type Brief = z.infer<typeof briefSchema>;
export type HarmonyForm = (typeof FORMS)[number];
export type HarmonyBrief = z.infer<typeof harmonyBriefSchema>;
export type Role = (typeof ROLES)[number];
