import type { Note } from './schema';
import type { MidiNote, Ticks } from '../theory/units';

/** A stretch of a section in ticks from its start; `to` is not included. */
export interface Stretch {
  readonly from: Ticks;
  readonly to: Ticks;
}

const SOFTEST = 1;
const LOUDEST = 127;

const startsIn =
  ({ from, to }: Stretch) =>
  ({ start }: Pick<Note, 'start'>): boolean =>
    start >= from && start < to;

/** Lets a part rest in a stretch: what starts in it goes, what rings into it ends there. What comes after stays. */
export const rested = <N extends Note>(notes: readonly N[], stretch: Stretch): readonly N[] =>
  notes.flatMap((note): N[] => {
    if (startsIn(stretch)(note)) return [];
    const rings = note.start < stretch.from && note.start + note.duration > stretch.from;
    return [rings ? { ...note, duration: stretch.from - note.start } : note];
  });

/**
 * Moves what starts in a stretch by octaves.
 *
 * @param reach  the lowest and the highest MIDI note number that the instrument plays
 * @returns null where a note would leave the instrument's reach
 */
export function octavesMoved<N extends Note>(
  notes: readonly N[],
  stretch: Stretch,
  octaves: number,
  reach: { readonly low: MidiNote; readonly high: MidiNote },
): readonly N[] | null {
  const moves = startsIn(stretch);
  const moved = notes.map((note) => (moves(note) ? { ...note, pitch: note.pitch + 12 * octaves } : note));
  const fits = moved.every((note) => !moves(note) || (note.pitch >= reach.low && note.pitch <= reach.high));
  return fits ? moved : null;
}

/** Makes what starts in a stretch louder or softer by so much velocity; the loudest and the softest stay so. */
export const loudnessMoved = <N extends Note>(notes: readonly N[], stretch: Stretch, by: number): readonly N[] =>
  notes.map((note) =>
    startsIn(stretch)(note) ? { ...note, velocity: Math.max(SOFTEST, Math.min(LOUDEST, note.velocity + by)) } : note,
  );
