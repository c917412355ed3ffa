import { barTicks, beatsOf, type Metre } from '../../theory/metre';
import { modulo, type Ticks } from '../../theory/units';
import type { ImportLine, ImportNote } from './file-model';

/**
 * Finds bars that lie beside the bar lines of their file: a pick-up that was written without rests before it shifts all
 * that follows. Every beat of the bar is asked how much speaks for it as the first (after Temperley and Sleator, 1999:
 * long notes, low notes and changes of harmony stand on strong beats), and drums are heard as they are played.
 */

/** What speaks for a beat as the first of its bar, on average over all bars. */
const WEIGHTS = { harmony: 1.6, bass: 0.9, length: 0.7, kick: 0.5, snare: -0.5, crash: 1.2 } as const;
/** So much more has to speak for another beat than for the one that the file has. */
const CLEARLY = 0.55;
/** Fewer bars than this tell nothing. */
const FEWEST_BARS = 6;
const MOST_BARS = 96;
/** A hand may be off by so much. */
const NEAR: Ticks = 40;

interface Beats {
  readonly bars: number;
  readonly count: number;
  /** Start of each beat of the music, in ticks. */
  readonly starts: readonly Ticks[];
}

function beatsOfMusic(metre: Metre, end: Ticks): Beats {
  const bar = barTicks(metre);
  const beats = beatsOf(metre);
  const bars = Math.min(MOST_BARS, Math.floor(end / bar));
  const starts = Array.from({ length: bars }, (_, index) => beats.map(({ at }) => index * bar + at)).flat();
  return { bars, count: beats.length, starts };
}

/** The nearest beat of a moment; −1 where none is near. */
function beatAt({ starts }: Beats, at: Ticks): number {
  let [low, high] = [0, starts.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((starts[middle] as number) < at - NEAR) low = middle + 1;
    else high = middle;
  }
  return Math.abs((starts[low] ?? Number.POSITIVE_INFINITY) - at) <= NEAR ? low : -1;
}

/** How much of a measure lies on each beat of the bar, as a share of the mean of all. */
function byPlace({ count, bars }: Beats, values: Float64Array): Float64Array {
  const sums = new Float64Array(count);
  values.forEach((value, index) => {
    sums[index % count] = (sums[index % count] as number) + value / bars;
  });
  const mean = sums.reduce((sum, value) => sum + value, 0) / count;
  return mean === 0 ? sums : sums.map((value) => value / mean - 1);
}

/** How different each beat's pitch classes are from those of the beat before: 1 less the cosine between them. */
function changes(beats: Beats, notes: readonly ImportNote[], beat: Ticks): Float64Array {
  const times = beats.starts.map(() => new Float64Array(12));
  for (const { start, duration, held, pitch } of notes) {
    const until = start + (held ?? duration);
    for (let index = Math.max(0, Math.floor((start + NEAR) / beat)); index < times.length; index++) {
      const from = beats.starts[index] ?? 0;
      if (from >= until) break;
      const sounding = Math.min(until, from + beat) - Math.max(start, from);
      const own = times[index];
      if (own && sounding > 0) own[modulo(pitch, 12)] = (own[modulo(pitch, 12)] ?? 0) + sounding;
    }
  }
  return Float64Array.from(times, (own, index) => {
    const [before, after] = [sum(times[index - 1], times[index - 2]), sum(own, times[index + 1])];
    const size = Math.sqrt(product(before, before) * product(after, after));
    return size === 0 ? 0 : 1 - product(before, after) / size;
  });
}

const EMPTY = new Float64Array(12);
const sum = (a: Float64Array = EMPTY, b: Float64Array = EMPTY): Float64Array =>
  a.map((value, at) => value + (b[at] ?? 0));
const product = (a: Float64Array, b: Float64Array): number =>
  a.reduce((total, value, at) => total + value * (b[at] ?? 0), 0);

/** Adds to each beat what the notes that begin on it are worth. */
function onBeats(beats: Beats, notes: readonly ImportNote[], worth: (note: ImportNote) => number): Float64Array {
  const values = new Float64Array(beats.starts.length);
  for (const note of notes) {
    const index = beatAt(beats, note.start);
    if (index >= 0) values[index] = (values[index] as number) + worth(note);
  }
  return values;
}

/**
 * How much speaks for each beat of the bar as the first, in the order of the file's own bars.
 *
 * @returns an empty list where there is too little to tell by
 */
function evidenceForDownbeats(lines: readonly ImportLine[], metre: Metre): readonly number[] {
  const end = lines.reduce((last, { notes }) => Math.max(last, notes.at(-1)?.start ?? 0), 0);
  const beats = beatsOfMusic(metre, end);
  if (beats.bars < FEWEST_BARS) return [];
  const bar = barTicks(metre);
  const pitched = lines.filter(({ drums }) => !drums).map(({ notes }) => notes);
  const drums = lines.filter((line) => line.drums).flatMap(({ notes }) => notes);
  const struck = (keys: readonly number[]) => onBeats(beats, drums, ({ pitch }) => (keys.includes(pitch) ? 1 : 0));
  const low = pitched.toSorted((a, b) => middle(a) - middle(b))[0] ?? [];
  const all = pitched.flat();
  const measures = {
    harmony: changes(beats, all, bar / beats.count),
    bass: onBeats(beats, low, () => 1),
    length: onBeats(beats, all, ({ duration, held }) => Math.min(held ?? duration, bar) / bar),
    kick: struck([35, 36]),
    snare: struck([38, 40]),
    crash: struck([49, 57]),
  };
  const shares = Object.entries(measures).map(
    ([kind, values]) => [WEIGHTS[kind as keyof typeof WEIGHTS], byPlace(beats, values)] as const,
  );
  return Array.from({ length: beats.count }, (_, place) =>
    shares.reduce((total, [weight, values]) => total + weight * (values[place] ?? 0), 0),
  );
}

const middle = (notes: readonly ImportNote[]): number =>
  notes.reduce((total, { pitch }) => total + pitch, 0) / Math.max(1, notes.length);

/** How far the bars of the music lie behind those of its file, in ticks; 0 where the file has them right. */
export function shiftOfBars(lines: readonly ImportLine[], metre: Metre): Ticks {
  const evidence = evidenceForDownbeats(lines, metre);
  if (evidence.length < 2) return 0;
  const best = evidence.indexOf(Math.max(...evidence));
  const [own = 0, other = 0] = [evidence[0], evidence[best]];
  return other - own > CLEARLY * evidence.length ? (beatsOf(metre)[best]?.at ?? 0) : 0;
}
