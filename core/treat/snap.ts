import { maskFor, snapped, type Treat } from './treating';

/** Draws pitches to the nearest note of the chord or the scale; done twice it is as done once. */
export const snap: Treat<{ readonly to: 'chord' | 'scale' }> = (notes, { to }, over) =>
  notes.map((note) => ({ ...note, pitch: snapped(note.pitch, maskFor(to, over, note.start)) }));
