import { closeGaps } from '../../song/chord-edit';
import { placesFor, writtenSpan, type Writing } from '../../song/chord-typing';
import { LIMITS, shortened } from '../../song/limits';
import type { ChordSpan } from '../../song/schema';
import { isAgain, isHold, writtenBars, type WrittenBar } from '../../song/written-bars';
import { inferKeys, type PlainNote } from '../../study/infer/key';
import type { Key } from '../../theory/key';
import { barTicks, beatsOf, METRES, readMetre, type Metre } from '../../theory/metre';
import { chordNotes } from '../../theory/chord';
import { pitchClassOf } from '../../theory/pitch';
import type { Ticks } from '../../theory/units';
import { chartLines, type ChartLine } from './chart-lines';

/** A chord chart as people write it: headings, bars of chords, words between them, and what holds for all of it. */

/** A stretch of a chart that becomes a section. */
export interface ChartSection {
  readonly name: string;
  readonly bars: number;
  readonly chords: readonly ChordSpan[];
}

export interface Chart {
  /** What it is called; empty where it does not say. */
  readonly title: string;
  readonly key: Key;
  /** True where the chart says its key; else it was judged by its chords. */
  readonly keyStated: boolean;
  /** Quarter notes a minute; null where it does not say. */
  readonly tempo: number | null;
  readonly metre: Metre;
  readonly sections: readonly ChartSection[];
  /** Sections in the order in which they are played, by their place in the list. */
  readonly order: readonly number[];
  /** What could not be read, and what was left out, in words. */
  readonly remarks: readonly string[];
}

export type ChartReading =
  | { readonly ok: true; readonly chart: Chart }
  | { readonly ok: false; readonly reason: string };

/** A heading, with the bars that stand under it, and how often they are played. */
interface Block {
  readonly name: string;
  readonly times: number;
  readonly bars: WrittenBar[];
}

/** Longer texts are no charts. */
const LONGEST = 50_000;

/** A line of chords with its bar lines: where it has none, strokes count its beats, else each chord is a bar. */
function withBarLines(line: string, beats: number): string {
  if (/[|‖]/u.test(line)) return line;
  const bars = writtenBars(line, beats);
  const words = bars.flat();
  return words.some(isHold) ? bars.map((bar) => bar.join(' ')).join(' | ') : words.join(' | ');
}

/** Two lines, one after the other: where they meet at a bar line, they share it. */
function joinedLines(text: string, next: string): string {
  if (text === '') return next;
  const ends = /[|‖]\s*$/u.test(text);
  if (!ends && !/^[:|‖]/u.test(next)) return `${text} | ${next}`;
  return `${text} ${ends ? next.replace(/^[|‖](?![:|‖])/u, '') : next}`;
}

function blocksOf(lines: readonly ChartLine[], beats: number): Block[] {
  const blocks: Block[] = [];
  let text = '';
  const finish = (): void => {
    if (text !== '') blocks.at(-1)?.bars.push(...writtenBars(text, beats));
    text = '';
  };
  for (const line of lines) {
    if (line.kind === 'heading') {
      finish();
      blocks.push({ name: line.name, times: line.times, bars: [] });
    } else {
      if (blocks.length === 0) blocks.push({ name: '', times: 1, bars: [] });
      text = joinedLines(text, withBarLines(line.text, beats));
    }
  }
  finish();
  return blocks;
}

/** The chords of bars; empty ones and those that only hold let the chord before sound on. */
function spansOf(bars: readonly WrittenBar[], key: Key, metre: Metre, writing: Writing): ChordSpan[] {
  const bar = barTicks(metre);
  const length = bars.length * bar;
  const spans = bars.flatMap((words, index) => {
    const line: Ticks = index * bar;
    const places = placesFor(words.length, line, line + bar, metre);
    return words.flatMap((word, place) =>
      isHold(word) || isAgain(word) ? [] : [writtenSpan(word, places[place] as Ticks, key, writing)],
    );
  });
  const first = spans[0]?.start === 0 || spans.length === 0 ? [] : [{ start: 0, duration: 1, chord: null }];
  return closeGaps([...first, ...spans], length);
}

/** A key that the chords may be in, judged by their notes. */
function keyOfChords(sections: readonly (readonly ChordSpan[])[]): Key {
  const notes: PlainNote[] = [];
  let at = 0;
  for (const { chord, duration } of sections.flat()) {
    if (chord)
      for (const note of chordNotes(chord)) notes.push({ start: at, duration, pitch: 60 + pitchClassOf(note) });
    at += duration;
  }
  const roots = sections.flat().flatMap(({ chord }) => (chord ? [pitchClassOf(chord.root)] : []));
  return (
    inferKeys(notes, { first: roots[0] ?? null, last: roots.at(-1) ?? null })[0]?.key ?? { tonic: 0, scale: 'major' }
  );
}

