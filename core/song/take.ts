import type { Key } from '../theory/key';
import type { MidiNote, Ticks } from '../theory/units';
import type {
  Asking,
  Attempts,
  ChordSpan,
  Ground,
  HarmonyTake,
  Note,
  Origin,
  Over,
  Part,
  PartTake,
  Pattern,
  Role,
  Take,
  TakeNote,
  PartId,
  SectionId,
  TakeId,
} from './schema';

/**
 * The only maker of takes. A take says two things of itself: where it came from (`origin`), so that it can be made again
 * and traced back, and what it lies over (`over`), so that it can follow when the chords or the key change. An edit
 * comes from somewhere else and lies over the same.
 */

/** Where a take lies. */
export interface Place {
  readonly id: TakeId;
  readonly section: SectionId;
  readonly length: Ticks;
}

/** A take that was not drafted: how it came to be, from what, and from which takes. */
interface Source {
  readonly how: Exclude<Origin['how'], 'drafted'>;
  /** In words; nothing where there is nothing to say. */
  readonly from?: string;
  readonly parents?: readonly TakeId[];
}

const originOf = ({ how, from, parents = [] }: Source): Origin => ({
  how,
  ...(from === undefined ? {} : { from }),
  asking: null,
  seed: 0,
  attempts: null,
  parents,
});

/**
 * Notes with ids that no two of them share. Those that have one keep it, however they were moved; of notes that were cut
 * out of one, the first keeps it.
 *
 * @returns the same list where nothing is missing
 */
export function withNoteIds(notes: readonly (Note | TakeNote)[]): readonly TakeNote[] {
  const known = numbered.get(notes) ?? number(notes);
  numbered.set(notes, known);
  return known;
}

/** Lists of notes never change: the same list gives the same list, so that what sounds is known to be the same. */
const numbered = new WeakMap<readonly Note[], readonly TakeNote[]>();

function number(notes: readonly (Note | TakeNote)[]): readonly TakeNote[] {
  const idOf = (note: Note | TakeNote): number | null => ('id' in note ? note.id : null);
  const ids = notes.map(idOf);
  if (!ids.includes(null) && new Set(ids).size === ids.length) return notes as readonly TakeNote[];
  let next = ids.reduce<number>((most, id) => Math.max(most, (id ?? -1) + 1), 0);
  const taken = new Set<number>();
  return notes.map((note) => {
    const id = idOf(note);
    const own = id === null || taken.has(id) ? next++ : id;
    taken.add(own);
    return { ...note, id: own };
  });
}

/** What a part's notes lie over: they were made for these chords, in this key, for this role and register. */
const overChords = (
  harmony: TakeId,
  { tonic, scale }: Key,
  role: Role,
  { low, high }: { readonly low: MidiNote; readonly high: MidiNote },
): Over => ({ harmony, tonic, scale, role, low, high });

/** What drafting gave for an asking. */
export type Drafted =
  | { readonly of: 'part'; readonly part: PartId; readonly notes: readonly Note[] }
  | { readonly of: 'harmony'; readonly chords: readonly ChordSpan[] };

/** The takes that a draft holds something of, or is kin to. */
export const relativesIn = ({ holds = [], kin }: Asking): TakeId[] => [
  ...new Set([...holds.map(({ take }) => take), ...(kin?.takes ?? [])]),
];

/** A drafted take, which can be made again from its asking, its seed and the attempt of each stage. */
export function draftedTake(
  place: Place,
  { asking, seed, attempts }: { readonly asking: Asking; readonly seed: number; readonly attempts: Attempts },
  content: Drafted,
): Take {
  const origin: Origin = { how: 'drafted', asking, seed, attempts, parents: relativesIn(asking) };
  if (content.of === 'harmony') return { ...place, of: 'harmony', chords: content.chords, origin };
  const { harmony, role, brief, ground } = asking;
  return {
    ...place,
    of: 'part',
    part: content.part,
    notes: withNoteIds(content.notes),
    origin,
    over: harmony !== undefined && role && brief ? overChords(harmony, ground, role, brief) : null,
  };
}

/** Chords that were typed, picked, edited or brought in. */
export const chordsTake = (place: Place, chords: readonly ChordSpan[], source: Source): HarmonyTake => ({
  ...place,
  of: 'harmony',
  chords,
  origin: originOf(source),
});

