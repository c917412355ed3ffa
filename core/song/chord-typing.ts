import type { Chord } from '../theory/chord';
import type { Key } from '../theory/key';
import { barTicks, beatsOf, type Metre } from '../theory/metre';
import { readChord, type ChordReading, type ChordWriting } from '../theory/read-chord';
import { readDegree, readRoman } from '../theory/roman';
import { spellChord } from '../theory/spelling';
import type { Ticks } from '../theory/units';
import { closeGaps } from './chord-edit';
import { LONGEST_UNREAD, shortened } from './limits';
import type { ChordSpan } from './schema';
import { isAgain, isHold, writtenBars, type WrittenBar } from './written-bars';

/** Chords as they are typed into a chord line or written on a sheet. */

type Chords = readonly ChordSpan[];

/** Only where and what a chord is: settings made by hand belong to the chord they were made for. */
const bare = (start: Ticks, chord: Chord | null): ChordSpan => ({ start, duration: 1, chord });

/** How a sheet is written. */
export interface Writing extends ChordWriting {
  /** True where numbers are degrees wherever they can be: `b7` is the chord on the lowered seventh, and no B7. */
  readonly degrees?: boolean;
}

/** A chord as it is typed or written: by its name, or as a degree of the key. */
export function writtenSpan(text: string, at: Ticks, key: Key, writing: Writing = {}): ChordSpan {
  const asDegree = (): Chord | null => readRoman(text, key) ?? readDegree(text, key);
  // No note name begins with a sign.
  const first = writing.degrees || /^[♭♯#]/u.test(text) ? asDegree() : null;
  if (first) return bare(at, first);
  const reading = readChord(text, writing);
  if (reading.ok) return bare(at, reading.chord ? spellChord(reading.chord, key) : null);
  const degree = asDegree();
  if (degree) return bare(at, degree);
  return { start: at, duration: 1, chord: null, unread: shortened(text, LONGEST_UNREAD) };
}

/** What typing means for the sheet it happens on. */
export interface Typing {
  readonly key: Key;
  readonly metre: Metre;
  /** The section's length, in ticks. */
  readonly length: Ticks;
  /** How notes are named. */
  readonly writing?: Writing;
}

/** Why some of what is typed cannot be read, by the first word of it; null where all can be. */
export function typedProblem(
  text: string,
  { key, metre, writing }: Typing,
): Extract<ChordReading, { readonly ok: false }> | null {
  if (text.trim() === '' || readChord(text, writing).ok) return null;
  const words = writtenBars(text, beatsOf(metre).length).flat();
  const word = words.find(
    (each) => !isHold(each) && !isAgain(each) && writtenSpan(each, 0, key, writing).unread !== undefined,
  );
  const reading = word === undefined ? null : readChord(word, writing);
  if (!reading || reading.ok) return null;
  return words.length === 1 ? reading : { ...reading, nearest: [] };
}

/** Places for `count` chords in a bar from a beat on: on the beats as evenly as they allow, else between them. */
export function placesFor(count: number, from: Ticks, to: Ticks, metre: Metre): Ticks[] {
  const bar = barTicks(metre);
  const beats = beatsOf(metre).map(({ at }) => at);
  const line = Math.floor(from / bar) * bar;
  const open = beats.map((at) => line + at).filter((at) => at >= from && at < to);
  if (count === 2 && open.length === beats.length) {
    const strong = beatsOf(metre).find(({ role }) => role === 'strong') ?? beatsOf(metre).at(-1);
    return [from, line + (strong?.at ?? 0)];
  }
  if (count <= open.length)
    return Array.from({ length: count }, (_, index) => open[Math.floor((index * open.length) / count)] as Ticks);
  return Array.from({ length: count }, (_, index) => from + Math.round(((to - from) * index) / count));
}

/**
 * Types into a chord line as on paper. One chord stands from its beat to the next one; several, parted by spaces, share
 * the bar; `|` goes on to the next bar; `/` and `-` let the one before sound on; `%` says the bar before again; `|: :|`,
 * endings and `x4` repeat. Empty text takes the chord at that place away. What cannot be read stays, marked, as typed.
 *
 * @param at  a place in ticks from the section's start
 */
export function typeChords(chords: Chords, at: Ticks, text: string, typing: Typing): ChordSpan[] {
  const { key, metre, length, writing } = typing;
  const trimmed = text.trim();
  const others = chords.filter(({ start }) => start !== at);
  if (trimmed === '') return closeGaps(others, length);
  // “N. C.” and “no chord” are one chord, whatever their spaces.
  const one = /^(?:n\.?\s*c\.?|no\s+chord)$/iu.test(trimmed);
  const bars = one ? [['N.C.']] : writtenBars(trimmed, beatsOf(metre).length);
  const [word] = bars.flat();
  if (bars.length === 1 && bars[0]?.length === 1 && word !== undefined && !isAgain(word))
    return closeGaps([...others, writtenSpan(word, at, key, writing)], length);
  const bar = barTicks(metre);
  const typed = bars.reduce((now, words, index) => {
    const from = index === 0 ? at : (Math.floor(at / bar) + index) * bar;
    if (from >= length || words.length === 0) return now;
    return typeBar(now, from, words, typing);
  }, chords);
  return closeGaps(typed, length);
}

/** One bar, or what is left of it from a place on, with these words in it. */
function typeBar(chords: Chords, from: Ticks, words: WrittenBar, { key, metre, writing }: Typing): Chords {
  const bar = barTicks(metre);
  const line = Math.floor(from / bar) * bar;
  const kept = chords.filter(({ start }) => start < from || start >= line + bar);
  if (words.every(isAgain)) return [...kept, ...saidAgain(chords, line, bar)];
  const places = placesFor(words.length, from, line + bar, metre);
  return [
    ...kept,
    ...words.flatMap((word, place) => (isHold(word) ? [] : [writtenSpan(word, places[place] as Ticks, key, writing)])),
  ];
}

/** The chords of the bar before a bar line, once more. */
function saidAgain(chords: Chords, line: Ticks, bar: Ticks): Chords {
  const before = chords
    .filter(({ start }) => start >= line - bar && start < line)
    .map((span) => ({ ...span, start: span.start + bar }));
  if (before[0]?.start === line) return before;
  const carried = chords.findLast(({ start }) => start < line);
  return carried ? [{ ...carried, start: line }, ...before] : before;
}
