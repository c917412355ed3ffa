import './validation';
import type * as z from 'zod';
import { dealingTo } from './deal';
import { LIMITS } from './limits';
import { withoutLostHolds } from './holds';
import { own } from './look-up';
import { withoutMovesOf } from './moves';
import { playingAll } from './place';
import type { Takes } from './resolve';
import { linesIn, mapChoices } from './section';
import {
  energyPointSchema,
  groundSchema,
  HARMONY,
  harmonyTakeSchema,
  occurrenceSchema,
  partSchema,
  partTakeSchema,
  remarkSchema,
  sectionSchema,
  songMotifSchema,
  type LineId,
  type Score,
  type Section,
  type Take,
  type TakeId,
  type Occurrence,
} from './schema';
import { styleSchema } from './style';

/**
 * The one check of limits and cross-references. A score that passes it opens again after it was saved; every edit ends
 * here, and so does whatever comes in from files, styles and the shelf.
 */

/** What does not change was checked before: scores share it, so an edit costs what it touched. */
const sound = new WeakMap<object, z.ZodType>();

/** The first thing wrong with a value, with its place; null where it fits its schema. */
function issueIn(schema: z.ZodType, value: object, place: string): string | null {
  if (sound.get(value) === schema) return null;
  const parsed = schema.safeParse(value);
  if (parsed.success) {
    sound.set(value, schema);
    return null;
  }
  return `${place}: ${tellIssue(parsed.error)}`;
}

/** The first issue with its place in words. */
export function tellIssue(error: z.ZodError): string {
  const issue = error.issues[0];
  return issue ? `${issue.path.map(String).join(' › ') || 'as a whole'}: ${issue.message}` : 'unknown damage';
}

const first = <T>(items: readonly T[], problem: (item: T) => string | null): string | null => {
  for (const item of items) {
    const found = problem(item);
    if (found !== null) return found;
  }
  return null;
};

/** What a score counts that a song holds only so much of. */
type Counted = Pick<Score, 'parts' | 'sections' | 'order' | 'motifs' | 'energy' | 'styles'>;
const NOTHING: Counted = { parts: [], sections: [], order: [], motifs: [], energy: [], styles: [] };

/** Where there is too much of something, and more than before, in words that say what to do. */
function overLimit({ title, parts, sections, order, motifs, energy, styles }: Score, before: Counted): string | null {
  const grown = (now: readonly unknown[], was: readonly unknown[], most: number): boolean =>
    now.length > most && now.length > was.length;
  if (title === '') return 'A song needs a title.';
  if (title.length > LIMITS.title)
    return `A title has up to ${LIMITS.title} letters; this one has ${title.length}. Shorten it.`;
  if (grown(parts, before.parts, LIMITS.parts))
    return `A song holds up to ${LIMITS.parts} parts; this would make ${parts.length}. Remove some first, or bring in fewer.`;
  if (grown(sections, before.sections, LIMITS.sections))
    return (
      `A song holds up to ${LIMITS.sections} sections; this would make ${sections.length}. Take some out, ` +
      'or repeat one that is there.'
    );
  if (grown(order, before.order, LIMITS.places))
    return `A running order holds up to ${LIMITS.places} places; this would make ${order.length}. Take some out first.`;
  if (grown(motifs, before.motifs, LIMITS.motifs))
    return `A song remembers up to ${LIMITS.motifs} motifs; this would make ${motifs.length}. Forget one first.`;
  if (grown(energy, before.energy, LIMITS.energyPoints))
    return `An energy line holds up to ${LIMITS.energyPoints} points; this would make ${energy.length}. Draw it with fewer.`;
  if (grown(styles, before.styles, LIMITS.styles))
    return `A song carries up to ${LIMITS.styles} styles of your own; this would make ${styles.length}. Apply one of those instead.`;
  return null;
}

function twice(items: readonly { readonly id: string }[], what: string): string | null {
  const seen = new Set<string>();
  return first(items, ({ id }) => {
    if (seen.has(id)) return `Two ${what} share the id “${id}”.`;
    seen.add(id);
    return null;
  });
}

/** References of a section to parts and takes that are not there. */
function danglingIn(
  section: Section,
  parts: ReadonlySet<string>,
  motifs: ReadonlySet<string>,
  takes: Takes,
): string | null {
  const lost = (id: string | null, of: Take['of']): boolean => id !== null && own(takes, id)?.of !== of;
  return (
    first(linesIn(section), ([line, take]) => {
      if (line === HARMONY) return lost(take, 'harmony') ? `The chords of “${section.name}” are missing.` : null;
      return lost(take, 'part') || !parts.has(line)
        ? `A take that “${section.name}” has chosen, or its part, is missing.`
        : null;
    }) ??
    first(Object.entries(section.holds), ([line, holds]) =>
      holds.some(({ take }) => lost(take, line === HARMONY ? 'harmony' : 'part')) ||
      (line !== HARMONY && !parts.has(line))
        ? `A take that “${section.name}” holds something of, or its part, is missing.`
        : null,
    ) ??
    first(section.solos, ({ part, over, from, to }) =>
      parts.has(part) && (over === null || parts.has(over)) && from < to
        ? null
        : `A solo in “${section.name}” names a part that is missing.`,
    ) ??
    (section.plan.motif === null || motifs.has(section.plan.motif)
      ? null
      : `The motif that “${section.name}” has in its plan is missing.`)
  );
}

