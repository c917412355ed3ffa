import type { Note } from '../song/schema';
import { modulo, range, type Ticks } from '../theory/units';
import { chanceOf, strokesIn, type Treat } from './treating';

type Order = 'up' | 'down' | 'to and fro' | 'by chance';

/** What an arpeggio plays one after the other. */
export interface Arpeggio {
  readonly order: Order;
  /** From one note to the next, in ticks. */
  readonly rate: Ticks;
  /** How often each note comes before the next. */
  readonly repeats: number;
  /** How often it goes on through the same notes, each time so many semitones higher. */
  readonly further: number;
  readonly distance: number;
}

/** The notes of a stroke and how far it goes on, in the order in which they come before they come again. */
function laidOut(stroke: readonly Note[], { order, further, distance, repeats }: Arpeggio): Note[] {
  const all = range(further + 1)
    .flatMap((time) => stroke.map((note) => ({ ...note, pitch: note.pitch + time * distance })))
    .filter(({ pitch }) => pitch <= 127)
    .sort((a, b) => a.pitch - b.pitch);
  const down = [...all].reverse();
  const once = order === 'down' ? down : order === 'to and fro' ? [...all, ...down.slice(1, -1)] : all;
  return once.flatMap((note) => range(repeats).map(() => note));
}

/**
 * Plays what is struck together one after the other, until the longest of it ends or something else is struck.
 */
export const arpeggiate: Treat<Arpeggio> = (notes, wish, over) => {
  const strokes = strokesIn(notes);
  return strokes.flatMap((stroke, index) => {
    const [first] = stroke;
    if (!first) return [];
    const next = strokes[index + 1]?.[0]?.start ?? Number.POSITIVE_INFINITY;
    const end = Math.min(next, Math.max(...stroke.map(({ start, duration }) => start + duration)));
    const order = laidOut(stroke, wish);
    return range(Math.ceil((end - first.start) / wish.rate)).flatMap((count): Note[] => {
      const start = first.start + count * wish.rate;
      const place =
        wish.order === 'by chance'
          ? Math.floor(chanceOf({ ...first, start }, 'order', over) * order.length)
          : modulo(count, order.length);
      const { bend: _bend, vibrato: _vibrato, swell: _swell, strikes: _strikes, ...note } = order[place] as Note;
      return [{ ...note, start, duration: Math.min(wish.rate, end - start) }];
    });
  });
};
