import { fitNotes } from '../song/fit';
import { groundOf, keyOf } from '../song/ground';
import { chordsIn, harmonyTake, partTake, soundingId, type Music } from '../song/resolve';
import { HARMONY, type Note, type PartTake, type Section } from '../song/schema';

/**
 * Only what Fendro made of chords follows other chords by itself; recorded, imported and edited notes stay where they
 * were put.
 */
const follows = ({ origin }: PartTake): boolean =>
  origin.how === 'drafted' || origin.how === 'fitted' || origin.how === 'voiced';

/** A take's notes over the chords that sound now: as they were made, or fitted where they were made for others. */
export function fittedNotes({ score, takes, heard }: Music, section: Section, take: PartTake): readonly Note[] {
  const { asking } = take.origin;
  const harmony = soundingId(section, HARMONY, heard);
  if (!asking?.role || !asking.brief || harmony === null || asking.harmony === harmony || !follows(take))
    return take.notes;
  const before = harmonyTake(takes, asking.harmony ?? null);
  if (!before) return take.notes;
  const { role, brief, ground } = asking;
  const to = { chords: chordsIn(section, takes, heard), key: keyOf(groundOf(score, section)) };
  return fitNotes(take.notes, { chords: before.chords, key: keyOf(ground) }, to, {
    role,
    low: brief.low,
    high: brief.high,
  });
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
    if (notes === take.notes || !take.origin.asking) return [];
    const source = take.origin.how === 'fitted' ? (take.origin.parents[0] ?? take.id) : take.id;
    return [
      {
        ...take,
        id: nameIt(),
        notes,
        origin: {
          ...take.origin,
          how: 'fitted',
          asking: { ...take.origin.asking, harmony, ground: groundOf(score, section) },
          parents: [source],
        },
      },
    ];
  });
}
