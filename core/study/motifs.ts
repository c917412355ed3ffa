import type { Note } from '../song/schema';
import { keyMask, type Key } from '../theory/key';
import { inMask } from '../theory/pitch';
import { modulo, range, type MidiNote } from '../theory/units';

/** Notes of the shortest run that counts as a motif said again. */
const SHORTEST = 4;

/** What is found of motifs that return in a line. */
export interface MotifFacts {
  /** Share of notes that lie in returns, 0–1. */
  readonly share: number;
  /** Notes of the longest return, however short; 0 where no move returns. */
  readonly longest: number;
}

/** Scale notes below a pitch: a ladder on which steps of the scale count one; notes between its rungs count a half. */
export function scalePlace(pitch: MidiNote, key: Key): number {
  const mask = keyMask(key);
  const inOctave = range(12).filter((pitchClass) => inMask(mask, pitchClass));
  const below = inOctave.filter((pitchClass) => pitchClass < modulo(pitch, 12)).length;
  const octave = Math.floor(pitch / 12) * inOctave.length;
  return inMask(mask, pitch) ? octave + below : octave + below - 0.5;
}

/** How a line moves from note to note: steps along the scale and ticks between onsets, each move as one word. */
export const movesOf = (notes: readonly Pick<Note, 'start' | 'pitch'>[], key: Key): string[] =>
  notes.slice(1).map((note, index) => {
    const before = notes[index] as Note;
    return `${scalePlace(note.pitch, key) - scalePlace(before.pitch, key)} ${note.start - before.start}`;
  });

/**
 * The longest run of moves, for each place of a row, that stands somewhere in another: before it where both are one row,
 * without overlapping.
 */
function longestRuns(moves: readonly string[], source: readonly string[], same: boolean): number[] {
  const runs = moves.map(() => 0);
  moves.forEach((_, at) => {
    const last = same ? at : source.length;
    for (let from = 0; from < last; from++) {
      let length = 0;
      while (
        at + length < moves.length &&
        from + length < (same ? at : source.length) &&
        moves[at + length] === source[from + length]
      )
        length++;
      runs[at] = Math.max(runs[at] as number, length);
    }
  });
  return runs;
}

function factsOfRuns(runs: readonly number[], count: number): MotifFacts {
  const inMotif = new Array<boolean>(count).fill(false);
  let longest = 0;
  runs.forEach((length, at) => {
    if (length > 0) longest = Math.max(longest, length + 1);
    if (length + 1 < SHORTEST) return;
    for (let note = at; note <= at + length; note++) inMotif[note] = true;
  });
  return { share: count === 0 ? 0 : inMotif.filter(Boolean).length / count, longest };
}

/**
 * The notes of a line in runs of four and more whose moves, along the scale and in time, were heard before in it; it
 * may be on another step.
 *
 * @param notes  one line in order of its starts
 */
export const motifFacts = (notes: readonly Pick<Note, 'start' | 'pitch'>[], key: Key): MotifFacts => {
  const moves = movesOf(notes, key);
  return factsOfRuns(longestRuns(moves, moves, true), notes.length);
};

/** The share of a line's notes in runs of four and more that another line has too, on whatever step, 0–1. */
export const sharedMotifs = (
  notes: readonly Pick<Note, 'start' | 'pitch'>[],
  other: readonly Pick<Note, 'start' | 'pitch'>[],
  key: Key,
): number => factsOfRuns(longestRuns(movesOf(notes, key), movesOf(other, key), false), notes.length).share;
