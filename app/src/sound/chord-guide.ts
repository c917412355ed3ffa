import type { Music } from '@fendro/core/song/resolve';
import { isAccompaniment } from '@fendro/core/song/roles';
import { HARMONY, type LineId, type Part, type Section } from '@fendro/core/song/schema';
import { handsOf } from '@fendro/core/sounding/dealt';
import { writtenNotes } from '@fendro/core/sounding/written';

/**
 * True where the chords sound by themselves: while they are in focus, and in a loop in which no part plays them yet.
 * Never in the song as it plays through: that sounds as it is delivered.
 *
 * @param line  the line in focus
 */
export function chordsGuide(music: Music, section: Section, line: LineId, looping: boolean): boolean {
  if (line === HARMONY) return true;
  // Chords that are dealt out are played by others.
  const plays = (part: Part): boolean =>
    [part, ...handsOf(music, section, part)].some(({ id }) => writtenNotes(music, section, id).length > 0);
  return looping && !music.score.parts.some((part) => isAccompaniment(part.role) && plays(part));
}
