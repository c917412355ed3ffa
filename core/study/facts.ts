import type { ChordSpan, Note } from '../song/schema';
import { chordMask } from '../theory/chord';
import type { Key } from '../theory/key';
import { keyMask } from '../theory/key';
import { barTicks, metricalWeight, WEIGHT, type Metre } from '../theory/metre';
import { inMask } from '../theory/pitch';
import { chordFinder } from './chord-finder';
import { modulo, type MidiNote, type Percent, type Ticks } from '../theory/units';

/** What can be said of a take in numbers. */
export interface TakeFacts {
  readonly notes: number;
  readonly onsetsPerBar: number;
  readonly low: MidiNote | null;
  readonly high: MidiNote | null;
  /** Shares of melodic intervals, in %: 1–2 semitones, 3–4, 5 and more; repeats are the rest. */
  readonly steps: Percent;
  readonly skips: Percent;
  readonly leaps: Percent;
  /** Share of notes on beats that belong to the chord. */
  readonly chordTonesOnBeats: Percent;
  readonly outsideScale: number;
  /** Share of onsets that fall between beats. */
  readonly offBeat: Percent;
  /** Share of bars, from the second on, whose rhythm an earlier bar had. */
  readonly repeatedRhythms: Percent;
  readonly longestSilence: Ticks;
}

const percent = (part: number, whole: number): Percent => (whole === 0 ? 0 : Math.round((100 * part) / whole));

/**
 * Studies a take's notes.
 *
 * @param notes  in order of their starts
 */
export function factsOf(
  notes: readonly Note[],
  chords: readonly ChordSpan[],
  key: Key,
  metre: Metre,
  bars: number,
): TakeFacts {
  const bar = barTicks(metre);
  const chordAt = chordFinder(chords);
  const scale = keyMask(key);
  const starts = [...new Set(notes.map(({ start }) => start))];
  const top = topLine(notes);
  const intervals = top.slice(1).map((pitch, index) => Math.abs(pitch - (top[index] as number)));
  const count = (test: (size: number) => boolean): number => intervals.filter(test).length;
  const onBeat = notes.filter(({ start }) => metricalWeight(metre, start) >= WEIGHT.beat);
  const consonant = onBeat.filter(({ start, pitch }) => {
    const chord = chordAt(start);
    return chord ? inMask(chordMask(chord), pitch) : false;
  });
  const pitches = notes.map(({ pitch }) => pitch);
  return {
    notes: notes.length,
    onsetsPerBar: Math.round((10 * starts.length) / Math.max(1, bars)) / 10,
    low: pitches.length > 0 ? Math.min(...pitches) : null,
    high: pitches.length > 0 ? Math.max(...pitches) : null,
    steps: percent(
      count((size) => size === 1 || size === 2),
      intervals.length,
    ),
    skips: percent(
      count((size) => size === 3 || size === 4),
      intervals.length,
    ),
    leaps: percent(
      count((size) => size >= 5),
      intervals.length,
    ),
    chordTonesOnBeats: percent(consonant.length, onBeat.length),
    outsideScale: notes.filter(({ pitch }) => !inMask(scale, pitch)).length,
    offBeat: percent(starts.filter((start) => metricalWeight(metre, start) < WEIGHT.beat).length, starts.length),
    repeatedRhythms: repeatedRhythms(starts, bar, bars),
    longestSilence: longestSilence(notes, bar * bars),
  };
}

/** The highest note of each onset. */
function topLine(notes: readonly Note[]): MidiNote[] {
  const tops = new Map<Ticks, MidiNote>();
  for (const { start, pitch } of notes) tops.set(start, Math.max(pitch, tops.get(start) ?? 0));
  return [...tops.values()];
}

function repeatedRhythms(starts: readonly Ticks[], bar: Ticks, bars: number): Percent {
  const inBars = Array.from({ length: bars }, (): Ticks[] => []);
  for (const start of starts) inBars[Math.floor(start / bar)]?.push(modulo(start, bar));
  const rhythms = inBars.map((places) => places.join());
  return percent(rhythms.filter((rhythm, index) => rhythm !== '' && rhythms.indexOf(rhythm) < index).length, bars - 1);
}

function longestSilence(notes: readonly Note[], length: Ticks): Ticks {
  let longest = 0;
  let end = 0;
  for (const { start, duration } of notes) {
    longest = Math.max(longest, start - end);
    end = Math.max(end, start + duration);
  }
  return Math.max(longest, length - end);
}
