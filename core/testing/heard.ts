import { FRAMES_A_SECOND } from '../listen/frames';
import type { HeardNote } from '../listen/heard-note';
import type { HeardSound } from '../listen/heard-sound';
import { modulo } from '../theory/units';

/** Sounds as they would be heard, for specs. */

/** Pitches that are struck together, chord by chord. */
export const FOUR: readonly (readonly number[])[] = [
  [36, 60, 64, 67],
  [45, 57, 60, 64],
  [41, 57, 60, 65],
  [43, 55, 59, 62],
];

export interface Playing {
  /** Beats a minute. */
  readonly tempo: number;
  /** Strokes of each chord, a beat apart; the first of them with its bass. */
  readonly beats: number;
  /** Seconds before the first. */
  readonly lead: number;
}

/** Chords that are struck on every beat, again and again. */
export function heardChords(
  chords: readonly (readonly number[])[],
  rounds: number,
  { tempo, beats, lead }: Playing,
): HeardSound {
  const beat = 60 / tempo;
  const notes = Array.from({ length: rounds * chords.length * beats }, (_, index) => {
    const start = lead + index * beat;
    const [bass = 36, ...upper] = chords[modulo(Math.floor(index / beats), chords.length)] ?? [];
    const first = index % beats === 0;
    return [
      ...(first ? [{ pitch: bass, end: start + beats * beat }] : []),
      ...upper.map((pitch) => ({ pitch, end: start + beat })),
    ].map(({ pitch, end }): HeardNote => ({ start, end, pitch, strength: first ? 0.8 : 0.6 }));
  }).flat();
  return heardFrom(notes);
}

/** A sound in which these notes are struck, the lowest like a kick. */
export function heardFrom(notes: readonly HeardNote[]): HeardSound {
  const seconds = Math.max(1, ...notes.map(({ end }) => end)) + 1;
  const strokes = (counts: (note: HeardNote) => boolean): Float32Array => {
    const values = new Float32Array(Math.ceil(seconds * FRAMES_A_SECOND));
    for (const note of notes.filter(counts)) values[Math.round(note.start * FRAMES_A_SECOND)] = 6 * note.strength;
    return values;
  };
  return {
    seconds,
    notes,
    strokes: { all: strokes(() => true), low: strokes(({ pitch }) => pitch < 48), high: strokes(() => false) },
  };
}

/** Chords at 120 beats a minute, four beats each. */
export const heardLine = (chords: readonly (readonly number[])[], rounds: number): HeardSound =>
  heardChords(chords, rounds, { tempo: 120, beats: 4, lead: 0.25 });
