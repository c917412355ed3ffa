import { metreText } from '../theory/metre';
import type { Ticks } from '../theory/units';
import { withoutHand } from './chord-hand';
import { valueAt } from './curve';
import { freeName } from './edit';
import { fittedNotes } from './follow-chords';
import { barOf, groundOf } from './ground';
import { LIMITS } from './limits';
import { MOVE_KINDS } from './moves';
import { chordsIn, NOTHING_HEARD, partTake, sectionOf, type Music } from './resolve';
import {
  HARMONY,
  type ChordSpan,
  type Curve,
  type Moves,
  type Occurrence,
  type OccurrenceId,
  type Score,
  type Section,
  type SectionId,
  type Take,
  type TakeNote,
  type TempoPoint,
} from './schema';
import { chosenId, emptied, groupOf, linesIn, withChoices } from './section';
import { chordsTake, resectionedTake } from './take';

/** Sections that are cut in two, and places that follow each other joined to one. */

export interface Recut {
  readonly score: Score;
  readonly takes: readonly Take[];
  /** The section that the edit made. */
  readonly section: SectionId;
}

type NewId = (kind: string) => string;

/** Curves from a moment on, counted from there; none where nothing is left. */
function later(curve: Curve, at: Ticks): Curve {
  const rest = curve.filter((point) => point.at > at).map((point) => ({ ...point, at: point.at - at }));
  return [{ at: 0, value: Math.round(valueAt(curve, at)) }, ...rest.slice(0, 63)];
}

function movesLater(moves: Occurrence['moves'], at: Ticks): Occurrence['moves'] {
  if (!moves) return undefined;
  return Object.fromEntries(
    Object.entries(moves).map(([part, own]): [string, Moves] => [
      part,
      Object.fromEntries(MOVE_KINDS.flatMap((kind) => (own[kind] ? [[kind, later(own[kind], at)]] : []))),
    ]),
  );
}

const barsOf = (rests: Occurrence['rests'], keep: (bar: number) => boolean, by: number): Occurrence['rests'] => {
  const left = Object.entries(rests ?? {}).flatMap(([part, bars]) => {
    const own = bars.filter(keep).map((bar) => bar + by);
    return own.length === 0 ? [] : [[part, own] as const];
  });
  return left.length === 0 ? undefined : Object.fromEntries(left);
};

/** A place with what is its own, leaving out what is not there. */
const place = ({
  id,
  section,
  lift,
  rests,
  moves,
}: Partial<Occurrence> & Pick<Occurrence, 'id' | 'section'>): Occurrence => ({
  id,
  section,
  ...(lift === undefined ? {} : { lift }),
  ...(rests === undefined ? {} : { rests }),
  ...(moves === undefined ? {} : { moves }),
});

const chordsFrom = (chords: readonly ChordSpan[], at: Ticks): ChordSpan[] =>
  chords
    .filter(({ start, duration }) => start + duration > at)
    .map((span): ChordSpan => {
      if (span.start >= at) return { ...span, start: span.start - at };
      const { voicing, ...cut } = { ...span, start: 0, duration: span.start + span.duration - at };
      return voicing ? { ...cut, voicing: withoutHand(voicing) } : cut;
    });

const notesFrom = (notes: readonly TakeNote[], at: Ticks): TakeNote[] =>
  notes.filter(({ start }) => start >= at).map((note) => ({ ...note, start: note.start - at }));

/**
 * Cuts a section in two before one of its bars, wherever it is played. The first half keeps its takes, of which what lies
 * beyond it falls silent; the second gets takes of its own.
 *
 * @param bar  the first bar of the second half, counted from 0; inside the section
 * @throws RangeError where there is no such section or bar
 */
