import type { TakeNote } from '../song/schema';
import { valueAt } from '../song/curve';
import { clamp, type Percent, type Ticks, type Velocity } from '../theory/units';
import { changed, meant, type Ids, type Notes } from './room';

/** How notes are struck: how loudly, how surely, how often. */

const loud = (velocity: number): Velocity => clamp(Math.round(velocity), 1, 127);

export const loudnessMoved = (notes: Notes, ids: Ids, by: number): Notes =>
  changed(notes, ids, (note) => ({ ...note, velocity: loud(note.velocity + by) }));

export const loudnessSet = (notes: Notes, ids: Ids, velocity: Velocity): Notes =>
  changed(notes, ids, (note) => ({ ...note, velocity: loud(velocity) }));

/** A value at a moment, in ticks from the section's start. */
export interface PathPoint {
  readonly at: Ticks;
  readonly value: number;
}

/** What a stem stands for: how loud a note is struck, or how likely. */
export type Stem = 'loudness' | 'chance';

export const stemOf = (note: TakeNote, stem: Stem): number =>
  stem === 'loudness' ? note.velocity : (note.chance ?? 100);

/**
 * Notes with their stems along a path, such as a ramp of two points, where they begin between its ends.
 *
 * @param path   in order of its moments
 * @param reach  how far beyond the ends a note may begin that is still meant, in ticks
 */
export function stemsDrawn(notes: Notes, ids: Ids, stem: Stem, path: readonly PathPoint[], reach: Ticks): Notes {
  const [first, last] = [path[0], path.at(-1)];
  if (!first || !last) return notes;
  const set = stem === 'loudness' ? loudnessSet : chanceSet;
  return meant(notes, ids)
    .filter(({ start }) => start >= first.at - reach && start <= last.at + reach)
    .reduce((all, { id, start }) => set(all, new Set([id]), valueAt(path, start)), notes);
}

/** Notes with their stems higher or lower by so much. */
export const stemsMoved = (notes: Notes, ids: Ids, stem: Stem, by: number): Notes =>
  stem === 'loudness'
    ? loudnessMoved(notes, ids, by)
    : meant(notes, ids).reduce(
        (all, note) => chanceSet(all, new Set([note.id]), clamp(stemOf(note, 'chance') + by, 0, 100)),
        notes,
      );

/** How likely notes sound each time round; 100 % is what they do without a word. */
export const chanceSet = (notes: Notes, ids: Ids, chance: Percent): Notes =>
  changed(notes, ids, ({ chance: _before, ...note }): TakeNote =>
    chance >= 100 ? note : { ...note, chance: clamp(Math.round(chance), 0, 100) },
  );

/** How often notes are struck within their length. */
export const strikesSet = (notes: Notes, ids: Ids, strikes: number): Notes =>
  changed(notes, ids, ({ strikes: _before, ...note }): TakeNote =>
    strikes < 2 ? note : { ...note, strikes: Math.min(16, Math.round(strikes)) },
  );
