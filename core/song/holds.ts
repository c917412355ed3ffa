import { own } from './look-up';
import { ASPECTS, type Aspect, type Hold, type LineId, type Section, type Take, type TakeId } from './schema';

/** What a writer holds of a section's lines, so that no draft changes it: bars and single notes of takes. */

/** What a hold is put on or taken off: bars, counted from 0, or single notes of the take by their ids. */
export interface Grip {
  readonly bars: readonly number[];
  readonly notes: readonly number[];
}

/** A bar belongs to one take, of which one or more aspects stay. */
interface Held {
  readonly take: TakeId;
  readonly aspects: ReadonlySet<Aspect>;
}

const NONE: readonly Hold[] = [];

export const holdsOf = ({ holds }: Pick<Section, 'holds'>, line: LineId): readonly Hold[] => own(holds, line) ?? NONE;

/** The takes that anything is held of, in any line. */
export const heldTakes = ({ holds }: Pick<Section, 'holds'>): TakeId[] => [
  ...new Set(Object.values(holds).flatMap((line) => line.map(({ take }) => take))),
];

/** What is held of every bar of a line: of two holds of one bar the first says of which take. */
export function heldBars(holds: readonly Hold[]): ReadonlyMap<number, Held> {
  const bars = new Map<number, Held>();
  for (const { take, bars: own, aspects } of holds)
    for (const bar of own) {
      const before = bars.get(bar);
      if (!before) bars.set(bar, { take, aspects: new Set(aspects) });
      else if (before.take === take) bars.set(bar, { take, aspects: new Set([...before.aspects, ...aspects]) });
    }
  return bars;
}

/** Bars after each other of which the same is held; `to` is not included. */
export interface HeldRun {
  readonly from: number;
  readonly to: number;
  readonly aspects: readonly Aspect[];
}

/** The held bars of a section, by runs of which the same is held. */
export function heldRuns(holds: readonly Hold[], count: number): HeldRun[] {
  const runs: HeldRun[] = [];
  for (const [bar, { aspects: own }] of [...heldBars(holds)].sort(([a], [b]) => a - b)) {
    const aspects = inOrder(own);
    const last = runs.at(-1);
    if (bar >= count) continue;
    if (last?.to === bar && last.aspects.join() === aspects.join()) runs[runs.length - 1] = { ...last, to: bar + 1 };
    else runs.push({ from: bar, to: bar + 1, aspects });
  }
  return runs;
}

/** What is held of single notes, by take and id. */
export function heldNotes(holds: readonly Hold[]): ReadonlyMap<TakeId, ReadonlyMap<number, ReadonlySet<Aspect>>> {
  const takes = new Map<TakeId, Map<number, ReadonlySet<Aspect>>>();
  for (const { take, notes, aspects } of holds) {
    const own = takes.get(take) ?? new Map<number, ReadonlySet<Aspect>>();
    for (const note of notes) own.set(note, new Set([...(own.get(note) ?? []), ...aspects]));
    if (own.size > 0) takes.set(take, own);
  }
  return takes;
}

/**
 * The take that single notes of a take are held of, by their ids: itself, or one that they came from when it was drafted.
 */
export function holdersIn(holds: readonly Hold[], { id, origin }: Pick<Take, 'id' | 'origin'>): Map<number, TakeId> {
  const held = heldNotes(holds);
  const came = (origin.asking?.holds ?? []).flatMap(({ take, notes }) =>
    notes.flatMap((note) => (held.get(take)?.has(note) ? [[note, take] as const] : [])),
  );
  return new Map([...came, ...[...(held.get(id)?.keys() ?? [])].map((note) => [note, id] as const)]);
}

const inOrder = (aspects: ReadonlySet<Aspect>): Aspect[] => ASPECTS.filter((aspect) => aspects.has(aspect));

