import './validation';
import * as z from 'zod';
import { leansSchema } from './lean-schema';
import { LIMITS } from './limits';
import { of, pitch } from './music-schema';
import type { Percent, Ticks } from '../theory/units';

/** Patterns: rules and chances by which a take goes on by itself, otherwise each time it is played. */

/** What a pattern says of every step, each in a strip of its own. */
export const STRIPS = ['degree', 'loudness', 'length', 'likelihood', 'slide', 'strikes'] as const;
/**
 * Of what the degrees of a drawn pattern are: the root of the chord that sounds, its notes, steps of the scale from its
 * root or from the tonic, or pitches that stay whatever the chords do.
 */
export const DEGREES_OF = ['root', 'chord', 'steps', 'scale', 'fixed'] as const;
/** In which order the steps of a strip come. */
export const DIRECTIONS = ['forward', 'back', 'to and fro', 'by chance'] as const;

/** Steps of one strip at most. */
export const MOST_STEPS = 64;
/** Notes that a step may take in place of its own. */
export const MOST_OTHERS = 3;
/** Bars after which a pattern may start anew or be drawn anew, at most. */
const LONGEST_WINDOW = LIMITS.bars;

/** The lengths that steps can have, in ticks, from a whole note to a thirty-second, dotted and in triplets too. */
export const RATES: readonly Ticks[] = [1920, 960, 720, 640, 480, 360, 320, 240, 180, 160, 120, 80, 60, 40];

/** What each strip can say. */
const BOUNDS = {
  degree: { low: -24, high: 24 },
  loudness: { low: 1, high: 127 },
  length: { low: 5, high: 400 },
  likelihood: { low: 0, high: 100 },
  slide: { low: 0, high: 100 },
  strikes: { low: 1, high: 8 },
} as const satisfies Readonly<Record<(typeof STRIPS)[number], Bounds>>;
const PITCHES: Bounds = { low: 0, high: 127 };

interface Bounds {
  readonly low: number;
  readonly high: number;
}

/** The least and the most that a strip can say; a degree that is a pitch goes by MIDI note numbers. */
export const boundsOf = (strip: StripName, of: DegreesOf): Bounds =>
  strip === 'degree' && of === 'fixed' ? PITCHES : BOUNDS[strip];

const step = z
  .number()
  .int()
  .min(0)
  .max(MOST_STEPS - 1);
const percent = z.number().int().min(0).max(100);
/** The bounds of each strip are checked below. */
const value = z.number().int();
const bars = z.number().int().min(1).max(LONGEST_WINDOW).nullable();

const stripSchema = z
  .object({
    values: z.array(value).min(1).max(MOST_STEPS).readonly(),
    /** What chance may draw, both included. */
    low: value,
    high: value,
    /** Steps that chance leaves as they are, counted from 0. */
    held: z.array(step).max(MOST_STEPS).readonly(),
    /** Chance leaves the whole strip as it is. */
    still: z.boolean(),
  })
  .readonly();

/** Another note that a step may take. */
const otherSchema = z.object({ step, value, share: of<Percent>(percent.min(1)) }).readonly();

/** What all patterns have. */
const common = {
  seed: z.number().int(),
  /** How it leans by itself from bar to bar. */
  leans: leansSchema.optional(),
};

export const drawnPatternSchema = z
  .object({
    of: z.literal('drawn'),
    ...common,
    degrees: z.enum(DEGREES_OF),
    /** Notes lie in here, moved by octaves where they would not. */
    low: pitch,
    high: pitch,
    /** Length of a step, in ticks. */
    rate: of<Ticks>(z.number().refine((rate) => RATES.includes(rate), 'no such length')),
    direction: z.enum(DIRECTIONS),
    /** By how much every second step comes late, at 100 % by a third of a step; the song's own swing comes on top. */
    swing: percent,
    /** Bars after which it starts anew; it runs on where nothing is said. */
    restart: bars,
    /** Bars after which chance draws it anew; never where nothing is said. */
    redraw: bars,
    /** Every note lasts until the next. */
    sustain: z.boolean(),
    strips: z.record(z.enum(STRIPS), stripSchema).readonly(),
    /** Steps of the strip of degrees that hold on what sounds, counted from 0. */
    ties: z.array(step).max(MOST_STEPS).readonly(),
    /** What steps of that strip may take instead, each in so many % of all times. */
    others: z
      .array(otherSchema)
      .max(MOST_STEPS * MOST_OTHERS)
      .readonly(),
  })
  .refine(({ low, high }) => high - low >= 11, 'less than an octave')
  .refine(
    ({ strips, degrees }) =>
      STRIPS.every((name) => {
        const bounds = boundsOf(name, degrees);
        const within = (one: number): boolean => one >= bounds.low && one <= bounds.high;
        const strip = strips[name];
        return strip.low <= strip.high && [strip.low, strip.high, ...strip.values].every(within);
      }),
    'out of bounds',
  )
  .refine(({ others, degrees }) => {
    const { low, high } = boundsOf('degree', degrees);
    return others.every((other) => other.value >= low && other.value <= high);
  }, 'out of bounds')
  .refine(
    ({ others }) =>
      others.every(
        ({ step: at }) =>
          others.filter((other) => other.step === at).length <= MOST_OTHERS &&
          others.reduce((all, other) => all + (other.step === at ? other.share : 0), 0) <= 100,
      ),
    'more than all times',
  )
  .readonly();