function dangling(score: Score, takes: Takes): string | null {
  const parts = new Set(score.parts.map(({ id }) => id));
  const sections = new Set(score.sections.map(({ id }) => id));
  const places = new Set(score.order.map(({ id }) => id));
  const motifs = new Set<string>(score.motifs.map(({ id }) => id));
  return (
    twice(score.parts, 'parts') ??
    twice(score.sections, 'sections') ??
    twice(score.order, 'places of the running order') ??
    twice(score.motifs, 'motifs') ??
    twice(score.styles, 'styles') ??
    first(score.parts, ({ name, deals }) =>
      (deals?.to ?? []).every((to) => parts.has(to)) ? null : `A part that “${name}” deals to is missing.`,
    ) ??
    first(score.order, ({ section }) =>
      sections.has(section) ? null : 'A place of the running order names a section that is missing.',
    ) ??
    first(score.order, ({ rests = {}, moves = {} }) =>
      [...Object.keys(rests), ...Object.keys(moves)].every((part) => parts.has(part))
        ? null
        : 'A part that rests or moves in one place is missing.',
    ) ??
    first(score.energy, ({ occurrence }) =>
      places.has(occurrence) ? null : 'A point of the energy line belongs to a place that is missing.',
    ) ??
    first(score.sections, (section) => danglingIn(section, parts, motifs, takes))
  );
}

/**
 * What would keep a score from being opened again, or makes it grow past what a song holds, in plain words, or null.
 *
 * @param takes   the takes that it may refer to
 * @param before  what it was before an edit; the score itself where it only comes from storage
 */
export function scoreProblem(score: Score, takes: Takes, before: Counted = NOTHING): string | null {
  if (score.order.length === 0) return 'A song needs at least one section in its running order.';
  return (
    overLimit(score, before) ??
    issueIn(groundSchema, score.ground, 'the ground') ??
    first(score.parts, (part) => issueIn(partSchema, part, `the part “${part.name}”`)) ??
    first(score.sections, (section) => issueIn(sectionSchema, section, `the section “${section.name}”`)) ??
    first(score.order, (place) => issueIn(occurrenceSchema, place, 'a place of the running order')) ??
    first(score.motifs, (motif) => issueIn(songMotifSchema, motif, `the motif “${motif.name}”`)) ??
    first(score.energy, (point) => issueIn(energyPointSchema, point, 'the energy line')) ??
    first(score.styles, (style) => issueIn(styleSchema, style, `the style “${style.name}”`)) ??
    first(Object.values(score.remarks), (remark) => issueIn(remarkSchema, remark, 'a verdict')) ??
    dangling(score, takes)
  );
}

/** What would keep a take from being opened again, in plain words, or null. */
export const takeProblem = (take: Take): string | null =>
  take.of === 'part' ? issueIn(partTakeSchema, take, 'this take') : issueIn(harmonyTakeSchema, take, 'these chords');

/**
 * The score without references to what is not there: choices of lost takes become empty, places of lost sections and
 * points of lost places go, what comes twice stays once. For songs that come from storage and from files.
 *
 * @returns the score, and what was left out
 */
export function withoutDangling(
  score: Score,
  takes: Takes,
): { readonly score: Score; readonly leftOut: readonly string[] } {
  const leftOut: string[] = [];
  const once = <T extends { readonly id: string }>(items: readonly T[]): T[] => {
    const seen = new Set<string>();
    return items.filter(({ id }) => {
      if (seen.has(id)) leftOut.push(id);
      return !seen.has(id) && seen.add(id);
    });
  };
  const keep = <T>(items: readonly T[], holds: (item: T) => boolean, name: (item: T) => string): T[] =>
    items.filter((item) => holds(item) || (leftOut.push(name(item)), false));
  const present = once(score.parts);
  const known = new Set(present.map(({ id }) => id));
  const parts = present.map((part) => dealingTo(part, (to) => known.has(to)));
  const motifs = once(score.motifs);
  const remembered = new Set<string>(motifs.map(({ id }) => id));
  const there = (id: string | null, of: Take['of']): string | null =>
    id !== null && own(takes, id)?.of === of ? id : null;
  const isThere = (line: LineId, take: TakeId): boolean =>
    line === HARMONY ? there(take, 'harmony') !== null : known.has(line) && there(take, 'part') !== null;
  const sections = once(score.sections).map((section) => ({
    ...withoutLostHolds(
      mapChoices(section, (line, id) =>
        line === HARMONY ? there(id, 'harmony') : known.has(line) ? there(id, 'part') : undefined,
      ),
      isThere,
    ),
    plan: remembered.has(section.plan.motif ?? '') ? section.plan : { ...section.plan, motif: null },
    solos: keep(
      section.solos,
      ({ part, from, to }) => known.has(part) && from < to,
      ({ part }) => `solo of ${part}`,
    ).map((solo) => (solo.over !== null && !known.has(solo.over) ? { ...solo, over: null } : solo)),
  }));
  const ids = new Set(sections.map(({ id }) => id));
  const order = keep(
    once(score.order),
    ({ section }) => ids.has(section),
    ({ id }) => id,
  ).map((place) =>
    [...Object.keys(place.rests ?? {}), ...Object.keys(place.moves ?? {})]
      .filter((part) => !known.has(part))
      .reduce<Occurrence>((own, part) => withoutMovesOf(playingAll(own, part), part), place),
  );
  const placed = order.length === 0 && sections[0] ? [{ id: 'occurrence-1', section: sections[0].id }] : order;
  const places = new Set(placed.map(({ id }) => id));
  const energy = keep(
    score.energy,
    ({ occurrence }) => places.has(occurrence),
    ({ occurrence }) => `energy of ${occurrence}`,
  );
  return { score: { ...score, parts, sections, order: placed, motifs, energy, styles: once(score.styles) }, leftOut };
}
