import { keyOf } from '../song/ground';
import { chordsIn, type Music } from '../song/resolve';
import type { ChordSpan, Part, PartId, Score } from '../song/schema';
import { nameApart } from '../song/version-words';
import { songCourse, type Course, type Passage } from '../sounding/course';
import { perform } from '../sounding/performance';
import { transposeChord, type Chord } from '../theory/chord';
import { isSameKey, type Key } from '../theory/key';
import { barTicks, metreText, type Metre } from '../theory/metre';
import { spellSemitones, type Fifths } from '../theory/pitch';
import { modulo, type MidiNote, type Ticks } from '../theory/units';
import { spelledNote } from './spelled-line';
import { writtenLine, type SoundingNote, type WrittenEvent } from './written-line';

/** A song as a lead sheet: one line with chord symbols over it, bar by bar as it is printed, repeats folded. */

export interface SheetEvent extends WrittenEvent {
  /** How each pitch is spelled, in the order of the pitches. */
  readonly spelled: readonly Fifths[];
}

export interface SheetBar {
  /** What is printed before it, where it differs from the bar before. */
  readonly metre: Metre | null;
  readonly key: Key | null;
  /** Quarter notes a minute. */
  readonly tempo: number | null;
  readonly heading: string | null;
  /** From the bar line. */
  readonly events: readonly SheetEvent[];
  readonly chords: readonly { readonly at: Ticks; readonly chord: Chord | null }[];
  /** True of what leads into the first bar and is none itself. */
  readonly pickUp: boolean;
  readonly opens: boolean;
  /** How often the bars since the repeat opened are played; 0 where none closes here. */
  readonly plays: number;
  /** The times for which it is played, where the bar belongs to an ending. */
  readonly ending: 1 | 2 | null;
  /** Where an ending's bracket begins and ends. */
  readonly bracket: 'start' | 'stop' | 'both' | null;
}

export interface LeadSheet {
  readonly title: string;
  readonly part: string;
  /** The clef in which the line stands with fewest lines beside the staff. */
  readonly clef: 'treble' | 'bass';
  readonly bars: readonly SheetBar[];
}

/** A bar before repeats are folded, with all that holds in it. */
interface PlainBar {
  readonly metre: Metre;
  readonly key: Key;
  readonly tempo: number;
  readonly heading: string | null;
  readonly events: readonly SheetEvent[];
  readonly chords: SheetBar['chords'];
  readonly pickUp: boolean;
}

/** Straight and without what hands add: swing and feel are how a sheet is played. */
function straight(score: Score): Score {
  return {
    ...score,
    ground: { ...score.ground, feel: 0, swing: 0 },
    parts: score.parts.map((part) => ({ ...part, brief: { ...part.brief, humanise: 0 } })),
  };
}

function notesOf(music: Music, course: Course, part: PartId): readonly SoundingNote[] {
  const { events } = perform({
    music: { ...music, score: straight(music.score) },
    course,
    only: (line) => line === part,
  });
  return events
    .filter((event) => event.kind === 'note')
    .filter(({ voice }) => voice === part)
    .map(({ at, end, pitch }) => ({ start: at, duration: Math.max(1, end - at), pitch }))
    .sort((a, b) => a.start - b.start || a.pitch - b.pitch);
}

/** The chords of a passage as they sound there. */
function chordsOf(music: Music, { section, place }: Passage): readonly ChordSpan[] {
  const lift = place?.lift ?? 0;
  return chordsIn(section, music.takes, music.heard).map((span) =>
    span.chord && lift !== 0 ? { ...span, chord: transposeChord(span.chord, spellSemitones(lift)) } : span,
  );
}

function barsOfPassage(music: Music, passage: Passage, notes: readonly SoundingNote[], first: boolean): PlainBar[] {
  const { section, ground, start, length } = passage;
  const { metre, tempo } = ground;
  const key = keyOf(ground);
  const bar = barTicks(metre);
  const chords = chordsOf(music, passage);
  const inside = notes
    .filter((note) => (first || note.start >= start) && note.start < start + length)
    .map((note) => ({ ...note, start: note.start - start }));
  const line = writtenLine(inside, metre, length);
  const events = line.map((event, index): SheetEvent => {
    const chord = chords.findLast((span) => span.start <= event.start)?.chord ?? null;
    const next = line.slice(index + 1).find(({ pitches, tied }) => pitches.length > 0 && !tied)?.pitches[0] ?? null;
    return { ...event, spelled: event.pitches.map((pitch) => spelledNote({ pitch, chord, key, next })) };
  });
  const barAt = (index: number): PlainBar => ({
    metre,
    key,
    tempo,
    heading: index === 0 ? nameApart(music, section) : null,
    events: events
      .filter((event) => Math.floor(event.start / bar) === index)
      .map((event) => ({ ...event, start: modulo(event.start, bar) })),
    chords: chords
      .filter((span) => Math.floor(span.start / bar) === index && span.unread === undefined)
      .map((span) => ({ at: modulo(span.start, bar), chord: span.chord })),
    pickUp: index < 0,
  });
  const leads = (events[0]?.start ?? 0) < 0;
  return Array.from({ length: section.bars + (leads ? 1 : 0) }, (_, index) => barAt(leads ? index - 1 : index));
}

type Folded = PlainBar & Pick<SheetBar, 'opens' | 'plays' | 'ending' | 'bracket'>;

const plainly = (bar: PlainBar): Folded => ({ ...bar, opens: false, plays: 0, ending: null, bracket: null });

