import { barOf } from './ground';
import { own } from './look-up';
import { chosenId } from './section';
import type { Ticks } from '../theory/units';
import {
  HARMONY,
  type ChordSpan,
  type HarmonyTake,
  type LineId,
  type Occurrence,
  type PartTake,
  type Score,
  type Section,
  type Take,
  type TakeId,
  type SectionId,
} from './schema';

/** All takes of a song by id. */
export type Takes = Readonly<Record<TakeId, Take>>;

/** All takes of a line in a section, in the order in which they came. */
export const takesOf = (takes: Takes, section: SectionId, line: LineId): Take[] =>
  Object.values(takes).filter(
    (take) => take.section === section && (take.of === 'harmony' ? HARMONY : take.part) === line,
  );

/**
 * Takes that sound now in place of the chosen ones: by section, then by line. No step of undo; it is kept with the
 * song.
 */
export type HeardTakes = Readonly<Record<SectionId, Readonly<Record<LineId, TakeId>>>>;

export const NOTHING_HEARD: HeardTakes = {};

/** All that decides what sounds: the song, its takes, and which of them are heard in place of the chosen ones. */
export interface Music {
  readonly score: Score;
  readonly takes: Takes;
  readonly heard: HeardTakes;
}

export const sectionOf = (score: Score, id: SectionId): Section | undefined =>
  score.sections.find((section) => section.id === id);

export const sectionTicks = (score: Score, section: Section): Ticks => section.bars * barOf(score, section);

/** The take that sounds: the heard one where there is one, else the chosen one. */
export const soundingId = (section: Section, line: LineId, heard: HeardTakes): TakeId | null =>
  own(own(heard, section.id), line) ?? chosenId(section, line);

export function partTake(takes: Takes, id: TakeId | null): PartTake | null {
  const take = id === null ? undefined : own(takes, id);
  return take?.of === 'part' ? take : null;
}

export function harmonyTake(takes: Takes, id: TakeId | null): HarmonyTake | null {
  const take = id === null ? undefined : own(takes, id);
  return take?.of === 'harmony' ? take : null;
}

const NO_CHORDS: readonly ChordSpan[] = [];

export const chordsIn = (section: Section, takes: Takes, heard: HeardTakes): readonly ChordSpan[] =>
  harmonyTake(takes, soundingId(section, HARMONY, heard))?.chords ?? NO_CHORDS;

/** One place in the running order. */
export interface Placed {
  readonly occurrence: Occurrence;
  readonly section: Section;
  readonly start: Ticks;
  readonly length: Ticks;
}

/** The running order in time; occurrences of sections that are gone are left out. */
export function layOut(score: Score): Placed[] {
  const placed: Placed[] = [];
  let start = 0;
  for (const occurrence of score.order) {
    const section = sectionOf(score, occurrence.section);
    if (!section) continue;
    const length = sectionTicks(score, section);
    placed.push({ occurrence, section, start, length });
    start += length;
  }
  return placed;
}

export const songTicks = (score: Score): Ticks =>
  layOut(score).reduce((end, { start, length }) => Math.max(end, start + length), 0);
