import { clamp, type Semitones } from '../theory/units';
import type { ChordSpan } from './music-schema';

/** What the writer has set by hand in a chord, pitch by pitch: it belongs to that chord and to no other. */

type Voicing = NonNullable<ChordSpan['voicing']>;

/** A voicing without pitches and notes of its own. */
export function withoutHand({ pitches: _pitches, notes: _notes, ...rest }: Voicing): Voicing {
  return rest;
}

const moved = (pitch: number, by: Semitones): number => clamp(pitch + by, 0, 127);

/** A voicing whose own pitches and notes go along with a chord that moves. */
export const handMoved = (voicing: Voicing, by: Semitones): Voicing => ({
  ...voicing,
  ...(voicing.pitches ? { pitches: voicing.pitches.map((pitch) => moved(pitch, by)) } : {}),
  ...(voicing.notes ? { notes: voicing.notes.map((note) => ({ ...note, pitch: moved(note.pitch, by) })) } : {}),
});
