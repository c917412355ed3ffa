import type { Curve, Note } from '../song/schema';
import { range, type Percent, type Ticks } from '../theory/units';
import { lasting, loud, strokesIn, type Treat } from './treating';

/** Notes so much later; what would begin after the section is left out. */
export const delay: Treat<{ readonly by: Ticks }> = (notes, { by }) =>
  notes.map((note) => ({ ...note, start: note.start + by }));

/** Each note again and again, so much softer each time. */
export const echo: Treat<{ readonly times: number; readonly gap: Ticks; readonly fade: Percent }> = (
  notes,
  { times, gap, fade },
) =>
  notes.flatMap((note) =>
    range(times + 1).map((time) => ({
      ...note,
      start: note.start + time * gap,
      velocity: loud(note.velocity * (1 - fade / 100) ** time),
    })),
  );

/** What is struck together, one string after the other; every note ends where it did. */
export const strum: Treat<{ readonly way: 'up' | 'down' | 'to and fro'; readonly spread: Ticks }> = (
  notes,
  { way, spread },
) =>
  strokesIn(notes).flatMap((stroke, index) => {
    const downwards = way === 'down' || (way === 'to and fro' && index % 2 === 1);
    const order = downwards ? [...stroke].reverse() : stroke;
    return order.map((note, place): Note => {
      const late = stroke.length < 2 ? 0 : Math.round((spread * place) / (stroke.length - 1));
      return lasting({ ...note, start: note.start + late }, note.duration - late);
    });
  });

/** A note so many times as long, and so much further from the section's start; what bends it goes along. */
function stretched({ bend, vibrato, swell, ...note }: Note, factor: number): Note {
  const along = (curve: Curve): Curve => curve.map(({ at, value }) => ({ at: Math.round(at * factor), value }));
  return {
    ...lasting({ ...note, start: Math.round(note.start * factor) }, note.duration * factor),
    ...(bend && { bend: along(bend) }),
    ...(vibrato && { vibrato: along(vibrato) }),
    ...(swell && { swell: along(swell) }),
  };
}

/**
 * Notes at so many times their distances from the section's start, and as much longer; over and over until it ends
 * where they come faster.
 */
export const time: Treat<{ readonly times: number; readonly over: number }> = (notes, { times, over: parts }, over) => {
  const factor = times / parts;
  const once = notes.map((note) => stretched(note, factor));
  const round = Math.round(over.length * factor);
  if (round >= over.length || round < 1) return once;
  return range(Math.ceil(over.length / round)).flatMap((time) =>
    once.map((note) => ({ ...note, start: note.start + time * round })),
  );
};

/**
 * Notes in the order from the last to the first: what ended last begins first. What lies in the section is as it was when
 * it is done twice.
 */
export const reverse: Treat<unknown> = (notes, _wish, { length }) =>
  notes.flatMap((note) => {
    const end = Math.min(length, note.start + note.duration);
    return note.start < 0 ? [] : [{ ...note, start: length - end, duration: end - note.start }];
  });
