import { range, type Ticks } from '../theory/units';
import { barOf } from './ground';
import { harmonyTake, partTake, soundingId, type Music } from './resolve';
import { HARMONY, type LineId, type Section } from './schema';

/**
 * The bars at the end of a section that its lines were never made for, since it became longer.
 *
 * @returns by line, the chords first, bars counted from 0; lines that play nothing at all are not told
 */
export function missingBars(music: Music, section: Section): ReadonlyMap<LineId, readonly number[]> {
  const bar = barOf(music.score, section);
  const lines = [HARMONY, ...music.score.parts.map(({ id }) => id)];
  return new Map(
    lines.flatMap((line) => {
      const end = endOf(music, section, line);
      const bars = end === null ? [] : range(section.bars).filter((index) => index * bar >= end);
      return bars.length === 0 ? [] : [[line, bars] as const];
    }),
  );
}

/** Where what a line sounds was meant to end, in ticks; later where something was added after that. */
function endOf({ takes, heard }: Music, section: Section, line: LineId): Ticks | null {
  const id = soundingId(section, line, heard);
  const [part, chords] = [partTake(takes, id), harmonyTake(takes, id)];
  // What goes on by itself fills its section, however long it is.
  if (part?.pattern) return null;
  if (part) return part.notes.reduce((end, note) => Math.max(end, note.start + 1), part.length);
  return chords?.chords.reduce((end, span) => Math.max(end, span.start + 1), chords.length) ?? null;
}
