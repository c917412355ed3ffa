import * as fc from 'fast-check';
import { draft, keepsOf, type DraftRequest } from '../compose/draft';
import { barAt } from '../compose/held';
import type { Hold, Note, PartTake, TakeNote } from '../song/schema';
import { looseTake } from '../song/take';
import { barTicks } from '../theory/metre';
import { partRequests } from './arbitrary';

/** Takes that things are held of, for the laws of holding, varying and blending. */

/** A request together with a take of it, from which things are held. */
export interface Kept {
  readonly request: DraftRequest;
  readonly take: PartTake;
  readonly bar: number;
}

/** The notes of a draft; null where none can be made. */
export const notesOf = (request: DraftRequest, attempt: number): readonly Note[] | null => {
  const result = draft(request, attempt);
  return result.ok && result.content.of === 'part' ? result.content.notes : null;
};

/** A draft as a take. */
export const takeOf = (request: DraftRequest, attempt: number, id = 'take'): PartTake | null => {
  const notes = notesOf(request, attempt);
  return notes && looseTake({ id, section: 's', length: 1 }, 'part', notes, { how: 'edited' });
};

/**
 * Askings with a take of each.
 *
 * @param fits  selects askings before their takes are drafted, which is slow
 */
export const kept = (fits: (request: DraftRequest) => boolean = () => true): fc.Arbitrary<Kept> =>
  partRequests()
    .filter(fits)
    .map((request) => ({ request, take: takeOf(request, 0), bar: barTicks(request.asking.ground.metre) }))
    .filter((found): found is Kept => found.take !== null && found.take.notes.length > 0);

/** An asking that holds things of some takes. */
export const holding = (request: DraftRequest, holds: readonly Hold[], models: readonly PartTake[]): DraftRequest => ({
  ...request,
  asking: { ...request.asking, holds: [...holds] },
  models,
});
/** Whether single notes can be held of what an asking drafts, or bars alone. */
export const isLine = ({ asking }: DraftRequest): boolean => keepsOf(asking.role!) === 'notes';
/** The notes that begin in a bar. */
export const inBar = <N extends Note>(notes: readonly N[], of: number, bar: number): N[] =>
  notes.filter(({ start }) => barAt(start, bar) === of);
/** A note without its number in the take. */
const withoutId = ({ id: _id, ...note }: TakeNote): Note => note;
/** Notes without their numbers. */
export const plain = (notes: readonly Note[]): Note[] => notes.map((note) => withoutId({ id: 0, ...note }));
/** Lines of more than a handful of notes. */
export const isLineKept = ({ request, take }: Kept): boolean => isLine(request) && take.notes.length > 6;
