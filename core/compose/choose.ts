import { distance, type Features } from '../study/features';

interface Candidate<T> {
  readonly item: T;
  readonly features: Features;
  /** Distance to the nearest that was picked; −1 once it is picked itself. */
  nearest: number;
}

const PICKED = -1;

/** Things to pick from, by their features. */
export interface Picker<T> {
  /** How many there are to pick from, picked ones included. */
  readonly size: number;
  /** True where the first that is added is the first that is picked. */
  readonly atOnce: boolean;
  add(item: T, features: Features): void;
  /** @returns null once all are picked */
  pick(): T | null;
}

/**
 * Picks things that differ from each other: farthest-point selection (Gonzalez, Clustering to minimize the maximum
 * intercluster distance, 1985). The first that is added is the first that is picked; then always the one that is
 * furthest from all picked before it, the earliest where several are.
 */
export class FarthestFirst<T> implements Picker<T> {
  readonly atOnce = true;
  private readonly candidates: Candidate<T>[] = [];
  private readonly picked: Features[] = [];

  get size(): number {
    return this.candidates.length;
  }

  add(item: T, features: Features): void {
    const nearest = this.picked.reduce((least, other) => Math.min(least, distance(features, other)), Infinity);
    this.candidates.push({ item, features, nearest });
  }

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

/** Picks what is nearest to a place first, the earliest where several are. */
export class NearestFirst<T> implements Picker<T> {
  readonly atOnce = false;
  private readonly candidates: { readonly item: T; readonly away: number }[] = [];
  private next = 0;
  size = 0;

  constructor(private readonly place: Features) {}

  add(item: T, features: Features): void {
    this.candidates.push({ item, away: distance(features, this.place) });
    this.size++;
  }

  /** Nothing is added once the first was picked. */
  pick(): T | null {
    if (this.next === 0) this.candidates.sort((a, b) => a.away - b.away);
    return this.candidates[this.next++]?.item ?? null;
  }
}

/** Halfway between two things. */
export const midpoint = (a: Features, b: Features): Features =>
  Float64Array.from({ length: Math.max(a.length, b.length) }, (_, index) => ((a[index] ?? 0) + (b[index] ?? 0)) / 2);
