import { settled, type Notes, type Room } from '../shaping/room';
import { pasteChords } from '../song/chord-edit';
import type { ChordSpan, Curve, OccurrenceId, SectionId } from '../song/schema';
import { withNoteIds } from '../song/take';
import { chordFinder } from '../study/chord-finder';
import { inferChords } from '../study/infer/chords';
import { strikesOf } from '../study/infer/struck';
import { sameChord, type Chord } from '../theory/chord';
import type { Key } from '../theory/key';
import type { Metre } from '../theory/metre';
import { clamp, type MidiNote, type Percent, type Ticks, type Velocity } from '../theory/units';
import { curvesOf, type LiveMoment, type PlayedNote } from './capture';

/** A note struck so much before a line is meant for it, in ticks: half a sixteenth. */
export const EARLY: Ticks = 60;

/** A note of a round, in ticks from the section's start. */
export interface RoundNote {
  readonly start: Ticks;
  readonly duration: Ticks;
  readonly pitch: MidiNote;
  readonly velocity: Velocity;
  readonly chord: Chord | null;
  /** What was done to it by hand while it sounded. */
  readonly curves?: Readonly<Partial<Record<'bend' | 'vibrato', Curve>>>;
}

/** What was played in one round of a section. */
export interface Round {
  readonly section: SectionId;
  readonly occurrence: OccurrenceId;
  readonly round: number;
  readonly notes: readonly RoundNote[];
}

/** A note with the place where it was played and how long it lasted. */
export interface PlacedNote extends PlayedNote {
  readonly moment: LiveMoment;
  readonly duration: Ticks;
  readonly curves?: RoundNote['curves'];
}

/** What was played, round by round in the order in which they were begun. */
export function roundsOf(notes: readonly PlacedNote[]): readonly Round[] {
  const rounds = new Map<string, { -readonly [K in keyof Round]: Round[K] } & { notes: RoundNote[] }>();
  for (const { moment, duration, pitch, velocity, chord, curves = {} } of notes) {
    const { section, occurrence, round, at } = moment;
    const name = `${occurrence} ${round}`;
    const own = rounds.get(name) ?? { section, occurrence, round, notes: [] };
    rounds.set(name, own);
    own.notes.push({ start: at, duration: Math.max(1, duration), pitch, velocity, chord, curves });
  }
  return [...rounds.values()];
}

/** How the hand is written down. */
export interface Writing {
  /** The grid, in ticks. */
  readonly step: Ticks;
  /** How far notes are drawn to it, in %; what is left stays with each as its own deviation. */
  readonly strength: Percent;
  /** Where a written moment sounds, in swung music. */
  readonly sounds?: (at: Ticks) => Ticks;
}

/** How far a note may sound from where it is written, in ticks. */
const WIDEST_NUDGE: Ticks = 480;

/** The line of the grid that sounds nearest to a moment. */
function meantFor(at: Ticks, { step, sounds = (line) => line }: Writing, { from, to }: Room): Ticks {
  const below = Math.floor(at / step) * step;
  const lines = [below - step, below, below + step, below + 2 * step].filter((line) => line >= from && line < to);
  const off = (line: Ticks): number => Math.abs(sounds(line) - at);
  return lines.reduce((best, line) => (off(line) < off(best) ? line : best), lines[0] ?? from);
}

/**
 * Notes as a round is written: each on the line of the grid that it was meant for, and how far it sounds from there kept
 * with it as its deviation, so that it can be drawn closer later. None lies over the next on its pitch.
 *
 * @param room  the stretch that was recorded, and what the player reaches
 */
