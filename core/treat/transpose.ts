import type { Treat } from './treating';

/** Notes so many semitones higher; what would leave the MIDI range is left out. Its inverse is the same way back. */
export const transpose: Treat<{ readonly by: number }> = (notes, { by }) =>
  by === 0
    ? notes
    : notes.flatMap((note) => {
        const pitch = note.pitch + by;
        return pitch < 0 || pitch > 127 ? [] : [{ ...note, pitch }];
      });

/** Notes so many octaves higher. */
export const octave: Treat<{ readonly by: number }> = (notes, { by }, over) => transpose(notes, { by: 12 * by }, over);