/** Loops that play against each other: so many at least and at most. */
export const LOOP_COUNT = { least: 2, most: 8 } as const;
/** How far a loop may lie from the others, in octaves. */
export const FURTHEST_LOOP = 3;
/** Of what the notes of loops and of what wanders can be. */
export const LOOP_DEGREES = ['chord', 'steps', 'scale'] as const;
/** When loops begin anew: never, with the section, with each chord, or with each note that a hand played. */
export const LOOP_STARTS = ['never', 'section', 'chord', 'played'] as const;
/** Notes that can start loops in one section. */
export const MOST_STARTS = 256;
/** What becomes of notes of several loops that are struck at one moment. */
export const MEETINGS = ['all', 'tied', 'doubled', 'one'] as const;

/** Where a loop strikes, and which note. */
const notchSchema = z.object({ step, degree: z.number().int().min(-24).max(24) }).readonly();

const loopSchema = z
  .object({
    /** Its length, in steps. */
    steps: z.number().int().min(1).max(MOST_STEPS),
    notches: z.array(notchSchema).min(1).max(MOST_STEPS).readonly(),
    rate: of<Ticks>(z.number().refine((rate) => RATES.includes(rate), 'no such length')),
    direction: z.enum(DIRECTIONS),
    /** How likely each stroke sounds, in %. */
    chance: percent,
    loudness: z.number().int().min(1).max(127),
    octave: z.number().int().min(-FURTHEST_LOOP).max(FURTHEST_LOOP),
  })
  .readonly();

/** Short loops of different lengths that play against each other. */
export const loopsSchema = z
  .object({
    of: z.literal('loops'),
    ...common,
    degrees: z.enum(LOOP_DEGREES),
    low: pitch,
    high: pitch,
    loops: z.array(loopSchema).min(LOOP_COUNT.least).max(LOOP_COUNT.most).readonly(),
    starts: z.enum(LOOP_STARTS),
    /** Where notes were played that start them, in ticks from the section's start. */
    moments: z
      .array(of<Ticks>(z.number().int().min(0)))
      .min(1)
      .max(MOST_STARTS)
      .readonly()
      .optional(),
    meeting: z.enum(MEETINGS),
    /** How long notes are, in % of their loop's step. */
    length: z.number().int().min(BOUNDS.length.low).max(BOUNDS.length.high),
  })
  .refine(({ low, high }) => high - low >= 11, 'less than an octave')
  .readonly();

/** What wandering notes may be: notes of the chord, of the scale, any, or drums of the kit. */
export const WANDERING_TONES = ['chord', 'scale', 'any', 'kit'] as const;
/** The shortest and the longest of notes and of gaps between them, in ticks. */
export const WANDERING_TICKS = { low: 20, high: 7680 } as const;
export const MOST_VOICES = 8;

const within = of<Ticks>(z.number().int().min(WANDERING_TICKS.low).max(WANDERING_TICKS.high));
const velocity = z.number().int().min(1).max(127);
const ordered = ({ low, high }: Bounds): boolean => low <= high;

/** Notes that chance draws one after the other, inside ranges. */
const wanderingSchema = z
  .object({
    of: z.literal('wandering'),
    ...common,
    tones: z.enum(WANDERING_TONES),
    low: pitch,
    high: pitch,
    /** How far one note may lie from the last: 0 % the nearest, 100 % anywhere in the range. */
    stride: percent,
    length: z.object({ low: within, high: within }).refine(ordered, 'the wrong way round').readonly(),
    loudness: z.object({ low: velocity, high: velocity }).refine(ordered, 'the wrong way round').readonly(),
    /** From one note to the next, in ticks; where a division is said, notes go by that instead. */
    gap: z.object({ low: within, high: within }).refine(ordered, 'the wrong way round').readonly(),
    division: of<Ticks>(z.number().refine((rate) => RATES.includes(rate), 'no such length')).nullable(),
    /** How likely a division is cut in two, in %. */
    double: percent,
    /** How likely a note sounds where one could, in %. */
    density: percent,
    /** Notes that sound at once at most. */
    voices: z.number().int().min(1).max(MOST_VOICES),
    /** Gaps and lengths are drawn onto sixteenths and their triplets. */
    grid: z.boolean(),
  })
  .refine(({ low, high }) => high - low >= 11, 'less than an octave')
  .readonly();

/** By what a take goes on by itself. */
export const patternSchema = z.discriminatedUnion('of', [drawnPatternSchema, loopsSchema, wanderingSchema]);

export type StripName = (typeof STRIPS)[number];
export type DegreesOf = (typeof DEGREES_OF)[number];
export type Direction = (typeof DIRECTIONS)[number];
export type Strip = z.infer<typeof stripSchema>;
export type OtherNote = z.infer<typeof otherSchema>;
export type DrawnPattern = z.infer<typeof drawnPatternSchema>;
export type Loop = z.infer<typeof loopSchema>;
export type Loops = z.infer<typeof loopsSchema>;
export type Meeting = (typeof MEETINGS)[number];
export type Wandering = z.infer<typeof wanderingSchema>;
export type Pattern = z.infer<typeof patternSchema>;
