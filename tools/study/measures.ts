import type { ChordSpan, Note } from '@fendro/core/song/schema';
import { chordMask } from '@fendro/core/theory/chord';
import { barTicks, metricalWeight, WEIGHT, type Metre } from '@fendro/core/theory/metre';
import { inMask } from '@fendro/core/theory/pitch';

/** Shares that are added up over many takes before they are divided. */
export interface Share {
  part: number;
  whole: number;
}

const share = (): Share => ({ part: 0, whole: 0 });
export const valueOf = ({ part, whole }: Share): number => (whole === 0 ? 0 : part / whole);

export interface MelodyMeasures {
  readonly steps: Share;
  readonly skips: Share;
  readonly leaps: Share;
  readonly overOctave: Share;
  readonly turns: Share;
  readonly downbeats: Share;
  readonly beats: Share;
  readonly offBeats: Share;
  readonly repeats: Share;
  readonly exact: Share;
  readonly ranges: number[];
  readonly entropies: number[];
}

export const noMeasures = (): MelodyMeasures => ({
  steps: share(),
  skips: share(),
  leaps: share(),
  overOctave: share(),
  turns: share(),
  downbeats: share(),
  beats: share(),
  offBeats: share(),
  repeats: share(),
  exact: share(),
  ranges: [],
  entropies: [],
});

const count = (to: Share, hit: boolean): void => {
  to.whole++;
  if (hit) to.part++;
};

/** Adds one melody to the measures. */
export function measureMelody(
  measures: MelodyMeasures,
  notes: readonly Note[],
  chords: readonly ChordSpan[],
  metre: Metre,
  bars: number,
): void {
  const intervals = notes.slice(1).map((note, index) => note.pitch - (notes[index]?.pitch ?? 0));
  intervals.forEach((interval, index) => {
    const size = Math.abs(interval);
    count(measures.steps, size === 1 || size === 2);
    count(measures.skips, size === 3 || size === 4);
    count(measures.leaps, size >= 5);
    count(measures.overOctave, size > 12);
    const next = intervals[index + 1];
    if (size >= 5 && next !== undefined) count(measures.turns, Math.sign(next) === -Math.sign(interval));
  });
  for (const { start, pitch } of notes) {
    const chord = chords.findLast((span) => span.start <= start)?.chord;
    if (!chord) continue;
    const weight = metricalWeight(metre, start);
    count(
      weight >= WEIGHT.bar ? measures.downbeats : weight >= WEIGHT.beat ? measures.beats : measures.offBeats,
      inMask(chordMask(chord), pitch),
    );
  }
  const bar = barTicks(metre);
  const inBar = (index: number): Note[] => notes.filter(({ start }) => Math.floor(start / bar) === index);
  const rhythms = Array.from({ length: bars }, (_, index) =>
    inBar(index)
      .map(({ start }) => start % bar)
      .join(),
  );
  const whole = Array.from({ length: bars }, (_, index) =>
    inBar(index)
      .map(({ start, pitch }) => `${start % bar}:${pitch}`)
      .join(),
  );
  rhythms.forEach((rhythm, index) => {
    if (index > 0 && rhythm !== '') count(measures.repeats, rhythms.indexOf(rhythm) < index);
  });
  whole.forEach((content, index) => {
    if (index > 0 && content !== '') count(measures.exact, whole.indexOf(content) < index);
  });
  const pitches = notes.map(({ pitch }) => pitch);
  measures.ranges.push(Math.max(...pitches) - Math.min(...pitches));
  measures.entropies.push(entropyOf(pitches));
}

/** Entropy of the pitch classes, in bits. */
export function entropyOf(pitches: readonly number[]): number {
  const counts = new Map<number, number>();
  for (const pitch of pitches) counts.set(pitch % 12, (counts.get(pitch % 12) ?? 0) + 1);
  return -[...counts.values()].reduce(
    (sum, times) => sum + (times / pitches.length) * Math.log2(times / pitches.length),
    0,
  );
}

/** Likeness of the onsets of neighbouring bars: 1 minus the share of sixteenths that differ (Dong et al., 2018). */
export function grooveConsistency(notes: readonly Note[], metre: Metre, bars: number): number {
  const bar = barTicks(metre);
  const slots = bar / 120;
  const onsets = Array.from({ length: bars }, (_, index) => {
    const row = new Uint8Array(slots);
    for (const { start } of notes) if (Math.floor(start / bar) === index) row[Math.floor((start % bar) / 120)] = 1;
    return row;
  });
  let differing = 0;
  for (let index = 1; index < bars; index++)
    for (let slot = 0; slot < slots; slot++) if (onsets[index]?.[slot] !== onsets[index - 1]?.[slot]) differing++;
  return bars < 2 ? 1 : 1 - differing / (slots * (bars - 1));
}

export const median = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? 0;
export const mean = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / Math.max(1, values.length);
