import type { Note } from '@fendro/core/song/schema';
import { copiedTo, endsMoved, moved, startsMoved, type Edited } from '@fendro/core/shaping/place';
import { inBox } from '@fendro/core/shaping/pick';
import { endOf, type Ids, type Notes, type Room } from '@fendro/core/shaping/room';
import type { MidiNote, Ticks } from '@fendro/core/theory/units';

/** A place under the pointer. */
export interface Spot {
  readonly at: Ticks;
  readonly pitch: MidiNote;
}

/** What a press took hold of. */
export type Grip =
  | { readonly of: 'notes'; readonly part: 'body' | 'start' | 'end'; readonly note: number; readonly ids: Ids }
  | { readonly of: 'nothing'; readonly kept: Ids };

/** How a drag is meant: freely beside the grid, or as a copy. */
export interface Meaning {
  readonly copy: boolean;
  /** Ticks that things snap to; 0 lets them lie anywhere. */
  readonly snap: Ticks;
}

export const snapped = (at: Ticks, snap: Ticks): Ticks => (snap === 0 ? Math.round(at) : Math.round(at / snap) * snap);

/** Where a new note begins under the pointer: at the line of the grid before it. */
export const beginsAt = (at: Ticks, snap: Ticks): Ticks => (snap === 0 ? Math.round(at) : Math.floor(at / snap) * snap);

/** How far an edge of the note that was taken hold of goes, so that it lands on the grid. */
const way = (edge: Ticks, from: Spot, to: Spot, snap: Ticks): Ticks => snapped(edge + to.at - from.at, snap) - edge;

/**
 * What a drag makes of notes: they move, are copied, or get another beginning or end.
 *
 * @returns null where it picks instead
 */
export function dragged(notes: Notes, grip: Grip, from: Spot, to: Spot, meaning: Meaning, room: Room): Edited | null {
  if (grip.of === 'nothing') return null;
  const note = notes.find(({ id }) => id === grip.note);
  if (!note) return null;
  const { ids } = grip;
  if (grip.part === 'end')
    return { notes: endsMoved(notes, ids, way(endOf(note), from, to, meaning.snap), room), picked: ids };
  const ticks = way(note.start, from, to, meaning.snap);
  if (grip.part === 'start') return { notes: startsMoved(notes, ids, ticks, room), picked: ids };
  const by = { ticks, semitones: to.pitch - from.pitch };
  return meaning.copy ? copiedTo(notes, ids, by, room) : { notes: moved(notes, ids, by, room), picked: ids };
}

/** What a drag over empty space picks, beside what was picked before. */
export function boxed(notes: Notes, { kept }: Extract<Grip, { of: 'nothing' }>, from: Spot, to: Spot): Ids {
  const box = {
    from: Math.min(from.at, to.at),
    to: Math.max(from.at, to.at),
    low: Math.min(from.pitch, to.pitch),
    high: Math.max(from.pitch, to.pitch),
  };
  return new Set([...kept, ...inBox(notes, box)]);
}

/** What undo calls a drag. */
export function nameOf(grip: Extract<Grip, { of: 'notes' }>, copy: boolean): string {
  if (grip.part === 'end') return 'change where notes end';
  if (grip.part === 'start') return 'move where notes begin';
  return copy ? 'copy notes' : 'move notes';
}

/** Notes that a drag gave other pitches, which are sounded. */
export const repitched = (before: Notes, after: Notes): readonly Note[] => {
  const pitches = new Map(before.map(({ id, pitch }) => [id, pitch]));
  return after.filter(({ id, pitch }) => pitches.get(id) !== pitch);
};
