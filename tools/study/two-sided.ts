/** A measure of human music: how it is spread, over edges whose outermost bins are open. */
export interface HumanMeasure {
  readonly meaning: string;
  readonly edges: readonly number[];
  readonly shares: readonly number[];
  readonly median: number;
  readonly p10: number;
  readonly p90: number;
}

/** How values lie against human ones. */
export interface Comparison {
  readonly median: number;
  readonly p10: number;
  readonly p90: number;
  /** What two histograms have in common, 0–1. */
  readonly overlap: number;
  /** How many bits the human histogram is surprised by the values (Kullback and Leibler, 1951). */
  readonly divergence: number;
}

export const quantile = (values: readonly number[], share: number): number =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * share))] ?? NaN;
export const median = (values: readonly number[]): number => quantile(values, 0.5);
export const mean = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / Math.max(1, values.length);

function histogram(values: readonly number[], edges: readonly number[]): number[] {
  const counts = new Array<number>(edges.length - 1).fill(0);
  for (const value of values) {
    const bin = edges.slice(1, -1).filter((edge) => value >= edge).length;
    counts[bin] = (counts[bin] ?? 0) + 1;
  }
  return counts.map((count) => count / Math.max(1, values.length));
}

/** What stands for a bin that is empty on one side. */
const NOTHING = 0.005;

/** Sets values beside human ones: overlap and divergence of the two histograms (Yang and Lerch, 2020). */
export function against(values: readonly number[], human: HumanMeasure): Comparison {
  const own = histogram(values, human.edges);
  const smooth = (shares: readonly number[]): number[] => {
    const total = shares.reduce((sum, share) => sum + share + NOTHING, 0);
    return shares.map((share) => (share + NOTHING) / total);
  };
  const [p, q] = [smooth(own), smooth(human.shares)];
  return {
    median: median(values),
    p10: quantile(values, 0.1),
    p90: quantile(values, 0.9),
    overlap: own.reduce((sum, share, bin) => sum + Math.min(share, human.shares[bin] ?? 0), 0),
    divergence: p.reduce((sum, share, bin) => sum + share * Math.log2(share / (q[bin] ?? NOTHING)), 0),
  };
}

/** Ranks from 0 up, ties sharing the mean of theirs. */
function ranksOf(values: readonly number[]): number[] {
  return values.map((value) => {
    const less = values.filter((other) => other < value).length;
    const same = values.filter((other) => other === value).length;
    return less + (same - 1) / 2;
  });
}

/** Rank correlation of two rows of values (Spearman, 1904), −1 to 1; 0 where one of them never changes. */
export function rankCorrelation(a: readonly number[], b: readonly number[]): number {
  const [x, y] = [ranksOf(a), ranksOf(b)];
  const [meanX, meanY] = [mean(x), mean(y)];
  const covariance = x.reduce((sum, rank, index) => sum + (rank - meanX) * ((y[index] ?? 0) - meanY), 0);
  const spread = (ranks: readonly number[], middle: number): number =>
    Math.sqrt(ranks.reduce((sum, rank) => sum + (rank - middle) ** 2, 0));
  const product = spread(x, meanX) * spread(y, meanY);
  return product === 0 ? 0 : covariance / product;
}
