import { partTake, soundingId, type Music } from '../song/resolve';
import type { Heard, Note, Section, TakeId } from '../song/schema';
import { isTreated } from '../treat/treated';
import { handsOf } from './dealt';
import { writtenNotes } from './written';

const sameNote = (a: Note, b: Note | undefined): boolean =>
  a.start === b?.start && a.duration === b.duration && a.pitch === b.pitch && a.velocity === b.velocity;

const sameNotes = (a: readonly Note[], b: readonly Note[]): boolean =>
  a === b || (a.length === b.length && a.every((note, index) => sameNote(note, b[index])));

/**
 * The takes that sound otherwise in a pass than in the last one that the logbook has of them, since they go on by
 * themselves, are treated or dealt out by chance: what is to be written down, so that every pass can be found again.
 *
 * @param pass  how often the section was played before
 */
export function unwrittenPasses(music: Music, section: Section, pass: number, log: readonly Heard[]): TakeId[] {
  return music.score.parts.flatMap((part): TakeId[] => {
    const take = partTake(music.takes, soundingId(section, part.id, music.heard));
    const hands = handsOf(music, section, part);
    if (!take || !(take.pattern || isTreated(part, take) || hands.length > 0)) return [];
    const last = log.findLast((line) => line.take === take.id)?.pass ?? 0;
    const players = new Set([part, ...hands]);
    const same = [...players].every(({ id }) =>
      sameNotes(writtenNotes(music, section, id, pass), writtenNotes(music, section, id, last)),
    );
    return last === pass || same ? [] : [take.id];
  });
}
