import { withHolds } from './holds';
import { own } from './look-up';
import { HARMONY, type LineId, type PartId, type Section, type SectionId, type Source, type TakeId } from './schema';

/**
 * The only door to what a section holds: what its lines play. Whoever reads or changes that comes through here, so that
 * parts can have other sources than takes one day, and nobody else has to know.
 */

/** The group of versions that a section belongs to, by the id of its first version. */
export const groupOf = ({ id, version }: Pick<Section, 'id' | 'version'>): SectionId => version?.of ?? id;

/** What a part plays in a section; null where it plays nothing. */
export const sourceOf = (section: Section, part: PartId): Source | null => own(section.chosen, part) ?? null;

const takeIn = (source: Source | null): TakeId | null => source?.take ?? null;
const asSource = (take: TakeId | null): Source | null => (take === null ? null : { of: 'take', take });

/** The take of a line that the song has chosen in a section. */
export const chosenId = (section: Section, line: LineId): TakeId | null =>
  line === HARMONY ? section.harmony : takeIn(sourceOf(section, line));

/** Every line that a section knows, the chords first, with its choice; null where it has none. */
export const linesIn = (section: Section): readonly (readonly [line: LineId, take: TakeId | null])[] => [
  [HARMONY, section.harmony],
  ...Object.entries(section.chosen).map(([part, source]) => [part, takeIn(source)] as const),
];

/** The takes that a section has chosen, that of the chords first. */
export const choicesOf = (section: Section): TakeId[] =>
  linesIn(section).flatMap(([, take]) => (take === null ? [] : [take]));

/** True where a section has chosen something for any of its lines. */
export const hasMusic = (section: Section): boolean => choicesOf(section).length > 0;

/** A section that has chosen other takes; null leaves a line empty. */
export function withChoices(section: Section, choices: Iterable<readonly [LineId, TakeId | null]>): Section {
  let { harmony } = section;
  const chosen = { ...section.chosen };
  for (const [line, take] of choices)
    if (line === HARMONY) harmony = take;
    else chosen[line] = asSource(take);
  return { ...section, harmony, chosen };
}

export const withChoice = (section: Section, line: LineId, take: TakeId | null): Section =>
  withChoices(section, [[line, take]]);

/** A section in which a part has no say any more: what it plays, its solos, and the melody that chords go under. */
export function withoutPart(section: Section, part: PartId): Section {
  const { [part]: _gone, ...chosen } = section.chosen;
  const { harmonyBrief } = section;
  return {
    ...withHolds(section, part, []),
    chosen,
    solos: section.solos
      .filter((solo) => solo.part !== part)
      .map((solo) => (solo.over === part ? { ...solo, over: null } : solo)),
    harmonyBrief: harmonyBrief.under === part ? { ...harmonyBrief, under: null } : harmonyBrief,
  };
}

/** A section whose choices are looked at one by one, as where some of what they name may be gone. */
export const mapChoices = (
  section: Section,
  change: (line: LineId, take: TakeId | null) => TakeId | null | undefined,
): Section => ({
  ...section,
  harmony: change(HARMONY, section.harmony) ?? null,
  chosen: Object.fromEntries(
    Object.entries(section.chosen).flatMap(([part, source]) => {
      const kept = change(part, takeIn(source));
      return kept === undefined ? [] : [[part, asSource(kept)]];
    }),
  ),
});

/** A section without any music. */
export const emptied = (section: Section): Section => ({ ...section, harmony: null, chosen: {}, holds: {} });