/** A part's notes that stay where they were put, whatever the chords do. */
export const looseTake = (place: Place, part: PartId, notes: readonly Note[], source: Source): PartTake => ({
  ...place,
  of: 'part',
  part,
  notes: withNoteIds(notes),
  origin: originOf(source),
  over: null,
});

/**
 * Notes that Fendro made of a section's chords for a part, other than by drafting: phrases, voiced chords, endings.
 *
 * @param harmony  the chords; null where there are none to follow
 */
export const voicedTake = (
  place: Place,
  part: Pick<Part, 'id' | 'role' | 'brief'>,
  notes: readonly Note[],
  { harmony, ground, ...source }: Omit<Source, 'how'> & { readonly harmony: TakeId | null; readonly ground: Ground },
): PartTake => ({
  ...looseTake(place, part.id, notes, { ...source, how: 'voiced' }),
  over: harmony === null ? null : overChords(harmony, ground, part.role, part.brief),
});

/**
 * What was played by hand.
 *
 * @param from     how it was played, in words
 * @param harmony  the chords that the notes follow from then on; null where they stay as they were played
 * @param parents  the take into which or over which it was played
 */
export const playedTake = (
  place: Place,
  part: Pick<Part, 'id' | 'role' | 'brief'>,
  notes: readonly Note[],
  { harmony, ground, ...source }: Omit<Source, 'how'> & { readonly harmony: TakeId | null; readonly ground: Ground },
): PartTake => ({
  ...looseTake(place, part.id, notes, { ...source, how: 'played' }),
  over: harmony === null ? null : overChords(harmony, ground, part.role, part.brief),
});

/** What takes that go on by themselves are called by. */
const PATTERN_NAMES: Readonly<Record<Pattern['of'], string>> = {
  drawn: 'pattern',
  loops: 'loops',
  wandering: 'wandering notes',
};

/**
 * A take that goes on by itself.
 *
 * @param first    the notes of its first pass
 * @param harmony  the chords; null where there are none
 * @param before   the take that it was made of; null where there was none
 */
export const patternTake = (
  place: Place,
  part: Pick<Part, 'id' | 'role' | 'brief'>,
  pattern: Pattern,
  first: readonly Note[],
  {
    harmony,
    ground,
    before,
  }: { readonly harmony: TakeId | null; readonly ground: Ground; readonly before: TakeId | null },
): PartTake => ({
  ...looseTake(place, part.id, first, {
    how: 'drawn',
    from: PATTERN_NAMES[pattern.of],
    ...(before === null ? {} : { parents: [before] }),
  }),
  over: harmony === null ? null : overChords(harmony, ground, part.role, part.brief),
  pattern,
});

/** A take's own notes, without what it goes on by. */
function withoutPattern({ pattern: _pattern, ...take }: PartTake): PartTake {
  return take;
}

/**
 * What sounded in a pass, note for note, as a take of its own.
 *
 * @param from     which pass, in words
 * @param harmony  the chords that it sounded over; null where there were none
 */
export const caughtTake = (
  id: TakeId,
  before: PartTake,
  notes: readonly Note[],
  { from, harmony, ground }: { readonly from: string; readonly harmony: TakeId | null; readonly ground: Ground },
): PartTake => ({
  ...withoutPattern(before),
  id,
  notes: withNoteIds(notes),
  origin: originOf({ how: 'caught', from, parents: [before.id] }),
  over: before.over && harmony !== null ? { ...before.over, harmony, tonic: ground.tonic, scale: ground.scale } : null,
});

/** A take whose notes are what came of the part’s treatments, which they pass by from then on. */
export const behindTreatments = (take: PartTake): PartTake => ({ ...take, treated: true });

/** A take made of others, which stands where they do: behind treatments, or behind dealing, as any of them. */
export const behindLike = (take: PartTake, others: readonly PartTake[]): PartTake => ({
  ...take,
  ...(others.some(({ treated }) => treated) && { treated: true }),
  ...(others.some(({ dealt }) => dealt) && { dealt: true }),
});

/**
 * A part's own share of what was dealt out, behind all treatments: it is treated and dealt no further.
 *
 * @param part  whose share it is: another one than the take's, perhaps
 */
