import type { Percent, Ticks } from '../theory/units';
import { lasting, type Treat } from './treating';

/** Notes so many % as long. */
export const length: Treat<{ readonly percent: Percent }> = (notes, { percent }) =>
  notes.map((note) => lasting(note, (note.duration * percent) / 100));

/** Notes that last until the next stroke; the last ones until the section ends. */
export const legato: Treat<unknown> = (notes, _wish, over) => {
  const starts = [...new Set(notes.map(({ start }) => start))].sort((a, b) => a - b);
  const next = new Map<Ticks, Ticks>(starts.map((start, index) => [start, starts[index + 1] ?? over.length]));
  return notes.map((note) => lasting(note, (next.get(note.start) ?? over.length) - note.start));
};
