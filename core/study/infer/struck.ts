import { modulo, type Ticks } from '../../theory/units';
import type { PlainNote } from './key';

/** What is struck together by hand comes within this. */
const TOGETHER: Ticks = 40;
/** Fingers may hold on into the next chord for so long. */
const HELD_ON: Ticks = 120;
/** So many different notes together are a chord. */
const CHORD_NOTES = 3;
/** Where so many of all notes are struck so, nothing else plays. */
const NEARLY_ALL = 0.9;

/**
 * Notes that are struck together by hand, in order of their starts.
 *
 * @param notes  in order of their starts
 */
export function strikesOf<N extends { readonly start: Ticks }>(notes: readonly N[]): readonly (readonly [N, ...N[]])[] {
  const strikes: [N, ...N[]][] = [];
  for (const note of notes) {
    const last = strikes.at(-1);
    if (last && note.start - last[0].start <= TOGETHER) last.push(note);
    else strikes.push([note]);
  }
  return strikes;
}

/**
 * The notes of chords that are struck by themselves, as by a keyboard alone, each as long as all of it sounds: hardly a
 * note is no part of a chord, and none sounds far into the next. Then each chord is meant, wherever it stands.
 *
 * @param notes  in order of their starts
 * @returns null where other notes play too
 */
export function chordsAlone(notes: readonly PlainNote[]): readonly PlainNote[] | null {
  const strikes = strikesOf(notes);
  let inChords = 0;
  let ringing = 0;
  for (const strike of strikes) {
    const names = new Set(strike.map(({ pitch }) => modulo(pitch, 12)));
    if (names.size >= CHORD_NOTES && ringing <= strike[0].start + HELD_ON) inChords += strike.length;
    ringing = strike.reduce((end, note) => Math.max(end, note.start + note.duration), ringing);
  }
  if (inChords < NEARLY_ALL * notes.length) return null;
  // Fingers let go one after the other, and what the last of them still holds is no chord of its own.
  return strikes.flatMap((strike, index) => {
    const next = strikes[index + 1]?.[0].start ?? Number.POSITIVE_INFINITY;
    const end = strike.reduce((first, note) => Math.min(first, note.start + note.duration), next);
    return strike.map((note) => ({ ...note, duration: Math.max(1, end - note.start) }));
  });
}
