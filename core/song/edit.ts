import { holdsFollow } from './holds';
import { capitalised, LIMITS, numbered } from './limits';
import { own } from './look-up';
import type {
  Brief,
  Chain,
  ChordSetting,
  Deal,
  EnergyPoint,
  Ground,
  HarmonyBrief,
  Lean,
  LineId,
  Occurrence,
  Part,
  Remark,
  Score,
  Section,
  SectionKind,
  Verdict,
  OccurrenceId,
  SectionId,
  TakeId,
  PartId,
} from './schema';
import { barOf } from './ground';
import { withoutMovesOf } from './moves';
import { playingAll } from './place';
import { temposMoved } from './tempos';
import { planned } from './plan';
import { groupOf, withChoice, withoutPart } from './section';
import { dealingTo } from './deal';

/** Every edit is a pure function from score to score; what does not apply returns the score unchanged. */

const replace = <T extends { readonly id: string }>(items: readonly T[], id: T['id'], change: (item: T) => T): T[] =>
  items.map((item) => (item.id === id ? change(item) : item));

export const setTitle = (score: Score, title: string): Score => ({ ...score, title });

export const setGround = (score: Score, change: Partial<Ground>): Score => ({
  ...score,
  ground: { ...score.ground, ...change },
});

export const addPart = (score: Score, part: Part): Score => ({ ...score, parts: [...score.parts, part] });

export const removePart = (score: Score, id: PartId): Score => ({
  ...score,
  parts: score.parts.filter((part) => part.id !== id).map((part) => dealingTo(part, (to) => to !== id)),
  sections: score.sections.map((section) => withoutPart(section, id)),
  order: score.order.map((place) => withoutMovesOf(playingAll(place, id), id)),
});

export const changePart = (score: Score, id: PartId, change: Partial<Omit<Part, 'id' | 'role'>>): Score => ({
  ...score,
  parts: replace(score.parts, id, (part) => ({ ...part, ...change })),
});

/** @param deal  how the part's line is shared out; null where it plays it itself */
export const dealPart = (score: Score, id: PartId, deal: Deal | null): Score => ({
  ...score,
  parts: replace(score.parts, id, ({ deals: _before, ...part }) => (deal ? { ...part, deals: deal } : part)),
});

/** @param chain  what all takes of the part go through; empty where they sound as they are written */
export const treatPart = (score: Score, id: PartId, chain: Chain): Score => ({
  ...score,
  parts: replace(score.parts, id, ({ treatments: _before, ...part }) =>
    chain.every((branch) => branch.length === 0) ? part : { ...part, treatments: chain },
  ),
});

export const changeBrief = (score: Score, id: PartId, change: Partial<Brief>): Score => ({
  ...score,
  parts: replace(score.parts, id, (part) => ({ ...part, brief: { ...part.brief, ...change } })),
});

/** @param leans  how the part's brief leans by itself; empty where it does not */
export const leanBrief = (score: Score, id: PartId, leans: readonly Lean[]): Score => ({
  ...score,
  parts: replace(score.parts, id, (part) => {
    const { leans: _before, ...brief } = part.brief;
    return { ...part, brief: leans.length === 0 ? brief : { ...brief, leans } };
  }),
});

export const changeHarmonyBrief = (score: Score, sectionId: SectionId, change: Partial<HarmonyBrief>): Score => ({
  ...score,
  sections: replace(score.sections, sectionId, (section) => ({
    ...section,
    harmonyBrief: { ...section.harmonyBrief, ...change },
  })),
});

/** A section's length; what its tempo does at its end stays there. */
const withBars = (score: Score, section: Section, bars: number): Partial<Section> => ({
  bars,
  ...(section.tempos ? { tempos: temposMoved(section.tempos, (bars - section.bars) * barOf(score, section)) } : {}),
});

/** Changes a section; its name and kind are those of all its versions. */
export function changeSection(
  score: Score,
  id: SectionId,
  { bars, ...shared }: Partial<Pick<Section, 'name' | 'kind' | 'bars'>>,
): Score {
  const changed = score.sections.find((section) => section.id === id);
  if (!changed) return score;
  const group = groupOf(changed);
  return {
    ...score,
    sections: score.sections.map((section) =>
      groupOf(section) === group
        ? {
            ...section,
            ...shared,
            ...(section === changed && bars !== undefined ? withBars(score, section, bars) : {}),
          }
        : section,
    ),
  };
}

export const changeChordSetting = (score: Score, sectionId: SectionId, change: Partial<ChordSetting>): Score => ({
  ...score,
  sections: replace(score.sections, sectionId, (section) => ({
    ...section,
    chordSetting: { ...section.chordSetting, ...change },
  })),
});

