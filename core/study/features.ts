import type { ChordSpan, Note } from '../song/schema';
import { chordMask } from '../theory/chord';
import { pitchClassOf } from '../theory/pitch';
import { modulo, range, type Ticks } from '../theory/units';
import { chordFinder } from './chord-finder';

/** A take as numbers, for telling how unlike two takes are; every group is scaled by the one table below. */
export type Features = Float64Array;

/** How much each aspect counts. */
const WEIGHTS = {
  rhythm: 1.6,
  density: 0.8,
  contour: 1.4,
  register: 0.7,
  intervals: 1.2,
  voices: 1.2,
  harmony: 1,
} as const;

const POSITIONS = 16;
const SLICES = 8;

/** Features of a part's notes: where in the bar they start, how many where, their line, register and intervals. */
export function noteFeatures(notes: readonly Note[], length: Ticks, bar: Ticks): Features {
  const rhythm = new Float64Array(POSITIONS);
  const density = new Float64Array(4);
  const contour = new Float64Array(SLICES);
  const counts = new Float64Array(SLICES);
  const pitchClasses = new Float64Array(12);
  const intervals = new Float64Array(5);
  const bars = Math.max(1, length / bar);
  const mean = notes.reduce((sum, { pitch }) => sum + pitch, 0) / Math.max(1, notes.length);
  notes.forEach((note, index) => {
    bump(rhythm, Math.floor((modulo(note.start, bar) * POSITIONS) / bar), 1 / bars);
    bump(density, Math.floor((note.start * 4) / length), 4 / (bars * 6));
    const slice = Math.min(SLICES - 1, Math.max(0, Math.floor((note.start * SLICES) / length)));
    bump(contour, slice, (note.pitch - mean) / 6);
    bump(counts, slice, 1);
    bump(pitchClasses, modulo(note.pitch, 12), 3 / notes.length);
    const next = notes[index + 1];
    if (next) bump(intervals, intervalClass(next.pitch - note.pitch), 2 / notes.length);
  });
  contour.forEach((sum, slice) => (contour[slice] = sum / Math.max(1, counts[slice] as number)));
  return join([
    [rhythm, WEIGHTS.rhythm],
    [density, WEIGHTS.density],
    [contour, WEIGHTS.contour],
    [Float64Array.of((mean - 60) / 8), WEIGHTS.register],
    [intervals, WEIGHTS.intervals],
    [pitchClasses, WEIGHTS.voices],
  ]);
}

/** Features of a progression: its pitch classes and bass in every half bar. */
export function chordFeatures(chords: readonly ChordSpan[], length: Ticks, bar: Ticks): Features {
  const slots = Math.ceil(length / (bar / 2));
  const result = new Float64Array(slots * 13);
  const chordAt = chordFinder(chords);
  for (let slot = 0; slot < slots; slot++) {
    const chord = chordAt((slot * bar) / 2);
    if (!chord) continue;
    const mask = chordMask(chord);
    for (const pitchClass of range(12)) result[slot * 13 + pitchClass] = (mask >> pitchClass) & 1 ? 0.5 : 0;
    bump(result, slot * 13 + 12, pitchClassOf(chord.root) / 12);
  }
  return join([[result, WEIGHTS.harmony]]);
}

function bump(values: Float64Array, index: number, by: number): void {
  if (index >= 0 && index < values.length) values[index] = (values[index] as number) + by;
}

const intervalClass = (interval: number): number => {
  const size = Math.abs(interval);
  if (size === 0) return 0;
  if (size <= 2) return interval > 0 ? 1 : 2;
  return interval > 0 ? 3 : 4;
};

function join(groups: readonly (readonly [Float64Array, number])[]): Features {
  return Float64Array.from(groups.flatMap(([values, weight]) => Array.from(values, (value) => value * weight)));
}

/** Squared Euclidean distance; of features of different lengths the missing ones count as 0. */
export function distance(a: Features, b: Features): number {
  let total = 0;
  for (let index = 0; index < Math.max(a.length, b.length); index++) {
    const difference = (a[index] ?? 0) - (b[index] ?? 0);
    total += difference * difference;
  }
  return total;
}
