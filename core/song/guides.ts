import { LIMITS } from './limits';
import type { Guide, OccurrenceId, Score } from './schema';
import type { Placed } from './resolve';
import type { Ticks } from '../theory/units';

export const guidesOf = (score: Score): readonly Guide[] => score.guides ?? [];

export const guidesAreFull = (score: Score): boolean => guidesOf(score).length >= LIMITS.guides;

/** The score with these guides; one without any does not speak of them. */
function withGuides(score: Score, guides: readonly Guide[]): Score {
  const { guides: _before, ...others } = score;
  return guides.length === 0 ? others : { ...others, guides };
}

/**
 * Adds guides, the newest first; those that lie at the same place fall silent, so that one of them is heard.
 *
 * @param guides  at least one; no more than there is room for are taken
 */
export function addGuides(score: Score, guides: readonly Guide[]): Score {
  const places = new Set(guides.map(({ place }) => place));
  const silent = guidesOf(score).map((guide) => (places.has(guide.place) ? { ...guide, muted: true } : guide));
  return withGuides(score, [...guides, ...silent].slice(0, LIMITS.guides));
}

export const changeGuide = (
  score: Score,
  id: string,
  change: Partial<Omit<Guide, 'id' | 'sound' | 'seconds'>>,
): Score =>
  withGuides(
    score,
    guidesOf(score).map((guide) => (guide.id === id ? { ...guide, ...change } : guide)),
  );

export const removeGuide = (score: Score, id: string): Score =>
  withGuides(
    score,
    guidesOf(score).filter((guide) => guide.id !== id),
  );

/** Where a guide begins, in ticks of the song; null where its place is gone. */
export function guideStart({ place, at }: Guide, placed: readonly Placed[]): Ticks | null {
  const there = placed.find(({ occurrence }) => occurrence.id === place);
  return there ? there.start + at : null;
}

/** The place of the running order that a tick of the song lies in, and how far into it; null beyond the song. */
export function placeOfTick(
  tick: Ticks,
  placed: readonly Placed[],
): { readonly place: OccurrenceId; readonly at: Ticks } | null {
  const there = placed.find(({ start, length }) => start <= tick && tick < start + length);
  return there ? { place: there.occurrence.id, at: tick - there.start } : null;
}