export function cutSection(music: Music, id: SectionId, bar: number, newId: NewId): Recut {
  const { score, takes } = music;
  const section = sectionOf(score, id);
  if (!section || bar < 1 || bar >= section.bars) throw new RangeError(`“${id}” has no bar ${bar} inside`);
  const at = bar * barOf(score, section);
  const length = section.bars * barOf(score, section) - at;
  const second = newId('section');
  const made: Take[] = [];
  const parent = chosenId(section, HARMONY);
  const harmony = parent === null ? null : newId('take');
  if (harmony !== null && parent !== null) {
    const chords = chordsFrom(chordsIn(section, takes, NOTHING_HEARD), at);
    made.push(chordsTake({ id: harmony, section: second, length }, chords, { how: 'edited', parents: [parent] }));
  }
  const written = { ...music, heard: NOTHING_HEARD };
  const choices = linesIn(section).flatMap(([line, take]) => {
    const own = line === HARMONY ? null : partTake(takes, take);
    if (!own) return [];
    const notes = notesFrom(fittedNotes(written, section, own), at);
    const cut = resectionedTake({ id: newId('take'), section: second, length }, own, notes, harmony);
    made.push(cut);
    return [[line, cut.id] as const];
  });
  const { tempos, ...plain } = section;
  const rest: Section = withChoices(
    {
      ...emptied(plain),
      ...(tempos ? { tempos: later(tempos, at) } : {}),
      id: second,
      version: null,
      name: freeName(score, section.name),
      bars: section.bars - bar,
      solos: section.solos
        .filter(({ to }) => to > bar)
        .map((solo) => ({ ...solo, from: Math.max(0, solo.from - bar), to: solo.to - bar })),
    },
    [[HARMONY, harmony], ...choices],
  );
  const energy = [...score.energy];
  const order = score.order.flatMap((own): Occurrence[] => {
    if (own.section !== id) return [own];
    const next = newId('occurrence');
    energy.forEach((point, index) => {
      if (point.occurrence === own.id && point.at >= at)
        energy[index] = { ...point, occurrence: next, at: point.at - at };
    });
    return [
      place({ ...own, rests: barsOf(own.rests, (one) => one < bar, 0) }),
      place({
        ...own,
        id: next,
        section: second,
        rests: barsOf(own.rests, (one) => one >= bar, -bar),
        moves: movesLater(own.moves, at),
      }),
    ];
  });
  const sections = score.sections.flatMap((own) => {
    if (own.id !== id) return [own];
    const solos = own.solos.filter(({ from }) => from < bar).map((solo) => ({ ...solo, to: Math.min(bar, solo.to) }));
    return [{ ...own, bars: bar, solos }, rest];
  });
  return { score: { ...score, sections, order, energy }, takes: made, section: second };
}

/** Why a place cannot be joined with the one after it, in words; null where it can. */
export function joinProblem(score: Score, id: OccurrenceId): string | null {
  const at = score.order.findIndex((own) => own.id === id);
  const [first, second] = [score.order[at], score.order[at + 1]].map((own) => own && sectionOf(score, own.section));
  if (!first || !second) return 'Nothing follows this section.';
  const [a, b] = [groundOf(score, first), groundOf(score, second)];
  const alike =
    a.tonic === b.tonic && a.scale === b.scale && a.tempo === b.tempo && metreText(a.metre) === metreText(b.metre);
  return alike ? null : 'These sections stand in another key, metre or tempo each: only like ones are joined.';
}

/**
 * Joins a place with the one after it to one section that plays both; other places of either stay as they are.
 *
 * @returns null where they cannot be joined
 */
