/**
 * A number that knows its unit. Plain numbers fit in, and what is reckoned with it is plain again, but ticks are never
 * taken for a pitch, nor a pitch for a percentage.
 */
type Unit<Name extends string> = number & { readonly unit?: Name };

/** Whole ticks, 480 to a quarter note. */
export type Ticks = Unit<'ticks'>;
/** A MIDI note number, 0–127; 60 is middle C (written C4). */
export type MidiNote = Unit<'MIDI note'>;
/** 0–11, C is 0. */
export type PitchClass = Unit<'pitch class'>;
/** A set of pitch classes as twelve bits; bit 0 is C. */
export type PitchClassMask = Unit<'pitch class mask'>;
/** Signed distance in semitones. */
export type Semitones = Unit<'semitones'>;
/** 0–100. 0 never happens, 100 always does. */
export type Percent = Unit<'%'>;
/** MIDI velocity, 1–127. */
export type Velocity = Unit<'velocity'>;

export const TICKS_PER_QUARTER: Ticks = 480;
/** A sixteenth note: the finest step of the drafters' straight grid. */
export const SIXTEENTH: Ticks = TICKS_PER_QUARTER / 4;

/** Remainder that is never negative. */
export const modulo = (value: number, size: number): number => ((value % size) + size) % size;

export const clamp = (value: number, low: number, high: number): number => Math.min(high, Math.max(low, value));

/** `count` numbers from 0 up. */
export const range = (count: number): number[] => Array.from({ length: count }, (_, index) => index);

export const sum = (values: readonly number[]): number => values.reduce((total, value) => total + value, 0);

/** How many items at the beginning pass a test, by bisection: all that follow the first that fails must fail too. */
export function countLeading<T>(items: readonly T[], passes: (item: T) => boolean): number {
  let [low, high] = [0, items.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (passes(items[middle] as T)) low = middle + 1;
    else high = middle;
  }
  return low;
}
