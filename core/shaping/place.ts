import { rested, type Stretch } from '../song/bar-edit';
import { begunLater } from '../song/curve';
import type { Note } from '../song/schema';
import { inMask } from '../theory/pitch';
import { keyMask, type Key } from '../theory/key';
import { clamp, type Ticks } from '../theory/units';
import {
  changed,
  endOf,
  freeId,
  longestRing,
  meant,
  movable,
  settled,
  SHORTEST,
  type Ids,
  type Notes,
  type Room,
} from './room';

/** Where notes lie: they are added, moved, stretched, cut and joined. */

/** Notes, and the ids of those that an edit made or touched, which stay picked. */
export interface Edited {
  readonly notes: Notes;
  readonly picked: Ids;
}

/** Puts a note in; where one begins on its pitch already, it takes its place. */
export function added(notes: Notes, note: Note, room: Room): Edited {
  const id = freeId(notes);
  const start = clamp(note.start, room.from, room.to - 1);
  const own = {
    ...note,
    id,
    start,
    pitch: clamp(note.pitch, room.low, room.high),
    duration: clamp(note.duration, 1, room.to + longestRing(room) - start),
  };
  const picked = new Set([id]);
  return { notes: settled([...notes, own], picked, room), picked };
}

export const removed = (notes: Notes, ids: Ids): Notes => notes.filter(({ id }) => !ids.has(id));

/** Moves notes together, as far as all of them stay in the room. */
export function moved(
  notes: Notes,
  ids: Ids,
  by: { readonly ticks: Ticks; readonly semitones: number },
  room: Room,
): Notes {
  const { ticks, semitones } = movable(meant(notes, ids), by.ticks, by.semitones, room);
  if (ticks === 0 && semitones === 0) return notes;
  return settled(
    changed(notes, ids, (note) => ({ ...note, start: note.start + ticks, pitch: note.pitch + semitones })),
    ids,
    room,
  );
}

/** The note of a key that lies some steps of its scale above or below; one outside the scale keeps its distance. */
function stepped(pitch: number, steps: number, key: Key): number {
  const mask = keyMask(key);
  let root = pitch;
  while (!inMask(mask, root)) root--;
  const off = pitch - root;
  const direction = Math.sign(steps);
  for (let left = Math.abs(steps); left > 0; left--)
    do root += direction;
    while (!inMask(mask, root));
  return root + off;
}

/** Moves notes by steps of a scale; all stay where one of them would leave the room. */
export function movedByDegrees(notes: Notes, ids: Ids, steps: number, key: Key, room: Room): Notes {
  const wanted = changed(notes, ids, (note) => ({ ...note, pitch: stepped(note.pitch, steps, key) }));
  const fits = meant(wanted, ids).every(({ pitch }) => pitch >= room.low && pitch <= room.high);
  return fits ? settled(wanted, ids, room) : notes;
}

/** Copies notes to another place; the copies stay picked. */
export function copiedTo(
  notes: Notes,
  ids: Ids,
  by: { readonly ticks: Ticks; readonly semitones: number },
  room: Room,
): Edited {
  const first = freeId(notes);
  const copies = meant(notes, ids).map((note, index) => ({ ...note, id: first + index }));
  const picked = new Set(copies.map(({ id }) => id));
  const { ticks, semitones } = movable(copies, by.ticks, by.semitones, room);
  if (ticks === 0 && semitones === 0) return { notes, picked: ids };
  return { notes: moved([...notes, ...copies], picked, { ticks, semitones }, room), picked };
}

/** Makes notes longer or shorter at their ends; none gets shorter than a 64th, or longer than a section may ring. */
export const endsMoved = (notes: Notes, ids: Ids, by: Ticks, room: Room): Notes =>
  settled(
    changed(notes, ids, (note) => {
      const shortest = Math.min(SHORTEST, note.duration);
      const longest = room.to + longestRing(room) - note.start;
      return { ...note, duration: clamp(note.duration + by, shortest, Math.max(shortest, longest)) };
    }),
    ids,
    room,
  );

/** Moves where notes begin; they end where they did. */
export const startsMoved = (notes: Notes, ids: Ids, by: Ticks, room: Room): Notes =>
  settled(
    changed(notes, ids, (note) => {
      const latest = Math.min(room.to - 1, endOf(note) - Math.min(SHORTEST, note.duration));
      const start = clamp(note.start + by, Math.min(room.from, note.start), Math.max(note.start, latest));
      return start > note.start
        ? begunLater(note, start - note.start)
        : { ...note, start, duration: endOf(note) - start };
    }),
    ids,
    room,
  );

/**
 * Cuts notes in two.
 *
 * @param at  where, in ticks; each in its middle where nothing is said. What does not sound there, or begins
 *   in the next section then, stays whole
 */
export function split(notes: Notes, ids: Ids, room: Room, at?: Ticks): Edited {
  let next = freeId(notes);
  const picked = new Set<number>();
  const cut = notes.flatMap((note) => {
    if (!ids.has(note.id)) return [note];
    picked.add(note.id);
    const place = at ?? note.start + Math.ceil(note.duration / 2);
    if (place <= note.start || place >= Math.min(endOf(note), room.to)) return [note];
    const second = { ...begunLater(note, place - note.start), id: next++ };
    picked.add(second.id);
    return [{ ...note, duration: place - note.start }, second];
  });
  return { notes: settled(cut, picked, room), picked };
}

/**
 * Joins notes of one pitch, each with the next, into one that lasts from the first to the end of the last; notes of other
 * pitches that are meant as well stay.
 */
export function joined(notes: Notes, ids: Ids, room: Room): Edited {
  const gone = new Set<number>();
  const longer = new Map<number, Ticks>();
  for (const pitch of new Set(meant(notes, ids).map((note) => note.pitch))) {
    const [first, ...rest] = meant(notes, ids).filter((note) => note.pitch === pitch);
    if (!first || rest.length === 0) continue;
    longer.set(first.id, Math.max(...[first, ...rest].map(endOf)) - first.start);
    const end = first.start + (longer.get(first.id) ?? 0);
    // What lies between them on their pitch goes into them.
    for (const note of notes)
      if (note.pitch === pitch && note.id !== first.id && note.start >= first.start && note.start < end)
        gone.add(note.id);
  }
  if (gone.size === 0) return { notes, picked: ids };
  const left = removed(notes, gone).map((note) => ({ ...note, duration: longer.get(note.id) ?? note.duration }));
  const picked = new Set([...ids].filter((id) => !gone.has(id)));
  return { notes: settled(left, picked, room), picked };
}

/**
 * Notes with a stretch of another take in their place: what begins in it goes, what rang into it ends there.
 *
 * @param other  the other take's notes
 */
export function spliced(notes: Notes, other: Notes, stretch: Stretch, room: Room): Edited {
  const kept = rested(notes, stretch);
  const first = freeId(notes);
  const own = other
    .filter(({ start }) => start >= stretch.from && start < stretch.to)
    .map((note, index) => ({ ...note, id: first + index }));
  const picked = new Set(own.map(({ id }) => id));
  return { notes: settled([...kept, ...own], picked, room), picked };
}