const isDegree = (word: string): boolean => /^(?:[b#♭♯]?[1-7](?![a-z]?\/?\d{2})|[b#♭♯]*[IViv]+)/u.test(word);

/** Numbers or numerals for chords, where most of them are such. */
function areDegrees(blocks: readonly Block[]): boolean {
  const words = blocks.flatMap(({ bars }) => bars.flat()).filter((word) => !isHold(word) && !isAgain(word));
  return words.filter(isDegree).length * 2 > words.length;
}

/** Bars cut to stretches that a section can hold. */
function inSections(bars: readonly WrittenBar[]): readonly (readonly WrittenBar[])[] {
  const count = Math.ceil(bars.length / LIMITS.bars);
  return Array.from({ length: count }, (_, index) => bars.slice(index * LIMITS.bars, (index + 1) * LIMITS.bars));
}

interface Laid {
  readonly name: string;
  readonly bars: readonly WrittenBar[];
}

/** Sections of one name and one content are one; a name alone says the section of that name again. */
function laidOut(blocks: readonly Block[]): { readonly sections: readonly Laid[]; readonly order: readonly number[] } {
  const sections: Laid[] = [];
  const order: number[] = [];
  /** The places of the block of each name that was written out last. */
  const named = new Map<string, readonly number[]>();
  for (const { name, times, bars } of blocks) {
    const places =
      bars.length === 0
        ? (named.get(name.toLowerCase()) ?? [])
        : inSections(bars).map((some) => {
            const content = JSON.stringify(some);
            const known = sections.findIndex(
              (section) => (section.name === name || name === '') && JSON.stringify(section.bars) === content,
            );
            return known >= 0 ? known : sections.push({ name, bars: some }) - 1;
          });
    named.set(name.toLowerCase(), places);
    for (let time = 0; time < times; time++) order.push(...places);
  }
  return { sections, order };
}

/** What a chart says that a song has no room for, or that nobody could read. */
function remarksOn(sections: readonly ChartSection[], left: readonly string[], places: number): string[] {
  const unread = sections.flatMap(({ chords, name }) =>
    chords.flatMap((span) => (span.unread === undefined ? [] : [`“${span.unread}”${name ? ` in ${name}` : ''}`])),
  );
  const some = unread.slice(0, 5).join(', ') + (unread.length > 5 ? ` and ${unread.length - 5} more` : '');
  const stay = unread.length === 1 ? 'it stays in its place' : 'they stay in their places';
  const jumps = left.slice(0, 3).map((text) => `“${text}”`);
  return [
    ...(unread.length > 0 ? [`${some} could not be read: ${stay}, marked, to be typed anew.`] : []),
    ...(left.length > 0 ? [`Not followed: ${jumps.join(', ')}.`] : []),
    ...(places > LIMITS.places
      ? [`It plays ${places} sections one after the other; a song holds ${LIMITS.places}, and the rest was left out.`]
      : []),
  ];
}

/**
 * Reads a chord chart.
 *
 * @param writing  how its notes are named
 * @param wished   the key that the writer gave it; null where it is what the chart says, or sounds like
 * @returns its sections and what holds for all of it, or in plain words why it is no chart
 */
export function readChart(text: string, writing: Writing = {}, wished: Key | null = null): ChartReading {
  if (text.length > LONGEST)
    return { ok: false, reason: 'This text is far longer than a chord chart. Take one song at a time.' };
  const { lines, title, key: stated, tempo, metre: said, left } = chartLines(text, writing);
  const metre = (said === null ? null : readMetre(said)) ?? (METRES[2] as Metre);
  const blocks = blocksOf(lines, beatsOf(metre).length);
  const { sections: laid, order } = laidOut(blocks);
  if (laid.length === 0)
    return {
      ok: false,
      reason: 'No chords were found. Write them as on paper: bars parted by |, such as “C / G / | Am F |”.',
    };
  if (laid.length > LIMITS.sections)
    return {
      ok: false,
      reason: `This chart has ${laid.length} sections; a song holds ${LIMITS.sections}. Take less of it.`,
    };
  const how: Writing = { ...writing, degrees: areDegrees(blocks) };
  const inKey = (key: Key) => laid.map(({ bars }) => spansOf(bars, key, metre, how));
  const key =
    wished ?? stated ?? (how.degrees ? { tonic: 0, scale: 'major' } : keyOfChords(inKey({ tonic: 0, scale: 'major' })));
  const spans = inKey(key);
  const sections = laid.map(({ name, bars }, index): ChartSection => ({
    name: shortened(name, LIMITS.name),
    bars: bars.length,
    chords: spans[index] ?? [],
  }));
  return {
    ok: true,
    chart: {
      title: shortened(title, LIMITS.title),
      key,
      keyStated: stated !== null,
      tempo,
      metre,
      sections,
      order: order.slice(0, LIMITS.places),
      remarks: remarksOn(sections, left, order.length),
    },
  };
}
