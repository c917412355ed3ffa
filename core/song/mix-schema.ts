import './validation';
import * as z from 'zod';
import { id, percent } from './brief-schema';
import { curve } from './music-schema';

/** How a part stands in the mix, beside its level and pan. */

/** Either way from where the instrument has it by itself, in %. */
const around = z.number().int().min(-100).max(100);

/** What is not said is as the instrument has it by itself; without room and without chorus. */
export const toneSchema = z
  .object({
    /** How far its filter is opened. */
    brightness: around,
    /** How slowly it begins. */
    attack: around,
    /** How long it rings after a note's end. */
    release: around,
    /** How much of it the room gives back. */
    room: percent,
    chorus: percent,
  })
  .partial()
  .readonly();

/** Octaves by which an instrument may sound away from what is written. */
export const FURTHEST_OCTAVE = 3;
export const octave = z.number().int().min(-FURTHEST_OCTAVE).max(FURTHEST_OCTAVE);

/** Instruments that may double a part, at most. */
export const MOST_LAYERS = 2;

/** Another instrument that plays what a part plays; its level in % of the part's. */
export const layerSchema = z.object({ instrument: id, octave, level: percent }).readonly();

const aroundCurve = curve(-100, 100);
const percentCurve = curve(0, 100);

/** How a part's place in the mix moves; points in ticks from the start of what they belong to. */
export const movesSchema = z
  .object({
    level: percentCurve,
    pan: aroundCurve,
    brightness: aroundCurve,
    attack: aroundCurve,
    release: aroundCurve,
    room: percentCurve,
    chorus: percentCurve,
  })
  .partial()
  .readonly();

export type Tone = z.infer<typeof toneSchema>;
export type ToneKind = keyof Tone;
export type Layer = z.infer<typeof layerSchema>;
export type Moves = z.infer<typeof movesSchema>;
