import type { HeardTakes, Placed, Takes } from '@fendro/core/song/resolve';
import type { Note, Score, Section } from '@fendro/core/song/schema';
import { soundingNotes } from '@fendro/core/sounding/parts';
import { GUIDE } from './guide';

/** What each part sounds, as a text that differs where the sound does. */
export type Contents = ReadonlyMap<string, string>;

/** A number for each list of notes, which never change: other notes, another number. */
const identities = new WeakMap<object, number>();
let lastIdentity = 0;
function identityOf(notes: object): number {
  const known = identities.get(notes) ?? ++lastIdentity;
  identities.set(notes, known);
  return known;
}

/**
 * What all parts and the chord guide sound over the running order.
 *
 * @param guideIn  the chord line of a section where it is heard by itself, else null
 */
export function contentsOf(
  score: Score,
  placed: readonly Placed[],
  takes: Takes,
  heard: HeardTakes,
  guideIn: (section: Section) => readonly Note[] | null,
): Contents {
  const inOrder = (notesOf: (section: Section) => readonly Note[] | null): string =>
    placed
      .map(({ section }) => {
        const notes = notesOf(section);
        return notes ? `${section.id}:${identityOf(notes)}` : '';
      })
      .join();
  return new Map([
    ...score.parts.map(
      ({ id, instrument, brief, swaps, style }) =>
        [
          id,
          `${instrument} ${brief.humanise} ${style} ${identityOf(swaps)} ` +
            inOrder((section) => soundingNotes(score, section, id, takes, heard)),
        ] as const,
    ),
    [GUIDE, inOrder(guideIn)] as const,
  ]);
}

/** Parts whose contents differ, new ones among them. */
export const changedParts = (before: Contents, now: Contents): string[] =>
  [...now].filter(([part, contents]) => before.get(part) !== contents).map(([part]) => part);

/** True where a part that sounded is gone. */
export const lostParts = (before: Contents, now: Contents): boolean =>
  [...before.keys()].some((part) => !now.has(part));
