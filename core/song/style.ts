import './validation';
import * as z from 'zod';
import { briefSchema, COLOURINGS, id, ROLES } from './brief-schema';
import { isScaleId } from '../theory/scale';
import { LIMITS } from './limits';
import { SECTION_KINDS } from './music-schema';

/** Room for what people write, not for what would stop a page. */
const LONGEST_FIGURE = 400;
const MOST_FIGURES = 64;
const figureName = z.string().max(80);

/**
 * Figures are written on sixteenths, bars parted by `|`, for the style's home metre; drafters carry them to any other
 * metre by what each beat does in its bar (see compose/figure.ts).
 *
 * Struck: `X` accented, `x` always, `1`–`9` in 10–90 % of cases, `.` never.
 */
const struck = z
  .string()
  .max(LONGEST_FIGURE)
  .regex(/^[Xx1-9.|]+$/, 'only X, x, 1–9, . and | are allowed here');

/**
 * Bass: R root, F fifth, O octave, T third, A approach to the next chord, W any fitting note, P the key's root as a
 * pedal; small letters are likely rather than certain.
 */
const bassed = z
  .string()
  .max(LONGEST_FIGURE)
  .regex(/^[RFOTAWPrfotawp.|]+$/, 'only R F O T A W P, their small forms, . and | are allowed here');

/** Melodies: beats parted by `-`, each with as many signs as it is cut into; `x` struck, `.` goes on (see styles/cell.ts). */
const sung = z
  .string()
  .max(LONGEST_FIGURE)
  .regex(/^[x.|-]+$/, 'only x, ., - and | are allowed here');

export const DRUM_KEYS = {
  kick: 36,
  stick: 37,
  snare: 38,
  clap: 39,
  'low tom': 43,
  'closed hat': 42,
  'pedal hat': 44,
  'middle tom': 47,
  'open hat': 46,
  crash: 49,
  cowbell: 56,
  'high bongo': 60,
  'low bongo': 61,
  'muted conga': 62,
  'open conga': 63,
  'low conga': 64,
  cabasa: 69,
  clave: 75,
  triangle: 81,
  'high tom': 50,
  ride: 51,
  tambourine: 54,
  shaker: 70,
} as const;
export type DrumVoice = keyof typeof DRUM_KEYS;
const DRUM_VOICES = Object.keys(DRUM_KEYS) as DrumVoice[];

const voiced = z.partialRecord(z.enum(DRUM_VOICES), struck);

/** From one degree of the scale (1–7) to the next, as plain weights. */
const moves = z.record(z.string().regex(/^[1-7]$/), z.record(z.string().regex(/^[1-7]$/), z.number().positive()));