/** Holds as they are stored: those of one take and of the same aspects together. */
function gathered(
  bars: ReadonlyMap<number, Held>,
  notes: ReadonlyMap<TakeId, ReadonlyMap<number, ReadonlySet<Aspect>>>,
): Hold[] {
  const groups = new Map<string, { take: TakeId; aspects: Aspect[]; bars: number[]; notes: number[] }>();
  const groupOf = (take: TakeId, aspects: ReadonlySet<Aspect>): { bars: number[]; notes: number[] } => {
    const name = `${take} ${inOrder(aspects).join()}`;
    const group = groups.get(name) ?? { take, aspects: inOrder(aspects), bars: [], notes: [] };
    groups.set(name, group);
    return group;
  };
  for (const [bar, { take, aspects }] of [...bars].sort(([a], [b]) => a - b))
    if (aspects.size > 0) groupOf(take, aspects).bars.push(bar);
  for (const [take, own] of notes)
    for (const [note, aspects] of [...own].sort(([a], [b]) => a - b))
      if (aspects.size > 0) groupOf(take, aspects).notes.push(note);
  return [...groups].sort(([a], [b]) => (a < b ? -1 : 1)).map(([, group]) => group);
}

/** A section with other holds of a line. */
export function withHolds(section: Section, line: LineId, holds: readonly Hold[]): Section {
  const { [line]: _before, ...others } = section.holds;
  return { ...section, holds: holds.length > 0 ? { ...others, [line]: holds } : others };
}

function changed(
  section: Section,
  line: LineId,
  take: TakeId,
  grip: Grip,
  change: (aspects: ReadonlySet<Aspect>) => ReadonlySet<Aspect>,
): Section {
  const before = holdsOf(section, line);
  const bars = new Map(heldBars(before));
  // A bar that is held anew is one of the take that is heard now, in all that is held of it.
  for (const bar of grip.bars) bars.set(bar, { take, aspects: change(bars.get(bar)?.aspects ?? new Set()) });
  const notes = new Map(heldNotes(before));
  if (grip.notes.length > 0) {
    const own = new Map(notes.get(take));
    for (const note of grip.notes) own.set(note, change(own.get(note) ?? new Set()));
    notes.set(take, own);
  }
  return withHolds(section, line, gathered(bars, notes));
}

/** Holds aspects of bars or notes of a take. */
export const held = (section: Section, line: LineId, take: TakeId, grip: Grip, aspects: readonly Aspect[]): Section =>
  changed(section, line, take, grip, (before) => new Set([...before, ...aspects]));

/** Frees aspects of bars or notes, of whichever take a bar was held. */
export function freed(section: Section, line: LineId, take: TakeId, grip: Grip, aspects: readonly Aspect[]): Section {
  const bars = heldBars(holdsOf(section, line));
  const without = (before: ReadonlySet<Aspect>): ReadonlySet<Aspect> =>
    new Set([...before].filter((aspect) => !aspects.includes(aspect)));
  const single = changed(section, line, take, { bars: [], notes: grip.notes }, without);
  return grip.bars.reduce(
    (now, bar) => changed(now, line, bars.get(bar)?.take ?? take, { bars: [bar], notes: [] }, without),
    single,
  );
}

/** Whether all of some bars and notes are held in all of some aspects. */
export function isHeld(
  section: Pick<Section, 'holds'>,
  line: LineId,
  take: TakeId,
  grip: Grip,
  aspects: readonly Aspect[],
): boolean {
  const holds = holdsOf(section, line);
  const [bars, notes] = [heldBars(holds), heldNotes(holds).get(take)];
  const all = (own: ReadonlySet<Aspect> | undefined): boolean => aspects.every((aspect) => own?.has(aspect));
  return (
    grip.bars.length + grip.notes.length > 0 &&
    grip.bars.every((bar) => all(bars.get(bar)?.aspects)) &&
    grip.notes.every((note) => all(notes?.get(note)))
  );
}

/** A section in which what was held of one take is held of another that was made of it: by an edit, or by new chords. */
export const holdsFollow = (section: Section, line: LineId, from: TakeId, to: TakeId): Section => {
  const holds = holdsOf(section, line);
  return holds.some(({ take }) => take === from)
    ? withHolds(
        section,
        line,
        holds.map((hold) => (hold.take === from ? { ...hold, take: to } : hold)),
      )
    : section;
};

/** A section without what is held of takes or lines that are not there. */
export function withoutLostHolds(section: Section, isThere: (line: LineId, take: TakeId) => boolean): Section {
  return Object.entries(section.holds).reduce<Section>((now, [line, holds]) => {
    const left = holds.filter(({ take }) => isThere(line, take));
    return left.length === holds.length ? now : withHolds(now, line, left);
  }, section);
}