export const behindDealing = (take: PartTake, part: Pick<Part, 'id' | 'role' | 'brief'>): PartTake => ({
  ...behindTreatments(take),
  part: part.id,
  over: take.over && { ...take.over, role: part.role, low: part.brief.low, high: part.brief.high },
  dealt: true,
});

/**
 * Other notes in place of a take's, by the writer's hand: they go on following what it followed.
 *
 * @param also  takes that notes of it came from
 */
export const editedTake = (
  id: TakeId,
  before: PartTake,
  notes: readonly Note[],
  from?: string,
  also: readonly TakeId[] = [],
): PartTake => ({
  ...withoutPattern(before),
  id,
  notes: withNoteIds(notes),
  origin: originOf({ how: 'edited', ...(from === undefined ? {} : { from }), parents: [before.id, ...also] }),
});

/**
 * A take's notes as another section plays them: cut out of it, or put together with what follows.
 *
 * @param harmony  the chords of that section; null where it has none
 * @param also     further takes that notes of it came from
 */
export const resectionedTake = (
  place: Place,
  before: PartTake,
  notes: readonly Note[],
  harmony: TakeId | null,
  also: readonly TakeId[] = [],
): PartTake => ({
  ...withoutPattern(before),
  ...place,
  notes: withNoteIds(notes),
  origin: originOf({ how: 'edited', parents: [before.id, ...also] }),
  over: before.over && harmony !== null ? { ...before.over, harmony } : null,
});

/** The take that a fitted one was made of, however often it was fitted since. */
const sourceOf = ({ id, origin }: Take): TakeId => (origin.how === 'fitted' ? (origin.parents[0] ?? id) : id);

/** A take's notes moved to other chords or another key; how they were first made is still known. */
export const fittedTake = (id: TakeId, before: PartTake, notes: readonly Note[], over: Over | null): PartTake => ({
  ...withoutPattern(before),
  id,
  notes: withNoteIds(notes),
  origin: { ...before.origin, how: 'fitted', parents: [sourceOf(before)] },
  over,
});

/** Chords moved to another key. */
export const fittedChords = (id: TakeId, before: HarmonyTake, chords: readonly ChordSpan[]): HarmonyTake => ({
  ...before,
  id,
  chords,
  origin: originOf({ how: 'fitted', parents: [before.id] }),
});

/** One voice of a take for a part of its own. */
export const voiceTake = (
  id: TakeId,
  whole: PartTake,
  part: Pick<Part, 'id' | 'role' | 'brief'>,
  notes: readonly Note[],
  from: string,
): PartTake => ({
  ...withoutPattern(whole),
  id,
  part: part.id,
  notes: withNoteIds(notes),
  origin: originOf({ how: whole.origin.how === 'imported' ? 'imported' : 'voiced', from, parents: [whole.id] }),
  over: whole.over && { ...whole.over, role: part.role, low: part.brief.low, high: part.brief.high },
});

type Rename = (id: TakeId) => TakeId;

const renamedAsking = (asking: Asking, named: Rename): Asking => ({
  ...asking,
  ...(asking.harmony === undefined ? {} : { harmony: named(asking.harmony) }),
  ...(asking.holds ? { holds: asking.holds.map((hold) => ({ ...hold, take: named(hold.take) })) } : {}),
  ...(asking.kin ? { kin: renamedKin(asking.kin, named) } : {}),
  beside: asking.beside.map(named),
});

function renamedKin(kin: NonNullable<Asking['kin']>, named: Rename): NonNullable<Asking['kin']> {
  if (kin.by === 'variation') return { ...kin, takes: [named(kin.takes[0])] };
  return { ...kin, takes: [named(kin.takes[0]), named(kin.takes[1])] };
}

/**
 * A take as another version of its section has it: the same music, made the same way, under ids of its own.
 *
 * @param named  the id that a take goes by there; that of a take which is not there as it is
 */
export function copiedTake(take: Take, section: SectionId, named: Rename): Take {
  const { asking, parents } = take.origin;
  const changed = {
    id: named(take.id),
    section,
    origin: {
      ...take.origin,
      parents: parents.map(named),
      asking: asking === null ? null : renamedAsking(asking, named),
    },
  };
  if (take.of === 'harmony') return { ...take, ...changed };
  return { ...take, ...changed, over: take.over && { ...take.over, harmony: named(take.over.harmony) } };
}
