import { fitNotes } from './fit';
import { groundOf, keyOf } from './ground';
import type { Key } from '../theory/key';
import { harmonyTake, partTake, soundingId, type Music, type Takes } from './resolve';
import { HARMONY, type PartTake, type Section, type TakeId, type TakeNote } from './schema';
import { fittedTake, withNoteIds } from './take';

/**
 * A take's notes over some chords: as they were made, or fitted where they were made for others.
 *
 * @param harmony  the chords' take
 * @param key      in which they sound
 */
export function notesOver(take: PartTake, harmony: TakeId | null, key: Key, takes: Takes): readonly TakeNote[] {
  const { over } = take;
  if (!over || over.harmony === harmony) return take.notes;
  const [before, now] = [harmonyTake(takes, over.harmony), harmonyTake(takes, harmony)];
  if (!before || !now) return take.notes;
  return withNoteIds(fitNotes(take.notes, { chords: before.chords, key: over }, { chords: now.chords, key }, over));
}

/** A take's notes over the chords that sound now. */
export const fittedNotes = ({ score, takes, heard }: Music, section: Section, take: PartTake): readonly TakeNote[] =>
  notesOver(take, soundingId(section, HARMONY, heard), keyOf(groundOf(score, section)), takes);

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
    // What goes on by itself follows by itself.
    if (!take || take.pattern || harmony === null) return [];
    const notes = fittedNotes(music, section, take);
    if (notes === take.notes || !take.over) return [];
    const { tonic, scale } = groundOf(score, section);
    return [fittedTake(nameIt(), take, notes, { ...take.over, harmony, tonic, scale })];
  });
}
