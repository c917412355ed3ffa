import { heldTakes } from './holds';
import { lineOf } from './logbook';
import { own } from './look-up';
import { soundingId, type HeardTakes, type Music } from './resolve';
import { type OccurrenceId, type Score, type Section, type SectionId, type Take, type TakeId } from './schema';
import { choicesOf, groupOf, linesIn, withChoices } from './section';
import { copiedTake } from './take';

/**
 * Versions of a section: sections of one group, of which each place of the running order plays one. Each has takes, holds
 * and settings of its own, so that none can be touched through another.
 */

/** All versions of a section, itself among them, in the order in which they were made. */
export const versionsOf = (score: Score, section: Section): readonly Section[] =>
  section.version === null ? [section] : score.sections.filter((other) => groupOf(other) === groupOf(section));

/** The sections that sound in the running order, each once, in the order in which they are first heard. */
export function placedSections({ sections, order }: Pick<Score, 'sections' | 'order'>): Section[] {
  const known = new Map(sections.map((section) => [section.id, section]));
  return [...new Set(order.map(({ section }) => section))].flatMap((id) => known.get(id) ?? []);
}

/**
 * Takes of a section that a copy of it needs: what sounds, is chosen or held, was kept or named, and what those were made
 * of, in the order in which they came to be.
 *
 * @param sounding  the section as it has chosen what is heard of it
 */
function takesToCopy({ score, takes }: Music, section: Section, sounding: Section): readonly Take[] {
  const wanted = new Set<TakeId>();
  const open: (TakeId | null)[] = [
    ...choicesOf(sounding),
    ...choicesOf(section),
    ...heldTakes(section),
    ...Object.entries(score.remarks).flatMap(([id, { verdict, name }]) => (verdict === 'kept' || name ? [id] : [])),
  ];
  for (let id = open.pop(); id !== undefined; id = open.pop()) {
    const take = id === null ? undefined : own(takes, id);
    if (take?.section !== section.id || wanted.has(take.id)) continue;
    wanted.add(take.id);
    // Only of the same line: what else a take listened to is not heard through it.
    open.push(...take.origin.parents.filter((parent) => isOfLine(own(takes, parent), take)));
  }
  return Object.values(takes).filter(({ id }) => wanted.has(id));
}

const isOfLine = (other: Take | undefined, take: Take): boolean =>
  other !== undefined && lineOf(other) === lineOf(take);

export interface Copied {
  readonly score: Score;
  /** The copies of takes that the version plays, keeps and holds. */
  readonly takes: readonly Take[];
  readonly section: SectionId;
}

/**
 * Makes another version of a section that plays what is heard of it now; no place of the running order plays it yet.
 *
 * @param id  a section of the score
 * @throws RangeError where there is no such section
 */
export function copyVersion(music: Music, id: SectionId, newId: (kind: string) => string): Copied {
  const { score, heard } = music;
  const at = score.sections.findIndex((section) => section.id === id);
  const of = score.sections[at];
  if (!of) throw new RangeError(`there is no section “${id}”`);
  const section = newId('section');
  const sounding = withSounding(of, heard);
  const copied = takesToCopy(music, of, sounding);
  const ids = new Map(copied.map((take) => [take.id, newId('take')]));
  const named = (take: TakeId): TakeId => ids.get(take) ?? take;
  const group = groupOf(of);
  const copy: Section = {
    ...sounding,
    ...withChoices(
      sounding,
      linesIn(sounding).map(([line, take]) => [line, take === null ? null : named(take)]),
    ),
    id: section,
    version: { of: group, name: null },
    holds: Object.fromEntries(
      Object.entries(of.holds).map(([line, holds]) => [
        line,
        holds.map((hold) => ({ ...hold, take: named(hold.take) })),
      ]),
    ),
  };
  const last = score.sections.findLastIndex((other) => groupOf(other) === group);
  const sections = score.sections.map((other, index) =>
    index === at && other.version === null ? { ...other, version: { of: group, name: null } } : other,
  );
  sections.splice(last + 1, 0, copy);
  const remarks = copied.flatMap((take) => {
    const remark = own(score.remarks, take.id);
    return remark ? [[named(take.id), remark] as const] : [];
  });
  return {
    score: { ...score, sections, remarks: { ...score.remarks, ...Object.fromEntries(remarks) } },
    takes: copied.map((take) => copiedTake(take, section, named)),
    section,
  };
}

/** A section that has chosen what is heard of it. */
const withSounding = (section: Section, heard: HeardTakes): Section => {
  const lines = new Set([...linesIn(section).map(([line]) => line), ...Object.keys(own(heard, section.id) ?? {})]);
  return withChoices(
    section,
    [...lines].map((line) => [line, soundingId(section, line, heard)]),
  );
};

/**
 * Lets places of the running order play another version.
 *
 * @param place  one of them; all that play what it plays follow, but for `only`
 * @param only   true where the others stay as they are
 */
export function switchVersion(score: Score, place: OccurrenceId, to: SectionId, only = false): Score {
  const from = score.order.find(({ id }) => id === place)?.section;
  if (from === undefined || (from === to && !only)) return score;
  const order = score.order.map((own) =>
    own.section !== to && (only ? own.id === place : own.section === from) ? { ...own, section: to } : own,
  );
  return order.every((own, index) => own === score.order[index]) ? score : { ...score, order };
}

/** Names a version; an empty name lets it be called by what sets it apart. */
export const nameVersion = (score: Score, id: SectionId, name: string): Score => ({
  ...score,
  sections: score.sections.map((section) =>
    section.id === id && section.version
      ? { ...section, version: { ...section.version, name: name.trim() || null } }
      : section,
  ),
});

/** Takes a version out; what played it plays the one before it, or after it. The only one stays. */
export function removeVersion(score: Score, id: SectionId): Score {
  const gone = score.sections.find((section) => section.id === id);
  const group = gone ? versionsOf(score, gone) : [];
  const at = group.findIndex((section) => section.id === id);
  const heir = group[at - 1] ?? group[at + 1];
  if (!gone || !heir) return score;
  const left = group.length === 2 ? heir.id : null;
  return {
    ...score,
    sections: score.sections.flatMap((section) => {
      if (section === gone) return [];
      return [section.id === left ? { ...section, version: null } : section];
    }),
    order: score.order.map((place) => (place.section === id ? { ...place, section: heir.id } : place)),
  };
}
