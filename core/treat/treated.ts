import { numberOf, remembering } from '../song/remember';
import { barOf, groundOf } from '../song/ground';
import { chordsIn, sectionTicks, type Music } from '../song/resolve';
import type { Note, Part, PartTake, Section } from '../song/schema';
import { hashLabels } from '../trellis/random';
import { isPlain, throughChain } from './chain';
import type { Treating } from './treating';

/** Passes of one list of notes that are remembered, as of what goes on by itself. */
const KEPT = 64;
const made = remembering(KEPT);

/** Where notes are treated. */
export interface Where {
  readonly music: Music;
  readonly section: Section;
  readonly pass: number;
}

/** What a section gives the treatments of a part to work with in one pass. */
export const treatingIn = ({ music, section, pass }: Where, part: Pick<Part, 'id'>): Treating => {
  const { tonic, scale } = groundOf(music.score, section);
  return {
    chords: chordsIn(section, music.takes, music.heard),
    key: { tonic, scale },
    length: sectionTicks(music.score, section),
    bar: barOf(music.score, section),
    pass,
    seed: hashLabels(0, [part.id]),
  };
};

/** Notes behind a part's treatments, the same list as long as nothing changes. */
export function throughTreatments(notes: readonly Note[], part: Part, where: Where): readonly Note[] {
  const chain = part.treatments;
  if (!chain || isPlain(chain)) return notes;
  const over = treatingIn(where, part);
  const { chords, length, bar, key, pass } = over;
  const name = [numberOf(chain), numberOf(chords), part.id, pass, length, bar, key.tonic, key.scale].join(' ');
  return made(notes, name, () => throughChain(notes, chain, over));
}

/** True where a take goes through treatments of its part that do something. */
export const isTreated = (part: Part | undefined, take: PartTake): boolean =>
  part?.treatments !== undefined && !take.treated && !isPlain(part.treatments);

/**
 * Notes of a take behind the treatments of the part that plays it.
 *
 * @param notes  what the take plays in this pass
 * @param part   undefined where it is gone
 * @returns in order, the same list as long as nothing changes
 */
export const treatedNotes = (
  notes: readonly Note[],
  take: PartTake,
  part: Part | undefined,
  where: Where,
): readonly Note[] => (part && isTreated(part, take) ? throughTreatments(notes, part, where) : notes);