/** Bars that are the same print the same. */
const printOf = (bar: PlainBar): string => JSON.stringify({ ...bar, metre: metreText(bar.metre) });

/** Sections that come again, as many in a row as come together. */
interface Again {
  readonly sections: number;
  readonly plays: number;
  /** Bars at the end of the group that are otherwise the second time; 0 where nothing is. */
  readonly tail: number;
  readonly saved: number;
}

/** So many bars at the most make an ending. */
const LONGEST_ENDING = 4;

function sharedBars(a: readonly string[], b: readonly string[]): number {
  const differs = a.findIndex((bar, index) => bar !== b[index]);
  return differs < 0 ? a.length : differs;
}

/** The fold at a section that saves most bars; null where nothing comes again. */
function bestFold(prints: readonly (readonly string[])[], at: number): Again | null {
  let best: Again | null = null;
  for (let sections = 1; at + 2 * sections <= prints.length; sections++) {
    const group = (time: number): readonly string[] =>
      prints.slice(at + time * sections, at + (time + 1) * sections).flat();
    const first = group(0);
    let plays = 1;
    while (at + (plays + 1) * sections <= prints.length && group(plays).join() === first.join()) plays++;
    const second = group(1);
    const shared = sharedBars(first, second);
    const tail = first.length - shared;
    const lastOne = prints[at + sections - 1]?.length ?? 0;
    const ends = first.length === second.length && tail <= Math.min(LONGEST_ENDING, lastOne - 1) && tail > 0;
    const found: Again | null =
      plays > 1
        ? { sections, plays, tail: 0, saved: first.length * (plays - 1) }
        : ends && shared * 2 >= first.length
          ? { sections, plays: 2, tail, saved: shared }
          : null;
    if (found && found.saved > (best?.saved ?? 0)) best = found;
  }
  return best;
}

/** Bars of a group under one repeat, its endings bracketed. */
function foldedGroup(
  bars: readonly PlainBar[],
  second: readonly PlainBar[],
  { plays, tail }: Again,
): readonly Folded[] {
  const shared = bars.length - tail;
  const bracketAt = (index: number): SheetBar['bracket'] =>
    tail === 1 ? 'both' : index === shared ? 'start' : index === bars.length - 1 ? 'stop' : null;
  const firstTime = bars.map((bar, index): Folded => ({
    ...bar,
    opens: index === 0,
    plays: index === bars.length - 1 ? plays : 0,
    ending: index >= shared ? 1 : null,
    bracket: index >= shared ? bracketAt(index) : null,
  }));
  const secondTime = second
    .slice(shared)
    .map((bar, index): Folded => ({ ...plainly(bar), ending: 2, bracket: bracketAt(shared + index) }));
  return tail === 0 ? firstTime : [...firstTime, ...secondTime];
}

function folded(passages: readonly (readonly PlainBar[])[]): readonly Folded[] {
  // A pick-up stands before the repeat and is no part of what is compared.
  const bodies = passages.map((bars) => bars.filter(({ pickUp }) => !pickUp));
  const prints = bodies.map((bars) => bars.map(printOf));
  const result: Folded[] = (passages[0] ?? []).filter(({ pickUp }) => pickUp).map(plainly);
  for (let at = 0; at < bodies.length;) {
    const fold = bestFold(prints, at);
    if (!fold) {
      result.push(...(bodies[at] ?? []).map(plainly));
      at++;
      continue;
    }
    const group = (time: number): readonly PlainBar[] =>
      bodies.slice(at + time * fold.sections, at + (time + 1) * fold.sections).flat();
    result.push(...foldedGroup(group(0), group(1), fold));
    at += fold.sections * fold.plays;
  }
  return result;
}

/** Says metre, key and tempo where they change only. */
function changesOnly(bars: readonly Folded[]): readonly SheetBar[] {
  return bars.map((bar, index) => {
    const before = bars[index - 1];
    return {
      ...bar,
      metre: before && metreText(before.metre) === metreText(bar.metre) ? null : bar.metre,
      key: before && isSameKey(before.key, bar.key) ? null : bar.key,
      tempo: before?.tempo === bar.tempo ? null : bar.tempo,
    };
  });
}

/**
 * The lead sheet of a song: a part as it is written, with the chords that sound.
 *
 * @returns null where the song has no places or the part plays nothing in it
 */
export function leadSheet(music: Music, part: Part): LeadSheet | null {
  const course = songCourse(music.score);
  const notes = notesOf(music, course, part.id);
  if (course.length === 0 || notes.length === 0) return null;
  const passages = course.map((passage, index) => barsOfPassage(music, passage, notes, index === 0));
  const clef = clefFor(notes.map(({ pitch }) => pitch));
  return { title: music.score.title, part: part.name, clef, bars: changesOnly(folded(passages)) };
}

/** From this note up a line stands in the treble clef, by the middle of its notes. */
const TREBLE: MidiNote = 57;

function clefFor(pitches: readonly MidiNote[]): LeadSheet['clef'] {
  const inOrder = [...pitches].sort((a, b) => a - b);
  return (inOrder[Math.floor(inOrder.length / 2)] ?? TREBLE) < TREBLE ? 'bass' : 'treble';
}

/** What a sheet is written for where nobody says it: the first part that sings. */
export const usualLead = ({ parts }: Pick<Score, 'parts'>): Part | null =>
  parts.find(({ role, muted }) => role === 'melody' && !muted) ?? parts.find(({ role }) => role === 'melody') ?? null;
