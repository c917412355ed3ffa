import type { Music } from '@fendro/core/song/resolve';
import { HARMONY, type LineId, type Occurrence, type Section } from '@fendro/core/song/schema';
import { chordLineNotes } from '@fendro/core/sounding/chord-line';
import type { Course } from '@fendro/core/sounding/course';
import type { ChordLine } from '@fendro/core/sounding/performance';
import { numberOf } from '@fendro/core/song/remember';
import { writtenNotes } from '@fendro/core/sounding/written';

/** What each line sounds, as a text that differs where the sound does. */
export type Contents = ReadonlyMap<LineId, string>;

/** How a line moves in a place, told by a number. */
function movesIn(place: Occurrence | null, line: LineId): number | undefined {
  const moves = place?.moves?.[line];
  return moves && numberOf(moves);
}

/**
 * What all parts and the chord line sound along a course.
 *
 * @param chordLine  where the chords sound by themselves
 */
export function contentsOf(music: Music, course: Course, chordLine: ChordLine): Contents {
  const sections = new Set(course.map(({ section }) => section));
  // Place by place: other versions may play in places of one length, and a place may be lifted, or a part rest there.
  const inOrder = (textOf: (section: Section) => string, line: LineId): string => {
    const texts = new Map([...sections].map((section) => [section, textOf(section)]));
    return course
      .map(({ section, place }) =>
        [texts.get(section), place?.lift, place?.rests?.[line], movesIn(place, line)].filter(Boolean).join(' '),
      )
      .join('|');
  };
  return new Map([
    ...music.score.parts.map(({ id, instrument, octave = 0, layers = [], brief, swaps, style }) => {
      const written = inOrder((section) => String(numberOf(writtenNotes(music, section, id))), id);
      const sounds = [`${instrument} ${octave}`, ...layers.map((layer) => `${layer.instrument} ${layer.octave}`)];
      return [
        id,
        `${sounds.join(',')} ${brief.humanise} ${brief.follows} ${style} ${numberOf(swaps)} ${written}`,
      ] as const;
    }),
    [
      HARMONY,
      inOrder((section) => {
        const setting = chordLine(section);
        return setting ? `${setting.family} ${numberOf(chordLineNotes(music, section, setting))}` : '';
      }, HARMONY),
    ] as const,
  ]);
}

/** Lines whose contents differ, new ones among them. */
export const changedLines = (before: Contents, now: Contents): LineId[] =>
  [...now].filter(([line, contents]) => before.get(line) !== contents).map(([line]) => line);

/** Lines that sounded and are gone. */
export const goneLines = (before: Contents, now: Contents): LineId[] =>
  [...before.keys()].filter((line) => !now.has(line));
