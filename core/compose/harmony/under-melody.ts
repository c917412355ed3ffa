import type { HarmonyBrief, Note } from '../../song/schema';
import { chordMask } from '../../theory/chord';
import { metricalWeight, WEIGHT } from '../../theory/metre';
import { inMask } from '../../theory/pitch';
import { TICKS_PER_QUARTER, type Ticks } from '../../theory/units';
import { FORBIDDEN } from '../../trellis/trellis';
import type { HarmonyContext } from '../context';
import type { Candidate } from './vocabulary';

/** Readings of one melody from plain to adventurous: how far each strays, and with how full chords. */
const READINGS: readonly Pick<HarmonyBrief, 'adventure' | 'colouring'>[] = [
  { adventure: 0, colouring: 'triads' },
  { adventure: 10, colouring: 'sevenths' },
  { adventure: 25, colouring: 'triads' },
  { adventure: 35, colouring: 'sevenths' },
  { adventure: 50, colouring: 'sevenths' },
  { adventure: 60, colouring: 'extended' },
  { adventure: 75, colouring: 'extended' },
  { adventure: 90, colouring: 'extended' },
];

/** The brief of one reading: attempts go round from plain to adventurous. */
export const readingBrief = (brief: HarmonyBrief, attempt: number): HarmonyBrief => ({
  ...brief,
  ...READINGS[attempt % READINGS.length],
});

/** How much a melody note asks to be in its chord: by metrical weight and by length. */
function importance({ start, duration }: Note, { metre }: Pick<HarmonyContext, 'metre'>): number {
  const weight = metricalWeight(metre, start);
  const place = weight >= WEIGHT.bar ? 1.5 : weight >= WEIGHT.beat ? 1 : 0.35;
  return place * Math.min(2, Math.max(0.4, duration / TICKS_PER_QUARTER));
}

const soundsIn = ({ start, duration }: Note, slot: { readonly start: Ticks; readonly duration: Ticks }): boolean =>
  start < slot.start + slot.duration && start + duration > slot.start && start >= slot.start - TICKS_PER_QUARTER / 2;

/** Hundredths of a nat that a full beat outside the chord costs. */
const FOREIGN = 190;

/** Adds to the weights of one place what the melody above it says of each chord. */
export function underMelody(
  layer: Int32Array,
  candidates: readonly Candidate[],
  slot: { readonly start: Ticks; readonly duration: Ticks },
  context: HarmonyContext,
): Int32Array {
  const notes = context.melody.filter((note) => soundsIn(note, slot));
  if (notes.length === 0) return layer;
  return layer.map((weight, index) => {
    if (weight <= FORBIDDEN) return weight;
    const mask = chordMask((candidates[index] as Candidate).chord);
    const price = notes.reduce((total, note) => {
      if (inMask(mask, note.pitch)) return total;
      const rub = inMask(mask, note.pitch - 1) && metricalWeight(context.metre, note.start) >= WEIGHT.beat ? 1.5 : 1;
      return total + FOREIGN * rub * importance(note, context);
    }, 0);
    return Math.max(FORBIDDEN + 1, weight - Math.round(price));
  });
}