export function writtenRound(notes: readonly RoundNote[], writing: Writing, room: Room): Notes {
  const { strength, sounds = (line: Ticks): Ticks => line } = writing;
  const written = notes
    .filter(({ start }) => start >= room.from - EARLY && start < room.to)
    .map(({ start: at, duration, pitch, velocity, curves = {} }) => {
      const start = meantFor(at, writing, room);
      const kept = Math.round((at - sounds(start)) * (1 - strength / 100));
      const nudge = clamp(kept, -WIDEST_NUDGE, WIDEST_NUDGE);
      return { start, duration, pitch, velocity, ...curves, ...(nudge === 0 ? {} : { nudge }) };
    });
  const numbered = withNoteIds(written);
  return settled(numbered, new Set(numbered.map(({ id }) => id)), room);
}

/** Chords are heard to change on lines this far apart, in ticks: eighths. */
const CHORD_STEP: Ticks = 240;

/**
 * The same notes with the chords that they make, where they were struck as they are and no hand chose a chord.
 *
 * @param length  of the section, in ticks
 */
export function withChordsHeard(
  notes: readonly RoundNote[],
  key: Key,
  metre: Metre,
  length: Ticks,
): readonly RoundNote[] {
  const bare = notes.filter(({ chord }) => chord === null).sort((a, b) => a.start - b.start);
  if (bare.length === 0) return notes;
  // What is struck together is meant for one line, even where that lies between two.
  const lines = new Map(
    strikesOf(bare).flatMap((strike) => {
      const line = Math.max(0, Math.round(strike[0].start / CHORD_STEP) * CHORD_STEP);
      return strike.map((note) => [note, line] as const);
    }),
  );
  const onLines = bare.map((note) => ({ ...note, start: lines.get(note) ?? note.start }));
  const chordAt = chordFinder(inferChords(onLines, key, metre, length));
  return notes.map((note) => (note.chord ? note : { ...note, chord: chordAt(lines.get(note) ?? note.start) }));
}

/**
 * The chords of a round as they were struck, over what was there before: from the first that was played to the end of
 * what was recorded.
 *
 * @param before   the section's chords until now
 * @param stretch  what was recorded, in ticks from the section's start
 * @param length   of the section, in ticks
 */
export function chordsPlayed(
  notes: readonly RoundNote[],
  before: readonly ChordSpan[],
  stretch: { readonly from: Ticks; readonly to: Ticks },
  length: Ticks,
): readonly ChordSpan[] {
  const struck: { at: Ticks; chord: Chord }[] = [];
  const to = Math.min(length, Math.ceil(stretch.to / CHORD_STEP) * CHORD_STEP);
  for (const { start, chord } of [...notes].sort((a, b) => a.start - b.start)) {
    if (!chord) continue;
    const at = Math.max(stretch.from, Math.round(start / CHORD_STEP) * CHORD_STEP);
    const last = struck.at(-1);
    if (at >= to || (last && sameChord(last.chord, chord))) continue;
    // Of two on one line, the later is meant.
    if (last?.at === at) struck.pop();
    struck.push({ at, chord });
  }
  const [first] = struck;
  if (!first) return before;
  const clip = struck.map(({ at, chord }, index): ChordSpan => ({
    start: at - first.at,
    duration: (struck[index + 1]?.at ?? to) - at,
    chord,
  }));
  return pasteChords(before, first.at, clip, length);
}

/**
 * Notes that were played freely, put into rounds of a section one after the other.
 *
 * @param ticksAt  the place of a moment, in ticks from the first beat
 */
export function freelyPlaced(
  notes: readonly (PlayedNote & { readonly to: number })[],
  ticksAt: (seconds: number) => Ticks,
  {
    section,
    occurrence,
    length,
  }: { readonly section: SectionId; readonly occurrence: OccurrenceId; readonly length: Ticks },
): readonly PlacedNote[] {
  return notes.map((note) => {
    const start = Math.max(0, ticksAt(note.from));
    // A stroke a little before the line belongs to the round that it begins.
    const round = Math.floor((start + EARLY) / length);
    return {
      ...note,
      moment: { section, occurrence, round, at: start - round * length },
      duration: Math.max(1, ticksAt(note.to) - start),
      curves: curvesOf(note, (seconds) => ticksAt(seconds) - start),
    };
  });
}