/** Changes what is held of a section's lines, by one of the functions of holds.ts. */
export const changeHolds = (score: Score, sectionId: SectionId, change: (section: Section) => Section): Score => ({
  ...score,
  sections: replace(score.sections, sectionId, change),
});

/**
 * Adds a section and lets it sound once, after `after` or at the end. What the song remembers first is planned for it, as
 * its kind usually uses it.
 */
export function addSection(score: Score, section: Section, occurrence: OccurrenceId, after?: OccurrenceId): Score {
  const added = { ...score, sections: [...score.sections, section] };
  const [motif] = score.motifs;
  const known = motif ? planned(added, motif.id, [section.id]) : added;
  return insertOccurrence(known, { id: occurrence, section: section.id }, after);
}

export function insertOccurrence(score: Score, occurrence: Occurrence, after?: OccurrenceId): Score {
  const place = score.order.findIndex(({ id }) => id === after);
  const order = [...score.order];
  order.splice(place < 0 ? order.length : place + 1, 0, occurrence);
  return { ...score, order };
}

/** Moves one occurrence to another place, counted from 0 after its removal. */
export function moveOccurrence(score: Score, id: OccurrenceId, to: number): Score {
  const moved = score.order.find((occurrence) => occurrence.id === id);
  if (!moved) return score;
  const order = score.order.filter((occurrence) => occurrence !== moved);
  order.splice(to, 0, moved);
  return { ...score, order };
}

/**
 * Takes one occurrence out of the running order; its section stays for as long as it, or another version of it, sounds
 * elsewhere. The last one stays.
 */
export function removeOccurrence(score: Score, id: OccurrenceId): Score {
  const gone = score.order.find((occurrence) => occurrence.id === id);
  if (!gone || score.order.length === 1) return score;
  const order = score.order.filter((occurrence) => occurrence !== gone);
  const energy = score.energy.filter(({ occurrence }) => occurrence !== id);
  const groups = new Map(score.sections.map((section) => [section.id, groupOf(section)]));
  const group = groups.get(gone.section);
  const still = order.some(({ section }) => groups.get(section) === group);
  return {
    ...score,
    order,
    energy,
    sections: still ? score.sections : score.sections.filter((section) => groupOf(section) !== group),
  };
}

/** Draws the energy line of one place anew. */
export const setEnergy = (
  score: Score,
  occurrence: OccurrenceId,
  points: readonly Omit<EnergyPoint, 'occurrence'>[],
): Score => ({
  ...score,
  energy: [
    ...score.energy.filter((point) => point.occurrence !== occurrence),
    ...points.map((point) => ({ ...point, occurrence })),
  ],
});

/** Makes a take the one that sounds in the song; null leaves the line empty. */
export const choose = (score: Score, sectionId: SectionId, line: LineId, take: TakeId | null): Score => ({
  ...score,
  sections: replace(score.sections, sectionId, (section) => withChoice(section, line, take)),
});

/** Chooses a take that was made of another, which goes on being held in what was held of that one. */
export const chooseMadeOf = (
  score: Score,
  sectionId: SectionId,
  line: LineId,
  parent: TakeId | null,
  take: TakeId,
): Score => ({
  ...score,
  sections: replace(score.sections, sectionId, (section) => {
    const chosen = withChoice(section, line, take);
    return parent === null ? chosen : holdsFollow(chosen, line, parent, take);
  }),
});

/** Writes a verdict or a name beside a take; takes themselves never change. */
export function remark(score: Score, take: TakeId, change: Partial<Remark>): Score {
  const before: Remark = own(score.remarks, take) ?? { verdict: null };
  return { ...score, remarks: { ...score.remarks, [take]: { ...before, ...change } } };
}

/** Names a take; an empty name takes it back. */
export function nameTake(score: Score, take: TakeId, name: string): Score {
  const { name: _before, ...before }: Remark = own(score.remarks, take) ?? { verdict: null };
  const text = name.trim();
  return { ...score, remarks: { ...score.remarks, [take]: text === '' ? before : { ...before, name: text } } };
}

export const nameOf = (score: Score, take: TakeId): string | null => own(score.remarks, take)?.name ?? null;

export const verdictOf = (score: Score, take: TakeId): Verdict | null => own(score.remarks, take)?.verdict ?? null;

/** “Verse”, then “Verse 2” … so that no two sections share a name. */
export const freeName = (score: Score, base: string): string =>
  numbered(base, new Set(score.sections.map(({ name }) => name)), LIMITS.name);

export const nameOfKind = (kind: SectionKind): string => capitalised(kind);
