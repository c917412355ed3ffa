import { distance, type Features } from '../study/features';

interface Candidate<T> {
  readonly item: T;
  readonly features: Features;
  /** Distance to the nearest that was picked; −1 once it is picked itself. */
  nearest: number;
}

const PICKED = -1;

/**
 * Picks things that differ from each other: farthest-point selection (Gonzalez, Clustering to minimize the maximum
 * intercluster distance, 1985). The first that is added is the first that is picked; then always the one that is
 * furthest from all picked before it, the earliest where several are.
 */
export class FarthestFirst<T> {
  private readonly candidates: Candidate<T>[] = [];
  private readonly picked: Features[] = [];

  /** How many there are to pick from, picked ones included. */
  get size(): number {
    return this.candidates.length;
  }

  add(item: T, features: Features): void {
    const nearest = this.picked.reduce((least, other) => Math.min(least, distance(features, other)), Infinity);
    this.candidates.push({ item, features, nearest });
  }

  /** @returns null once all are picked */
  pick(): T | null {
    const best = this.candidates.reduce<Candidate<T> | null>(
      (most, candidate) => (candidate.nearest > (most?.nearest ?? PICKED) ? candidate : most),
      null,
    );
    if (!best) return null;
    best.nearest = PICKED;
    this.picked.push(best.features);
    for (const other of this.candidates)
      if (other.nearest !== PICKED) other.nearest = Math.min(other.nearest, distance(other.features, best.features));
    return best.item;
  }
}
