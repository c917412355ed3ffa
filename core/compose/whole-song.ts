import { barOf, groundOf, keyOf } from '../song/ground';
import { LIMITS, shortened } from '../song/limits';
import { inPlanOrder, remembered } from '../song/plan';
import { partTake, type Takes } from '../song/resolve';
import { inDraftingOrder } from '../song/roles';
import { HARMONY, type LineId, type MotifId, type Score, type SectionId, type TakeId } from '../song/schema';
import { motifFrom } from './motif';

/** One line of a song that is drafted as a whole. */
export interface SongLine {
  readonly section: SectionId;
  readonly line: LineId;
}

/**
 * The lines of some sections in the order in which a whole song is drafted: what states the hook before what uses it,
 * the chords of each section before its parts, who is listened to before who listens.
 */
export const songLines = ({ sections, parts }: Score, chosen: ReadonlySet<SectionId>): SongLine[] =>
  inPlanOrder(sections.filter(({ id }) => chosen.has(id))).flatMap(({ id }) =>
    [HARMONY, ...inDraftingOrder(parts).map((part) => part.id)].map((line) => ({ section: id, line })),
  );

/**
 * The score that remembers what a melody begins with, planned for all bound sections that have no motif yet; as it was
 * where the song has a motif already, the take is no melody, or its section is free.
 *
 * @param take  of the first melody that was drafted for the song
 * @param id    for the motif
 */
export function withHook(score: Score, takes: Takes, take: TakeId, id: MotifId): Score {
  const melody = partTake(takes, take);
  const section = score.sections.find((own) => own.id === melody?.section);
  const part = score.parts.find((own) => own.id === melody?.part);
  if (!melody || !section?.plan.bound || part?.role !== 'melody' || score.motifs.length > 0) return score;
  const motif = motifFrom(melody.notes, keyOf(groundOf(score, section)), barOf(score, section));
  if (!motif || motif.notes.length < FEWEST) return score;
  return remembered(score, { ...motif, id, name: shortened(`Hook of ${section.name}`, LIMITS.name) }, section.id);
}

/** Notes below which a melody's beginning is no motif. */
const FEWEST = 3;
