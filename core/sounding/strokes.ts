import type { LineId, Note } from '../song/schema';
import { range, type Ticks } from '../theory/units';
import { happens, stream } from '../trellis/random';

/**
 * Whether a note sounds this time. What is left to chance comes out alike wherever the same place is played the same time
 * round, so that what is heard is what is delivered.
 *
 * @param place  of the note's section in the running order, in ticks; any number where it has none
 * @param round  how often the place has been played before, in a loop
 */
export function sounds({ chance, start, pitch }: Note, line: LineId, place: Ticks, round: number): boolean {
  return chance === undefined || happens(stream(round, 'chance', line, place, start, pitch), chance);
}

/** The strokes of a note that is struck again within its length; the note itself where it is struck once. */
export function strokesOf(note: Note): readonly Pick<Note, 'start' | 'duration'>[] {
  const { strikes, start, duration } = note;
  if (strikes === undefined || strikes > duration) return [note];
  const at = (stroke: number): Ticks => start + Math.round((stroke * duration) / strikes);
  return range(strikes).map((stroke) => ({ start: at(stroke), duration: at(stroke + 1) - at(stroke) }));
}
