import type { Note, StepsOf } from '../song/schema';
import { maskFor, snapped, strokesIn, type Treat } from './treating';

/** Of what is struck together, one note only. */
export const voice: Treat<{ readonly which: 'lowest' | 'highest' | 'middle' }> = (notes, { which }) =>
  strokesIn(notes).flatMap((stroke) => {
    const place =
      which === 'lowest' ? 0 : which === 'highest' ? stroke.length - 1 : Math.floor((stroke.length - 1) / 2);
    return stroke.slice(place, place + 1);
  });

/** The pitch that a line is turned round: its first note, or the middle between its lowest and its highest. */
function axisOf(notes: readonly Note[], around: 'first' | 'middle'): number {
  const pitches = notes.map(({ pitch }) => pitch);
  if (around === 'middle') return (Math.min(...pitches) + Math.max(...pitches)) / 2;
  return strokesIn(notes)[0]?.[0]?.pitch ?? 60;
}

/** A line upside down: as far below an axis as it lay above; in semitones, done twice, it is as it was. */
export const invert: Treat<{ readonly around: 'first' | 'middle'; readonly of: StepsOf }> = (
  notes,
  { around, of },
  over,
) => {
  if (notes.length === 0) return notes;
  const axis = axisOf(notes, around);
  return notes.flatMap((note) => {
    const pitch = 2 * axis - note.pitch;
    if (pitch < 0 || pitch > 127) return [];
    return [{ ...note, pitch: of === 'semitones' ? pitch : snapped(pitch, maskFor(of, over, note.start)) }];
  });
};