export function joinPlaces(music: Music, id: OccurrenceId, newId: NewId): Recut | null {
  const { score, takes } = music;
  const at = score.order.findIndex((own) => own.id === id);
  const [here, next] = [score.order[at], score.order[at + 1]];
  const first = here && sectionOf(score, here.section);
  const second = next && sectionOf(score, next.section);
  if (!here || !next || !first || !second || joinProblem(score, id) !== null) return null;
  const long = first.bars * barOf(score, first);
  const length = long + second.bars * barOf(score, second);
  const section = newId('section');
  const made: Take[] = [];
  const parents = [first, second].flatMap((own) => chosenId(own, HARMONY) ?? []);
  const harmony = parents.length === 0 ? null : newId('take');
  if (harmony !== null) {
    const chords = [
      ...chordsIn(first, takes, NOTHING_HEARD)
        .filter(({ start }) => start < long)
        .map((span) => ({ ...span, duration: Math.min(span.duration, long - span.start) })),
      ...chordsIn(second, takes, NOTHING_HEARD).map((span) => ({ ...span, start: span.start + long })),
    ];
    made.push(chordsTake({ id: harmony, section, length }, chords, { how: 'edited', parents }));
  }
  const written = { ...music, heard: NOTHING_HEARD };
  const choices = score.parts.flatMap(({ id: part }) => {
    const [one, two] = [partTake(takes, chosenId(first, part)), partTake(takes, chosenId(second, part))];
    const base = one ?? two;
    if (!base) return [];
    const early = one ? fittedNotes(written, first, one).filter(({ start }) => start < long) : [];
    const late = two ? fittedNotes(written, second, two).map((note) => ({ ...note, start: note.start + long })) : [];
    const renumbered = late.map(({ id: _id, ...note }) => note);
    const also = one && two ? [two.id] : [];
    const take = resectionedTake(
      { id: newId('take'), section, length },
      base,
      [...early, ...renumbered],
      harmony,
      also,
    );
    made.push(take);
    return [[part, take.id] as const];
  });
  const order = score.order
    .filter((own) => own !== next)
    .map((own) => (own === here ? place({ ...joinedPlace(here, next, first.bars, long), section }) : own));
  const used = new Set(order.map((own) => own.section));
  const groups = new Set(score.sections.filter((own) => used.has(own.id)).map(groupOf));
  const left = score.sections.filter((own) => used.has(own.id) || groups.has(groupOf(own)));
  const energy = score.energy.map((point) =>
    point.occurrence === next.id ? { ...point, occurrence: here.id, at: point.at + long } : point,
  );
  const { tempos: _tempos, ...plain } = first;
  const tempos = joinedTempos(first.tempos, second.tempos, long);
  const joined: Section = withChoices(
    {
      ...emptied(plain),
      ...(tempos.length > 0 ? { tempos } : {}),
      id: section,
      version: null,
      name: left.some((own) => own.name === first.name)
        ? freeName({ ...score, sections: left }, first.name)
        : first.name,
      bars: first.bars + second.bars,
      solos: [
        ...first.solos,
        ...second.solos.map((solo) => ({ ...solo, from: solo.from + first.bars, to: solo.to + first.bars })),
      ],
    },
    [[HARMONY, harmony], ...choices],
  );
  const where = Math.max(0, left.findIndex((own) => own.id === first.id) + 1);
  const sections = [...left.slice(0, where), joined, ...left.slice(where)];
  return { score: { ...score, sections, order, energy }, takes: made, section };
}

/** The tempos of two sections as those of one: each goes as it did, with an edge between them. */
function joinedTempos(first: Section['tempos'], second: Section['tempos'], long: Ticks): readonly TempoPoint[] {
  if (!first && !second) return [];
  return [
    ...(first ?? []).filter((point) => point.at < long - 1),
    { at: long - 1, value: first ? valueAt(first, long) : 100 },
    { at: long, value: second ? valueAt(second, 0) : 100 },
    ...(second ?? []).filter((point) => point.at > 0).map((point) => ({ ...point, at: point.at + long })),
  ].slice(0, LIMITS.tempoPoints);
}

/** What is otherwise in two places, as one of both lengths. */
function joinedPlace(here: Occurrence, next: Occurrence, bars: number, long: Ticks): Occurrence {
  const rests = { ...here.rests };
  for (const [part, own] of Object.entries(next.rests ?? {}))
    rests[part] = [...(rests[part] ?? []), ...own.map((bar) => bar + bars)];
  return place({
    ...here,
    rests: Object.keys(rests).length === 0 ? undefined : rests,
    moves: joinedMoves(here, next, long),
  });
}

function joinedMoves(here: Occurrence, next: Occurrence, long: Ticks): Occurrence['moves'] {
  if (!next.moves) return here.moves;
  const moves: Record<string, Moves> = { ...here.moves };
  for (const [part, own] of Object.entries(next.moves)) {
    const before = moves[part] ?? {};
    moves[part] = Object.fromEntries(
      MOVE_KINDS.flatMap((kind) => {
        const points = [
          ...(before[kind] ?? []).filter((point) => point.at < long),
          ...(own[kind] ?? []).map((point) => ({ ...point, at: point.at + long })),
        ].slice(0, 64);
        return points.length === 0 ? [] : [[kind, points]];
      }),
    );
  }
  return moves;
}
