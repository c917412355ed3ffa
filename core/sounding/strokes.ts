import type { LineId, Note } from '../song/schema';
import { range, type Ticks } from '../theory/units';
import { happens, stream } from '../trellis/random';

/**
 * Whether a note sounds this time. What is left to chance comes out alike whenever the same pass is played, so that what
 * is heard is what is delivered.
 *
 * @param pass  how often the note's section has been played before
 */
export function sounds({ chance, start, pitch }: Note, line: LineId, pass: number): boolean {
  return chance === undefined || happens(stream(pass, 'chance', line, start, pitch), chance);
}

/** The strokes of a note that is struck again within its length; the note itself where it is struck once. */
export function strokesOf(note: Note): readonly Pick<Note, 'start' | 'duration'>[] {
  const { strikes, start, duration } = note;
  if (strikes === undefined || strikes > duration) return [note];
  const at = (stroke: number): Ticks => start + Math.round((stroke * duration) / strikes);
  return range(strikes).map((stroke) => ({ start: at(stroke), duration: at(stroke + 1) - at(stroke) }));
}
