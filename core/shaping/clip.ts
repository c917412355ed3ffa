import { fitNotes, type Harmony } from '../song/fit';
import { isDrumRole } from '../song/roles';
import type { ChordSpan, Note, Part } from '../song/schema';
import { range, type Ticks } from '../theory/units';
import type { Edited } from './place';
import { freeId, meant, settled, type Ids, type Notes, type Room } from './room';

/** Notes that were copied or cut out, with the chords that they sounded over, so that they can be fitted to others. */
export interface Clip {
  /** From the beginning of the bar that the first of them lies in. */
  readonly notes: readonly Note[];
  readonly chords: Harmony;
  readonly drums: boolean;
}

const shifted = (chords: readonly ChordSpan[], by: Ticks): ChordSpan[] =>
  chords
    .filter(({ start, duration }) => start + duration + by > 0)
    .map((span) => {
      const start = Math.max(0, span.start + by);
      return { ...span, start, duration: span.start + by + span.duration - start };
    });

/**
 * @param chords  those of the section that the notes are in
 * @param bar     one bar, in ticks
 * @returns null where nothing is meant
 */
export function clipOf(notes: Notes, ids: Ids, chords: Harmony, bar: Ticks, drums: boolean): Clip | null {
  const [first, ...rest] = meant(notes, ids);
  if (!first) return null;
  const from = Math.floor(first.start / bar) * bar;
  return {
    notes: [first, ...rest].map(({ id: _id, ...note }) => ({ ...note, start: note.start - from })),
    chords: { key: chords.key, chords: shifted(chords.chords, -from) },
    drums,
  };
}

/** By octaves into what an instrument plays, as far as they bring it there; null where none does. */
function within(note: Note, { low, high }: Room): Note | null {
  const pitch = range(11)
    .flatMap((octave) => [note.pitch - 12 * octave, note.pitch + 12 * octave])
    .find((candidate) => candidate >= low && candidate <= high);
  return pitch === undefined ? null : { ...note, pitch };
}

/**
 * Puts a clip into notes.
 *
 * @param at    where its first bar begins, in ticks
 * @param part  that it goes into
 * @param over  chords and key there, to which the notes are fitted; null leaves them as they are
 * @returns null where drums and pitches would have to become each other
 */
export function pasted(
  notes: Notes,
  clip: Clip,
  at: Ticks,
  part: Pick<Part, 'role'>,
  over: Harmony | null,
  room: Room,
): Edited | null {
  const drums = isDrumRole(part.role);
  if (drums !== clip.drums) return null;
  const here = over && { key: over.key, chords: shifted(over.chords, -at) };
  const fitted =
    here && !drums
      ? fitNotes(clip.notes, clip.chords, here, { role: part.role, low: room.low, high: room.high })
      : clip.notes;
  const first = freeId(notes);
  const own = fitted.flatMap((note, index) => {
    const start = note.start + at;
    const placed = start >= room.from && start < room.to ? within(note, room) : null;
    return placed ? [{ ...placed, id: first + index, start }] : [];
  });
  const picked = new Set(own.map(({ id }) => id));
  return { notes: settled([...notes, ...own], picked, room), picked };
}
