import type { ChordSpan, Note } from '../song/schema';
import { sameChord } from '../theory/chord';
import { barTicks, type Metre } from '../theory/metre';
import { pitchClassOf } from '../theory/pitch';
import { modulo, range, SIXTEENTH, type Ticks } from '../theory/units';
import { chordFinder } from './chord-finder';

/** Measures of what accompanies a melody; shares are 0–1. */

const contentOf = (notes: readonly Note[], bar: Ticks, index: number): string[] =>
  notes
    .filter(({ start }) => Math.floor(start / bar) === index)
    .map(({ start, pitch }) => `${Math.round((start % bar) / SIXTEENTH)}:${pitch}`)
    .sort();

/** The share of bars after the first that say an earlier one again, onsets and pitches. */
export function barsAgain(notes: readonly Note[], metre: Metre, bars: number): number {
  const texts = range(bars).map((index) => contentOf(notes, barTicks(metre), index).join());
  const again = texts.filter((text, index) => index > 0 && text !== '' && texts.indexOf(text) < index);
  return bars < 2 ? 0 : again.length / (bars - 1);
}

/** Likeness of the onsets of neighbouring bars: 1 minus the share of sixteenths that differ (Dong et al., 2018). */
export function grooveConsistency(notes: readonly Note[], metre: Metre, bars: number): number {
  const bar = barTicks(metre);
  const slots = bar / SIXTEENTH;
  const onsets = range(bars).map((index) => {
    const row = new Uint8Array(slots);
    for (const { start } of notes)
      if (Math.floor(start / bar) === index) row[Math.floor((start % bar) / SIXTEENTH)] = 1;
    return row;
  });
  let differing = 0;
  for (let index = 1; index < bars; index++)
    for (let slot = 0; slot < slots; slot++) if (onsets[index]?.[slot] !== onsets[index - 1]?.[slot]) differing++;
  return bars < 2 ? 1 : 1 - differing / (slots * (bars - 1));
}

/** How far one bar's strokes differ from those of the bar that is heard most: 0 the same, 1 nothing in common. */
export function differsFromUsual(notes: readonly Note[], metre: Metre, bars: number, which: number): number {
  const contents = range(bars).map((index) => contentOf(notes, barTicks(metre), index));
  const texts = contents.map((content) => content.join());
  const times = (text: string): number => texts.filter((other) => other === text).length;
  const usualAt = texts.reduce((best, text, at) => (times(text) > times(texts[best] ?? '') ? at : best), 0);
  const usual = new Set(contents[usualAt]);
  const here = new Set(contents[which]);
  const all = new Set([...usual, ...here]);
  return all.size === 0 ? 0 : [...all].filter((stroke) => usual.has(stroke) !== here.has(stroke)).length / all.size;
}

/** Of the roots that a bass strikes where chords arrive, the share that it also strikes there in another octave. */
export function rootsInOctaves(notes: readonly Note[], chords: readonly ChordSpan[]): number {
  const heard = new Map<number, Set<number>>();
  for (const { start, chord } of chords) {
    const note = chord ? notes.find((other) => other.start === start) : undefined;
    if (note) heard.set(note.pitch % 12, (heard.get(note.pitch % 12) ?? new Set()).add(note.pitch));
  }
  return heard.size === 0 ? 0 : [...heard.values()].filter(({ size }) => size > 1).length / heard.size;
}

/** Chords of a section that really change, in order. */
const changes = (chords: readonly ChordSpan[]): ChordSpan[] =>
  chords.filter(({ chord }, index) => {
    const before = chords[index - 1]?.chord;
    return chord !== null && !(before && sameChord(before, chord));
  });

/** The share of root moves that rise by a fourth. */
export function risingFourths(chords: readonly ChordSpan[]): number | undefined {
  const roots = changes(chords).flatMap(({ chord }) => (chord ? [pitchClassOf(chord.root)] : []));
  const moves = roots
    .slice(1)
    .map((root, index) => modulo(root - (roots[index] as number), 12))
    .filter((move) => move !== 0);
  return moves.length === 0 ? undefined : moves.filter((move) => move === 5).length / moves.length;
}

/** Whether chords go round a loop of some bars, every time the same. */
export function isLoop(chords: readonly ChordSpan[], loop: Ticks, length: Ticks): boolean {
  const at = chordFinder(chords);
  return range(Math.floor((length - loop) / SIXTEENTH)).every((step) => {
    const [first, again] = [at(step * SIXTEENTH), at(step * SIXTEENTH + loop)];
    return first !== null && again !== null && sameChord(first, again);
  });
}
