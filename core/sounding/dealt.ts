import { foldedInto } from '../patterns/degrees';
import { byStart, endsApart } from '../song/note-ends';
import { remembering } from '../song/remember';
import { partTake, soundingId, type Music } from '../song/resolve';
import { isDrumRole } from '../song/roles';
import type { Note, Part, PartId, Section, TakeNote } from '../song/schema';
import { shares } from '../treat/dealing';
import { treatingIn, type Where } from '../treat/treated';
import { instrumentOf } from './instruments';

const NOBODY: readonly Part[] = [];
const NOTHING: readonly Note[] = [];

/** True where one part can play what another deals: drums go to drums, and notes to what has pitches. */
export const canTake = (from: Pick<Part, 'role'>, to: Pick<Part, 'role'>): boolean =>
  isDrumRole(from.role) === isDrumRole(to.role);

/** The parts that play a part's line in its place, in the order in which they are dealt to; none where it is not dealt. */
export function dealsTo({ deals, role }: Part, parts: readonly Part[]): readonly Part[] {
  if (!deals || deals.off) return NOBODY;
  return deals.to.flatMap((id) => parts.find((part) => part.id === id && canTake({ role }, part)) ?? []);
}

/** The same in a section, where the take that sounds there may have been dealt before. */
export function handsOf({ score, takes, heard }: Music, section: Section, part: Part): readonly Part[] {
  if (!part.deals) return NOBODY;
  const take = partTake(takes, soundingId(section, part.id, heard));
  return !take || take.dealt ? NOBODY : dealsTo(part, score.parts);
}

/** Notes from several hands in order, of which each ends before its pitch begins again; the louder of two stays. */
export const apart = (notes: readonly Note[]): readonly Note[] =>
  endsApart([...notes].sort(byStart), (before, after) => (after.velocity > before.velocity ? after : before));

/** Notes that an instrument does not reach are moved into its range by octaves. */
function inRange(notes: readonly Note[], { role, instrument, octave = 0 }: Part): readonly Note[] {
  if (isDrumRole(role)) return notes;
  const { low, high } = instrumentOf(instrument);
  const within = (pitch: number): number => foldedInto(pitch, low - 12 * octave, high - 12 * octave);
  if (notes.every(({ pitch }) => within(pitch) === pitch)) return notes;
  return apart(notes.map((note) => ({ ...note, pitch: within(note.pitch) })));
}

/** Notes of another part's take are none of this one's: they go by no ids. */
const nameless = (notes: readonly (Note | TakeNote)[]): readonly Note[] =>
  notes.map((note) => {
    const { id: _id, ...own } = { id: 0, ...note };
    return own;
  });

const KEPT = 64;
const dealt = remembering<ReadonlyMap<PartId, readonly Note[]>>(KEPT);

/**
 * What one part gets of what another deals out.
 *
 * @param line  what the dealing part plays, behind its treatments
 * @returns in order, in reach of its instrument, the same list as long as nothing changes
 */
export function shareOf(line: readonly Note[], from: Part, to: Part, where: Where): readonly Note[] {
  const hands = handsOf(where.music, where.section, from);
  const over = treatingIn(where, from);
  const reaches = hands.map(({ id, instrument, octave }) => `${id} ${instrument} ${octave ?? 0}`);
  const name = [from.id, from.deals?.way, over.pass, over.length, ...reaches].join(' ');
  const all = dealt(line, name, () => {
    const lists = shares(line, from.deals?.way ?? 'to all', hands.length, over);
    const share = (part: Part, notes: readonly Note[]): readonly Note[] =>
      part.id === from.id ? notes : inRange(nameless(notes), part);
    return new Map(hands.map((part, place) => [part.id, share(part, lists[place] ?? NOTHING)]));
  });
  return all.get(to.id) ?? NOTHING;
}

/**
 * All parts that a part shares its line with, by dealing or by being dealt to, however many hands lie between; itself
 * alone where it shares with nobody.
 */
export function dealtTogether(part: Part, parts: readonly Part[]): readonly Part[] {
  const together = new Set([part]);
  for (let before = 0; before < together.size;) {
    before = together.size;
    for (const from of parts) {
      const hands = dealsTo(from, parts);
      if (hands.length > 0 && [from, ...hands].some((other) => together.has(other)))
        [from, ...hands].forEach((other) => together.add(other));
    }
  }
  return parts.filter((other) => together.has(other));
}
