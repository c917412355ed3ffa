import type { Aspect, Hold, Note, PartTake, TakeNote } from '../song/schema';
import { struckTogether } from '../song/voices';
import type { Ticks } from '../theory/units';

/** Notes that start together, of which something is held. */
export interface HeldStroke {
  /** From the lowest up; as they are in their take. */
  readonly notes: readonly TakeNote[];
  readonly rhythm: boolean;
  readonly pitch: boolean;
  readonly dynamics: boolean;
}

/** A bar that has exactly these strokes, or, where only their rhythm is free, as many of them. */
export interface HeldBar {
  readonly strokes: readonly HeldStroke[];
  /** Until when notes of earlier bars sound into it, in ticks from the section's start. */
  readonly rings: Ticks;
}

/** What of a draft is given, in ticks from where it begins. */
export interface Held {
  readonly bars: ReadonlyMap<number, HeldBar>;
  /** Single strokes of other bars, in order; they stay where they are. */
  readonly strokes: readonly HeldStroke[];
  /** A line whose pitches are leant on wherever the chords allow; empty where there is none. */
  readonly leaning: readonly Note[];
}

export const NOTHING_HELD: Held = { bars: new Map(), strokes: [], leaning: [] };

/** The stretch that is drafted. */
export interface Stretch {
  /** Its first bar, counted from 0 in the section that the takes lie in. */
  readonly first: number;
  readonly bars: number;
  readonly barTicks: Ticks;
}

/** Notes by what starts together, in order, each stroke from its lowest note up. */
export const strokesOf = <N extends Note>(notes: readonly N[]): N[][] =>
  struckTogether(
    [...notes].sort((a, b) => a.start - b.start || a.pitch - b.pitch),
    ({ start }) => start,
  );

export const startOf = ({ notes }: HeldStroke): Ticks => notes[0]?.start ?? 0;

export const endOf = ({ notes }: HeldStroke): Ticks =>
  notes.reduce((end, { start, duration }) => Math.max(end, start + duration), 0);

/** The bar that a note belongs to: the one that it starts in, for a pick-up the first. */
export const barAt = (start: Ticks, barTicks: Ticks): number => Math.max(0, Math.floor(start / barTicks));

/** A take's notes as they lie in the stretch, cut where it ends. */
function within(notes: readonly TakeNote[], { first, bars, barTicks }: Stretch): TakeNote[] {
  const [from, length] = [first * barTicks, bars * barTicks];
  return notes
    .map((note) => ({ ...note, start: note.start - from }))
    .filter(({ start }) => start < length && (start >= 0 || first === 0))
    .map((note) => ({ ...note, duration: Math.min(note.duration, length - note.start) }));
}

const asked = (aspects: ReadonlySet<Aspect>): Pick<HeldStroke, Aspect> => ({
  rhythm: aspects.has('rhythm'),
  pitch: aspects.has('pitch'),
  dynamics: aspects.has('dynamics'),
});

/** A bar of a take. What leads into the first bar is not counted with its strokes: it stays as it is. */
function heldBar(bar: number, notes: readonly TakeNote[], aspects: ReadonlySet<Aspect>, barTicks: Ticks): HeldBar {
  const line = bar * barTicks;
  const own = notes.filter(({ start }) => barAt(start, barTicks) === bar);
  const before = notes.filter(({ start }) => start < line);
  return {
    strokes: strokesOf(own).map((stroke) => ({
      notes: stroke,
      ...asked((stroke[0]?.start ?? 0) < 0 ? new Set<Aspect>(['rhythm', 'pitch', 'dynamics']) : aspects),
    })),
    rings: before.reduce((end, { start, duration }) => Math.max(end, start + duration), line),
  };
}

/** The aspects of every note of a take that is held by itself. */
function heldNotes(holds: readonly Hold[], notes: readonly TakeNote[], together: boolean): Map<TakeNote, Set<Aspect>> {
  const held = new Map<TakeNote, Set<Aspect>>();
  for (const { notes: ids, aspects } of holds) {
    const wanted = new Set(ids);
    const starts = new Set(notes.filter(({ id }) => wanted.has(id)).map(({ start }) => start));
    for (const note of notes)
      if (wanted.has(note.id) || (together && starts.has(note.start)))
        held.set(note, new Set<Aspect>([...(held.get(note) ?? []), ...aspects, 'rhythm']));
  }
  return held;
}

/**
 * What some holds give to a draft.
 *
 * @param takes     the takes that the holds name, as they sound over the chords that are drafted to
 * @param together  true for lines, where a note is held with those that are struck with it
 */
export function heldOf(
  holds: readonly Hold[],
  takes: readonly PartTake[],
  stretch: Stretch,
  together: boolean,
): Pick<Held, 'bars' | 'strokes'> {
  const { barTicks } = stretch;
  const bars = new Map<number, HeldBar>();
  const owner = new Map<number, PartTake>();
  const notesOf = new Map(takes.map((take) => [take, within(take.notes, stretch)]));
  const own = (take: PartTake): Hold[] => holds.filter((hold) => hold.take === take.id);
  for (const hold of holds) {
    const take = takes.find(({ id }) => id === hold.take);
    if (take) for (const bar of hold.bars) owner.set(bar - stretch.first, owner.get(bar - stretch.first) ?? take);
  }
  for (const [bar, take] of owner) {
    if (bar < 0 || bar >= stretch.bars) continue;
    const aspects = own(take).flatMap((hold) => (hold.bars.includes(bar + stretch.first) ? hold.aspects : []));
    bars.set(bar, heldBar(bar, notesOf.get(take) ?? [], new Set(aspects), barTicks));
  }
  const strokes: HeldStroke[] = [];
  for (const take of takes)
    for (const [note, aspects] of heldNotes(own(take), notesOf.get(take) ?? [], together)) {
      const bar = barAt(note.start, barTicks);
      const counted = bars.get(bar);
      if (!counted) strokes.push({ notes: [note], ...asked(aspects) });
      else if (owner.get(bar) === take)
        bars.set(bar, { ...counted, strokes: counted.strokes.map(withNote(note, aspects)) });
    }
  return { bars, strokes: together ? joined(strokes) : strokes.sort((a, b) => startOf(a) - startOf(b)) };
}

/** A bar's stroke with what is held of one of its notes by itself. */
const withNote =
  (note: TakeNote, aspects: ReadonlySet<Aspect>) =>
  (stroke: HeldStroke): HeldStroke =>
    stroke.notes.some(({ id, start }) => id === note.id && start === note.start)
      ? {
          ...stroke,
          rhythm: true,
          pitch: stroke.pitch || aspects.has('pitch'),
          dynamics: stroke.dynamics || aspects.has('dynamics'),
        }
      : stroke;

/** Single notes that start together as one stroke, of which everything is held that is held of any. */
const joined = (single: readonly HeldStroke[]): HeldStroke[] =>
  strokesOf(single.flatMap(({ notes }) => notes)).map((notes) => {
    const parts = single.filter((stroke) => startOf(stroke) === notes[0]?.start);
    return {
      notes,
      rhythm: true,
      pitch: parts.some(({ pitch }) => pitch),
      dynamics: parts.some(({ dynamics }) => dynamics),
    };
  });
