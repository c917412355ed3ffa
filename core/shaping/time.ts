import type { TakeNote } from '../song/schema';
import { clamp, type Percent, type Ticks } from '../theory/units';
import { changed, endOf, meant, settled, type Ids, type Notes, type Room } from './room';

/** When notes are struck and how long they last, by rule. */

const nearestOn = (at: Ticks, step: Ticks): Ticks => Math.round(at / step) * step;

/**
 * Draws notes towards a grid. With swing, a note is drawn to the line that it sounds nearest to, since lines of the
 * second half of a beat sound late.
 *
 * @param strength  0 % leaves them, 100 % puts them on it
 * @param sounds    where a written moment sounds, in ticks; as it is written where the music does not swing
 */
export function quantised(
  notes: Notes,
  ids: Ids,
  step: Ticks,
  strength: Percent,
  room: Room,
  sounds: (at: Ticks) => Ticks = (at) => at,
): Notes {
  const share = strength / 100;
  const drawn = (note: TakeNote): TakeNote => {
    const heard = sounds(note.start) + (note.nudge ?? 0);
    const below = Math.floor(note.start / step) * step;
    const [line] = [below - step, below, below + step, below + 2 * step]
      .filter((at) => at >= room.from && at < room.to)
      .sort((a, b) => Math.abs(sounds(a) - heard) - Math.abs(sounds(b) - heard) || a - b);
    if (line === undefined) return note;
    const start = Math.round(note.start + (line - note.start) * share);
    const nudge = Math.round((note.nudge ?? 0) * (1 - share));
    const { nudge: _before, ...rest } = note;
    return { ...rest, start, ...(nudge === 0 ? {} : { nudge }) };
  };
  return settled(changed(notes, ids, drawn), ids, room);
}

/** Draws the ends of notes to a grid; none loses its last step. */
export const endsQuantised = (notes: Notes, ids: Ids, step: Ticks, strength: Percent, room: Room): Notes =>
  settled(
    changed(notes, ids, (note) => {
      const line = Math.max(note.start + step, nearestOn(endOf(note), step));
      return { ...note, duration: Math.max(1, Math.round(note.duration + (line - endOf(note)) * (strength / 100))) };
    }),
    ids,
    room,
  );

/** Lets each note last until the next of them begins, those that are struck together alike; the last ones stay. */
export function legato(notes: Notes, ids: Ids, room: Room): Notes {
  const starts = [...new Set(meant(notes, ids).map(({ start }) => start))].sort((a, b) => a - b);
  return settled(
    changed(notes, ids, (note) => {
      const next = starts.find((start) => start > note.start);
      return next === undefined ? note : { ...note, duration: next - note.start };
    }),
    ids,
    room,
  );
}

/** Turns notes round in time, inside the stretch that they fill. */
export function reversed(notes: Notes, ids: Ids, room: Room): Notes {
  const own = meant(notes, ids);
  if (own.length < 2) return notes;
  const from = Math.min(...own.map(({ start }) => start));
  const to = Math.max(...own.map(endOf));
  return settled(
    changed(notes, ids, (note) => ({ ...note, start: clamp(from + to - endOf(note), room.from, room.to - 1) })),
    ids,
    room,
  );
}
