import type { StepsOf } from '../song/schema';
import { maskFor, stepped, type Treat } from './treating';

/** Further notes so many steps of the chord or the scale above or below each. */
export const stack: Treat<{ readonly of: StepsOf; readonly steps: readonly number[] }> = (notes, { of, steps }, over) =>
  notes.flatMap((note) => [
    note,
    ...steps.flatMap((by) => {
      const pitch = stepped(note.pitch, by, maskFor(of, over, note.start));
      return pitch === null ? [] : [{ ...note, pitch }];
    }),
  ]);
