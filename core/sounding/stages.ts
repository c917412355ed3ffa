import { groundOf } from '../song/ground';
import { own } from '../song/look-up';
import type { Music } from '../song/resolve';
import type { Ground, Note, Part, Score, Section } from '../song/schema';
import { byStart, endsApart } from '../song/note-ends';
import { styleIn } from '../styles/styles';
import { barTicks } from '../theory/metre';
import { felt } from './feel';
import { grooved } from './groove';
import { humanised } from './humanise';
import { numberOf, remembering } from '../song/remember';
import { writtenNotes } from './written';

const swapped = remembering();

/** The drums of a kit that the writer has put in place of others. */
const onKit = (notes: readonly Note[], swaps: Part['swaps']): readonly Note[] =>
  Object.keys(swaps).length === 0
    ? notes
    : swapped(notes, String(numberOf(swaps)), () =>
        notes.map((note) => ({ ...note, pitch: own(swaps, String(note.pitch)) ?? note.pitch })).sort(byStart),
      );

const parted = remembering();

/**
 * Notes that end before the same pitch starts again, so that every note that starts ends by itself. Of notes that start
 * together on one pitch the louder stays.
 */
export const withoutOverlaps = (notes: readonly Note[]): readonly Note[] =>
  parted(notes, '', () => endsApart(notes, (before, after) => (after.velocity > before.velocity ? after : before)));

/** The chord line as it sounds: in the groove of its ground, without the hands of any part. */
export const strummedNotes = (notes: readonly Note[], ground: Ground): readonly Note[] =>
  withoutOverlaps(grooved(notes, ground));

/**
 * Written notes as they sound when a part plays them: in the groove, in the feel of its style, by its own hands, on its
 * own kit, and every one with an end of its own.
 */
function playedNotes(
  notes: readonly Note[],
  { id, role, brief, swaps, style }: Part,
  ground: Ground,
  song: Pick<Score, 'styles'>,
): readonly Note[] {
  const bar = barTicks(ground.metre);
  const { feel } = styleIn(song, style ?? ground.style);
  const inFeel = felt(grooved(notes, ground), feel, ground.feel ?? 100, role, bar);
  return withoutOverlaps(onKit(humanised(inFeel, brief.humanise, id, bar), swaps));
}

/** What a part sounds in one pass of a section, from the section's start, in order. */
export const soundingNotes = (music: Music, section: Section, part: Part, pass = 0): readonly Note[] =>
  playedNotes(writtenNotes(music, section, part.id, pass), part, groundOf(music.score, section), music.score);
