import { byStart, endsApart } from '../song/note-ends';
import type { Note, TakeNote } from '../song/schema';
import { clamp, type MidiNote, type Ticks } from '../theory/units';

/**
 * What shaping works on: the notes of a take, and which of them are meant, by their ids. Every edit gives notes in order,
 * each inside its room, and none that overlaps the next on its pitch.
 */
export type Notes = readonly TakeNote[];
export type Ids = ReadonlySet<number>;

/** Where notes may lie: a section with its pick-up, and what the instrument plays. */
export interface Room {
  /** The earliest start, in ticks from the section's first bar; negative for a pick-up. */
  readonly from: Ticks;
  /** The section's end; nothing starts there or later. */
  readonly to: Ticks;
  /** The lowest and the highest MIDI note number. */
  readonly low: MidiNote;
  readonly high: MidiNote;
}

/** As long as a note may ring beyond the end of its section, in ticks. */
export const longestRing = ({ from }: Room): Ticks => Math.max(1, -from);

/** The shortest note that a hand makes, in ticks: a 64th. */
export const SHORTEST: Ticks = 30;

/**
 * Notes in order after some of them were touched. Those end where the room's ring ends at the latest. Where a note begins,
 * what sounds on its pitch ends; of two that begin together on one pitch the touched one stays.
 */
export const settled = (notes: Notes, touched: Ids, room: Room): Notes => {
  const latest = room.to + longestRing(room);
  const kept = notes.map((note) =>
    touched.has(note.id) && endOf(note) > latest ? { ...note, duration: latest - note.start } : note,
  );
  return endsApart(kept.sort(byStart), (before, after) =>
    touched.has(after.id) || !touched.has(before.id) ? after : before,
  );
};

/** Applies a change to the notes that are meant; all others stay. */
export const changed = (notes: Notes, ids: Ids, change: (note: TakeNote) => TakeNote): Notes =>
  notes.map((note) => (ids.has(note.id) ? change(note) : note));

export const meant = (notes: Notes, ids: Ids): Notes => notes.filter(({ id }) => ids.has(id));

export const endOf = ({ start, duration }: Pick<Note, 'start' | 'duration'>): Ticks => start + duration;

/** How far notes may move together before the first of them leaves the room: the wish, or what is left of it. */
export function movable(
  notes: Notes,
  ticks: Ticks,
  semitones: number,
  room: Room,
): { ticks: Ticks; semitones: number } {
  if (notes.length === 0) return { ticks: 0, semitones: 0 };
  const starts = notes.map(({ start }) => start);
  const pitches = notes.map(({ pitch }) => pitch);
  const within = (wish: number, low: number, high: number): number => clamp(wish, Math.min(0, low), Math.max(0, high));
  return {
    ticks: within(ticks, room.from - Math.min(...starts), room.to - 1 - Math.max(...starts)),
    semitones: within(semitones, room.low - Math.min(...pitches), room.high - Math.max(...pitches)),
  };
}

/** The next id that no note has. */
export const freeId = (notes: Notes): number => notes.reduce((most, { id }) => Math.max(most, id + 1), 0);
