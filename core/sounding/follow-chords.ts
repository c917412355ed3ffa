import { fitNotes } from '../song/fit';
import { groundOf, keyOf } from '../song/ground';
import { chordsIn, harmonyTake, partTake, soundingId, type Music } from '../song/resolve';
import { HARMONY, type PartTake, type Section, type TakeNote } from '../song/schema';
import { fittedTake, withNoteIds } from '../song/take';

/** A take's notes over the chords that sound now: as they were made, or fitted where they were made for others. */
export function fittedNotes({ score, takes, heard }: Music, section: Section, take: PartTake): readonly TakeNote[] {
  const { over } = take;
  const harmony = soundingId(section, HARMONY, heard);
  if (!over || harmony === null || over.harmony === harmony) return take.notes;
  const before = harmonyTake(takes, over.harmony);
  if (!before) return take.notes;
  const to = { chords: chordsIn(section, takes, heard), key: keyOf(groundOf(score, section)) };
  return withNoteIds(fitNotes(take.notes, { chords: before.chords, key: over }, to, over));
}

/**
 * The takes that a change of chords makes of the parts that follow it, so that what was heard is kept note for note.
 *
 * @param music   the song after the change
 * @param nameIt  makes the id of a new take
 * @returns new takes and which part each is chosen for; parts that stay as they are, are left out
 */
export function fittedTakes(music: Music, section: Section, nameIt: () => string): PartTake[] {
  const { score, takes, heard } = music;
  const harmony = soundingId(section, HARMONY, heard);
  return score.parts.flatMap((part): PartTake[] => {
    const take = partTake(takes, soundingId(section, part.id, heard));
    if (!take || harmony === null) return [];
    const notes = fittedNotes(music, section, take);
    if (notes === take.notes || !take.over) return [];
    const { tonic, scale } = groundOf(score, section);
    return [fittedTake(nameIt(), take, notes, { ...take.over, harmony, tonic, scale })];
  });
}
