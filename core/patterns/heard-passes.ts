import { partTake, soundingId, type Music } from '../song/resolve';
import type { Heard, Note, PartTake, Section, TakeId } from '../song/schema';
import { overOf, patternNotes } from './pass';

/** The takes of a section that go on by themselves and sound. */
const goingOn = ({ score, takes, heard }: Music, section: Section): PartTake[] =>
  score.parts
    .map(({ id }) => partTake(takes, soundingId(section, id, heard)))
    .filter((take): take is PartTake => take?.pattern !== undefined);

const sameNote = (a: Note, b: Note | undefined): boolean =>
  a.start === b?.start && a.duration === b.duration && a.pitch === b.pitch && a.velocity === b.velocity;

const sameNotes = (a: readonly Note[], b: readonly Note[]): boolean =>
  a.length === b.length && a.every((note, index) => sameNote(note, b[index]));

/**
 * The takes that sound otherwise in a pass than in the last one that the logbook has of them: what is to be written down,
 * so that every pass can be found again.
 *
 * @param pass  how often the section was played before
 */
export function unwrittenPasses(music: Music, section: Section, pass: number, log: readonly Heard[]): TakeId[] {
  const now = overOf(music, section, pass);
  return goingOn(music, section).flatMap(({ id, pattern }): TakeId[] => {
    const last = log.findLast(({ take }) => take === id)?.pass ?? 0;
    if (!pattern || last === pass) return [];
    return sameNotes(patternNotes(pattern, now), patternNotes(pattern, { ...now, pass: last })) ? [] : [id];
  });
}
