import type { Key } from '../theory/key';
import { barTicks } from '../theory/metre';
import { scaleOf } from '../theory/scale';
import type { Ticks } from '../theory/units';
import type { Ground, Score, Section } from './schema';

/** Resolved once for each pair of the song's and a section's ground, so that equal grounds stay the same object. */
const grounds = new WeakMap<Ground, WeakMap<Section['ground'], Ground>>();

/** The ground that a section stands on: the song's, with what the section sets for itself. */
export function groundOf(score: Pick<Score, 'ground'>, section: Pick<Section, 'ground'>): Ground {
  if (Object.keys(section.ground).length === 0) return score.ground;
  const known = grounds.get(score.ground) ?? new WeakMap<Section['ground'], Ground>();
  grounds.set(score.ground, known);
  const found = known.get(section.ground);
  if (found) return found;
  const own = section.ground;
  const ground = { ...score.ground, ...own };
  // Weights belong to the degrees of one scale.
  const made = own.scale !== undefined && own.scale !== score.ground.scale ? withoutWeights(ground) : ground;
  known.set(section.ground, made);
  return made;
}

export function withoutWeights({ weights: _weights, ...ground }: Ground): Ground {
  return ground;
}

export const keyOf = ({ tonic, scale }: Pick<Ground, 'tonic' | 'scale'>): Key => ({ tonic, scale });

/** One bar of a section, in ticks. */
export const barOf = (score: Pick<Score, 'ground'>, section: Pick<Section, 'ground'>): Ticks =>
  barTicks(groundOf(score, section).metre);

/** The weights of a ground's degrees by semitone above the tonic, in %; null where all are alike. */
export function degreeWeights({
  scale,
  weights,
}: Pick<Ground, 'scale' | 'weights'>): ReadonlyMap<number, number> | null {
  if (!weights || weights.every((weight) => weight === 100)) return null;
  return new Map(scaleOf(scale).semitones.map((step, index) => [step, weights[index] ?? 100]));
}
