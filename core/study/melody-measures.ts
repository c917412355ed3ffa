import type { ChordSpan, Note } from '../song/schema';
import { chordMask } from '../theory/chord';
import type { Key } from '../theory/key';
import { barTicks, metricalWeight, WEIGHT, type Metre } from '../theory/metre';
import { inMask } from '../theory/pitch';
import { modulo, range, sum, TICKS_PER_QUARTER } from '../theory/units';
import { chordFinder } from './chord-finder';
import { motifFacts } from './motifs';

/** A melody with what it stands in; one line, in order of its starts. */
export interface Tune {
  readonly notes: readonly Note[];
  readonly chords: readonly ChordSpan[];
  readonly key: Key;
  readonly metre: Metre;
  readonly bars: number;
}

/**
 * What a melody measures, by the names of the human figures it is compared with. A measure is missing where a melody
 * says nothing about it, as one without leaps of what follows them.
 */
export type Measures = Readonly<Record<string, number>>;

const ratio = <T>(items: readonly T[], test: (item: T) => boolean): number | undefined =>
  items.length === 0 ? undefined : items.filter(test).length / items.length;

/** Entropy of a row of values, in bits (Shannon, 1948). */
export function entropyOf(values: readonly number[]): number {
  const counts = new Map<number, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  return -sum([...counts.values()].map((times) => (times / values.length) * Math.log2(times / values.length)));
}

/** Each bar's onsets as text, and with their pitches; empty where nothing starts. */
function barsAsText({ notes, metre, bars }: Tune, withPitch: boolean): string[] {
  const bar = barTicks(metre);
  return range(bars).map((index) =>
    notes
      .filter(({ start }) => Math.floor(start / bar) === index)
      .map(({ start, pitch }) => (withPitch ? `${start % bar}:${pitch}` : String(start % bar)))
      .join(),
  );
}

/** The share of bars after the first that say an earlier one again. */
const saidAgain = (bars: readonly string[]): number | undefined =>
  ratio(
    bars.map((text, index) => ({ text, again: bars.indexOf(text) < index })).filter(({ text }, at) => at > 0 && text),
    ({ again }) => again,
  );

/** The share of the time in which nothing sounds for an eighth or more. */
function restShare({ notes, metre, bars }: Tune): number {
  const length = bars * barTicks(metre);
  let silent = 0;
  let sounding = 0;
  for (const { start, duration } of [...notes, { start: length, duration: 0 }]) {
    if (start - sounding >= TICKS_PER_QUARTER / 2) silent += start - sounding;
    sounding = Math.max(sounding, start + duration);
  }
  return silent / length;
}

/** Measures a melody as human ones are measured; see tools/study/human-melody-measures.json for what each means. */
export function melodyMeasures(tune: Tune): Measures {
  const { chords, key, metre, bars } = tune;
  const notes = tune.notes.filter(({ start }) => start >= 0);
  const intervals = notes.slice(1).map((note, index) => note.pitch - (notes[index] as Note).pitch);
  const sized = (low: number, high: number): number | undefined =>
    ratio(intervals, (interval) => Math.abs(interval) >= low && Math.abs(interval) <= high);
  const leaps = intervals.slice(0, -1).map((interval, index) => ({ interval, next: intervals[index + 1] as number }));
  const pitches = notes.map(({ pitch }) => pitch);
  const high = Math.max(...pitches);
  const weights = notes.map(({ start }) => metricalWeight(metre, start));
  const chordAt = chordFinder(chords);
  const chordNotes = (low: number, below: number): number | undefined =>
    ratio(
      notes.flatMap(({ start, pitch }, index) => {
        const weight = weights[index] as number;
        const chord = chordAt(start);
        return chord && weight >= low && weight < below ? [inMask(chordMask(chord), pitch)] : [];
      }),
      (belongs) => belongs,
    );
  const motifs = motifFacts(notes, key);
  const exact = barsAsText({ ...tune, notes }, true);
  const all: Record<string, number | undefined> = {
    'notes a bar': notes.length / bars,
    'repeated notes': sized(0, 0),
    'steps (1-2)': sized(1, 2),
    'skips (3-4)': sized(3, 4),
    'leaps (5+)': sized(5, 127),
    'over an octave': sized(13, 127),
    'leap recovery': ratio(
      leaps.filter(({ interval }) => Math.abs(interval) >= 5),
      ({ interval, next }) => interval * next < 0,
    ),
    range: high - Math.min(...pitches),
    'pitch-class entropy': entropyOf(pitches.map((pitch) => modulo(pitch, 12))),
    'IOI entropy': entropyOf(notes.slice(1).map(({ start }, index) => start - (notes[index] as Note).start)),
    'onsets off the beat': ratio(weights, (weight) => weight < WEIGHT.beat),
    'rest share': restShare({ ...tune, notes }),
    'bars: rhythm heard before': saidAgain(barsAsText({ ...tune, notes }, false)),
    'bars: heard exactly before': saidAgain(exact),
    'any bar said again': exact.some((text, index) => text && exact.indexOf(text) < index) ? 1 : 0,
    'notes in motifs of 4+ (transposable)': motifs.share,
    'longest motif, transposable (notes)': motifs.longest,
    'climax position': !pitches.includes(high)
      ? undefined
      : (notes[pitches.indexOf(high)] as Note).start / (bars * barTicks(metre)),
    'chord notes, downbeat': chordNotes(WEIGHT.bar, 99),
    'chord notes, other beats': chordNotes(WEIGHT.beat, WEIGHT.bar),
    'chord notes, off beats': chordNotes(0, WEIGHT.beat),
  };
  return Object.fromEntries(
    Object.entries(all).filter((entry): entry is [string, number] => entry[1] !== undefined && notes.length > 1),
  );
}
