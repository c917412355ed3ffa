import type { StepsOf } from '../song/schema';
import { chanceOf, maskFor, stepped, type Treat } from './treating';

/** Moves notes by so many steps at most, up, down or both ways, in so many % of all times. */
export const stray: Treat<{
  readonly chance: number;
  readonly of: StepsOf;
  readonly up: number;
  readonly down: number;
}> = (notes, { chance, of, up, down }, over) =>
  notes.map((note) => {
    if (up + down === 0 || chanceOf(note, 'strays', over) * 100 >= chance) return note;
    // One of all steps that are allowed, none of them twice as likely.
    const drawn = Math.floor(chanceOf(note, 'where', over) * (up + down));
    const by = drawn < down ? drawn - down : drawn - down + 1;
    const pitch = stepped(note.pitch, by, maskFor(of, over, note.start));
    return pitch === null ? note : { ...note, pitch };
  });