/** Chords by the degree that they stand on, as chord degrees parted by spaces. */
const ownChords = z.record(
  z.string().regex(/^[b#]?[1-7]$/),
  z.string().regex(/^1( [b#]{0,2}\d{1,2}){1,5}$/, 'a chord is written by its notes, as in 1 3 5 b7'),
);

/** `1 4 2-5 1/5`: a bar a word, chords of one bar parted by `-`, degrees of which one is taken by `/`. */
const degrees = z
  .string()
  .max(LONGEST_FIGURE)
  .regex(
    /^[1-7](\/[1-7])*(-[1-7](\/[1-7])*)?( [1-7](\/[1-7])*(-[1-7](\/[1-7])*)?)*$/,
    'a form has a word of degrees 1–7 for each bar, as in 1 4 2-5 1/5',
  );

const compingFigure = z.object({
  name: figureName,
  steps: struck,
  /** How much of the gap to the next stroke a chord sounds, in %. */
  length: z.number().min(5).max(100),
});

const arpeggioFigure = z.object({
  name: figureName,
  /** Chord notes counted from the lowest (0); the order is walked round and round. */
  order: z.array(z.number().int().min(0).max(7)).min(2).max(64),
  /** Notes a quarter. */
  rate: z.number().min(0.5).max(6),
  length: z.number().min(5).max(100),
});

/** Strumming: `D` down, `U` up over the higher strings, small letters light, `~` muted, `.` rings on. */
const strummed = z
  .string()
  .max(LONGEST_FIGURE)
  .regex(/^[DUdu~.|]+$/, 'only D, U, d, u, ~, . and | are allowed here');

/**
 * Picking: `p` the thumb on the bass string, `q` on the next one, `i` `m` `a` the fingers from the third string up,
 * `P` thumb and finger together.
 */
const picked = z
  .string()
  .max(LONGEST_FIGURE)
  .regex(/^[pqimaP.|]+$/, 'only p, q, i, m, a, P, . and | are allowed here');

/** Ways in which a song ends, within two bars after its last section. */
export const ENDINGS = ['held', 'stop', 'rolled', 'cadence', 'plagal', 'turn', 'tag'] as const;
export type Ending = (typeof ENDINGS)[number];

const bandPart = z.object({
  role: z.enum(ROLES),
  name: z.string().trim().min(1, 'a part needs a name').max(LIMITS.name),
  instrument: id,
  level: z.number().min(0).max(100),
  pan: z.number().min(-100).max(100),
  /** What a style leaves out stays as the role has it. */
  brief: briefSchema.unwrap().partial(),
});

const lateness = z.number().int().min(-40).max(40);

/** How a style's players sit on the beat: added when a part sounds or is delivered, never written. */
const feelSchema = z.object({
  /** Ticks behind the beat by role; ahead where negative. */
  late: z.partialRecord(z.enum(ROLES), lateness),
  /** Single drums that differ from the rest of the kit. */
  drums: z.partialRecord(z.enum(DRUM_VOICES), lateness).optional(),
  /** Velocity added on each sixteenth of a beat. */
  accents: z.array(z.number().int().min(-24).max(24)).length(4).optional(),
});
export type Feel = z.infer<typeof feelSchema>;

export const styleSchema = z.object({
  id: z
    .string()
    .max(64)
    .regex(/^[a-z0-9-]+$/),
  name: z.string().trim().min(1, 'a style needs a name').max(60),
  family: z.string().trim().min(1, 'a style needs a family').max(60),
  moods: z.array(z.string().trim().min(1).max(LIMITS.name)).min(1, 'a style needs a mood').max(12),
  tempo: z.object({
    low: z.number().min(20).max(300),
    usual: z.number().min(20).max(300),
    high: z.number().min(20).max(300),
  }),
  /** The first is the home metre, in which the figures are written. */
  metres: z
    .array(
      z
        .string()
        .max(8)
        .regex(/^\d+\/\d+$/),
    )
    .min(1)
    .max(24),
  swing: z.number().min(0).max(100),
  scales: z.array(z.string().max(160).refine(isScaleId)).min(1).max(64),
  harmony: z.object({
    major: moves,
    minor: moves,
    pace: z.union([z.literal(0.5), z.literal(1), z.literal(2)]),
    colouring: z.enum(COLOURINGS),
    adventure: z.number().min(0).max(100),
    /** Chance that a bar before a cadence carries two chords, in %. */
    splits: z.number().min(0).max(100),
    /** Chance that a section goes round a loop of four bars, in %. */
    loops: z.number().min(0).max(100).optional(),
    /** Whether minor keys have their dominant with the leading note. */
    leadingNote: z.boolean().optional(),
    /** Chords of the style's own, by the degree of their root: their notes from the triad on. */
    majorChords: ownChords.optional(),
    minorChords: ownChords.optional(),
    /** Progressions of a length of their own, a word of degrees for each bar (see compose/harmony/form.ts). */
    forms: z
      .array(z.object({ name: figureName, bars: degrees, weight: z.number().positive().max(1000).optional() }))
      .max(MOST_FIGURES)
      .optional(),
    /** Bars that sections start with, where not as they usually do. */
    bars: z.partialRecord(z.enum(SECTION_KINDS), z.number().int().min(1).max(64)).optional(),
  }),
  /** Rhythms that its melodies are made of; where a style has none of its own, the common ones serve. */
  melody: z
    .array(z.object({ name: figureName, steps: sung }))
    .max(MOST_FIGURES)
    .optional(),
  comping: z.array(compingFigure).min(2).max(MOST_FIGURES),
  arpeggio: z.array(arpeggioFigure).min(2).max(MOST_FIGURES),
  bass: z
    .array(z.object({ name: figureName, steps: bassed, length: z.number().min(5).max(100) }))
    .min(2)
    .max(MOST_FIGURES),
  grooves: z
    .array(z.object({ name: figureName, voices: voiced }))
    .min(2)
    .max(MOST_FIGURES),
  /** Where a style has none of its own, the common ones serve (see common-figures.ts). */
  strums: z
    .array(z.object({ name: figureName, steps: strummed }))
    .max(MOST_FIGURES)
    .optional(),
  picking: z
    .array(z.object({ name: figureName, steps: picked }))
    .max(MOST_FIGURES)
    .optional(),
  percussion: z
    .array(z.object({ name: figureName, voices: voiced }))
    .max(MOST_FIGURES)
    .optional(),
  /** One bar each, played towards the next section; only what lies after the fill's beginning replaces the groove. */
  fills: z
    .array(z.object({ name: figureName, voices: voiced }))
    .min(2)
    .max(MOST_FIGURES),
  feel: feelSchema.optional(),
  /** How a song in this style likes to end. */
  ending: z.enum(ENDINGS),
  band: z.array(bandPart).min(4).max(LIMITS.parts),
});

export type Style = z.infer<typeof styleSchema>;
export type MelodyCell = NonNullable<Style['melody']>[number];
export type CompingFigure = Style['comping'][number];
export type ArpeggioFigure = Style['arpeggio'][number];
export type BassFigure = Style['bass'][number];
export type Groove = Style['grooves'][number];
export type GuitarFigure = NonNullable<Style['strums']>[number];
export type BandPart = Style['band'][number];
