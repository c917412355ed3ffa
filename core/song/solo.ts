import type { Note, Score, Section, Solo, PartId, SectionId } from './schema';
import type { Ticks } from '../theory/units';

/** A stretch of a section in ticks from its start. */
interface Stretch {
  readonly from: Ticks;
  readonly to: Ticks;
}

const inTicks = ({ from, to }: Solo, bar: Ticks): Stretch => ({ from: from * bar, to: to * bar });
const holds = ({ from, to }: Stretch, at: Ticks): boolean => at >= from && at < to;

/** Notes outside some stretches; those that ring into one end where it begins. */
function outside(notes: readonly Note[], stretches: readonly Stretch[]): Note[] {
  return notes.flatMap((note): Note[] => {
    if (stretches.some((stretch) => holds(stretch, note.start))) return [];
    const next = stretches
      .filter(({ from }) => from > note.start)
      .reduce((least, { from }) => Math.min(least, from), Number.POSITIVE_INFINITY);
    return [note.start + note.duration > next ? { ...note, duration: next - note.start } : note];
  });
}

/** Memoised by the notes and the section's solos, neither of which ever changes. */
const known = new WeakMap<
  readonly Note[],
  { readonly solos: Section['solos']; readonly part: PartId; readonly bar: Ticks; readonly notes: readonly Note[] }
>();

/** A part's notes in a section with solos: it rests where another plays in its place, and a solo keeps to its bars. */
export function aroundSolos(
  notes: readonly Note[],
  { solos }: Pick<Section, 'solos'>,
  part: PartId,
  bar: Ticks,
): readonly Note[] {
  const rests = solos.filter(({ over }) => over === part).map((solo) => inTicks(solo, bar));
  const own = solos.filter((solo) => solo.part === part).map((solo) => inTicks(solo, bar));
  if (rests.length === 0 && own.length === 0) return notes;
  const found = known.get(notes);
  if (found?.solos === solos && found.part === part && found.bar === bar) return found.notes;
  // A pick-up belongs to the solo's first bar.
  const kept =
    own.length === 0
      ? notes
      : notes.filter(({ start }) => own.some((stretch) => holds({ ...stretch, from: stretch.from - bar / 2 }, start)));
  const result = outside(kept, rests);
  known.set(notes, { solos, part, bar, notes: result });
  return result;
}

const change = (score: Score, section: SectionId, solos: (before: Section['solos']) => Section['solos']): Score => ({
  ...score,
  sections: score.sections.map((own) => (own.id === section ? { ...own, solos: solos(own.solos) } : own)),
});

/**
 * Gives some bars of a section to a part; another one rests there. A solo of the same part in that section makes
 * room.
 */
export const placeSolo = (score: Score, section: SectionId, solo: Solo): Score =>
  change(score, section, (before) => [...before.filter(({ part }) => part !== solo.part), solo]);

/** Takes a part's solo out of a section: whoever rested for it plays on. */
export const removeSolo = (score: Score, section: SectionId, part: PartId): Score =>
  change(score, section, (before) => before.filter((solo) => solo.part !== part));
