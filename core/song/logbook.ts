import { own } from './look-up';
import { soundingId, type HeardTakes, type Takes } from './resolve';
import { linesIn } from './section';
import {
  HARMONY,
  type Heard,
  type LineId,
  type Score,
  type Section,
  type SectionId,
  type Take,
  type TakeId,
} from './schema';

/**
 * The logbook: every take that was heard, in order. What sounded beside a take follows from all that was heard of its
 * section before; what came to sound otherwise, as by choosing or by undo, stands in the line that it was heard with.
 */

/** What every line of a section sounds; nothing where a line is silent. */
export type Band = Readonly<Record<LineId, TakeId | null>>;

export const lineOf = (take: Take): LineId => (take.of === 'harmony' ? HARMONY : take.part);

/** What a section's lines sound now. */
export function bandOf(section: Section, heard: HeardTakes): Band {
  const lines = new Set([...linesIn(section).map(([line]) => line), ...Object.keys(own(heard, section.id) ?? {})]);
  return Object.fromEntries([...lines].map((line) => [line, soundingId(section, line, heard)]));
}

/** What a section's lines sounded when a line of the logbook was written, as far as the logbook says. */
export function bandAt(log: readonly Heard[], takes: Takes, place: number): Band {
  const section = log[place]?.section;
  const band: Record<LineId, TakeId | null> = {};
  for (const { take: id, section: of, beside } of log.slice(0, place + 1)) {
    if (of !== section) continue;
    Object.assign(band, beside);
    const take = own(takes, id);
    if (take) band[lineOf(take)] = id;
  }
  return band;
}

/** A line of the logbook for a take that begins to sound among others. */
export function logLine(
  log: readonly Heard[],
  takes: Takes,
  { take, section, at, pass }: Pick<Heard, 'take' | 'section' | 'at' | 'pass'>,
  band: Band,
): Heard {
  const known = lastBand(log, takes, section);
  const own = takes[take];
  const beside = Object.fromEntries(
    [...new Set([...Object.keys(known), ...Object.keys(band)])]
      .filter((line) => (!own || line !== lineOf(own)) && (band[line] ?? null) !== (known[line] ?? null))
      .map((line) => [line, band[line] ?? null]),
  );
  const which = pass === undefined ? {} : { pass };
  return { take, section, at, ...which, ...(Object.keys(beside).length > 0 ? { beside } : {}) };
}

function lastBand(log: readonly Heard[], takes: Takes, section: SectionId): Band {
  const last = log.findLastIndex((line) => line.section === section);
  return last < 0 ? {} : bandAt(log, takes, last);
}

/** What a song sounds: its sections, and what is heard in place of their choices. */
export interface Sounding {
  readonly score: Pick<Score, 'sections'>;
  readonly heard: HeardTakes;
}

/** The takes that begin to sound between two states of a song, by section; those of a section that is new too. */
export function newlyHeard(before: Sounding, now: Sounding): { readonly section: Section; readonly take: TakeId }[] {
  if (before.score.sections === now.score.sections && before.heard === now.heard) return [];
  const known = new Map(before.score.sections.map((section) => [section.id, section]));
  return now.score.sections.flatMap((section) => {
    const old = known.get(section.id);
    if (old === section && own(before.heard, section.id) === own(now.heard, section.id)) return [];
    const had = old ? bandOf(old, before.heard) : {};
    return Object.entries(bandOf(section, now.heard)).flatMap(([line, take]) =>
      take !== null && take !== had[line] ? [{ section, take }] : [],
    );
  });
}
