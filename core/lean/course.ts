import type { Lean } from '../song/schema';
import { range } from '../theory/units';
import { once } from '../trellis/random';

/** Where chance is drawn from, so that the same moment always leans alike. */
export interface LeanSeed {
  readonly seed: number;
  /** Of what is drafted, the attempt; of what goes on by itself, nothing more. */
  readonly attempt?: number;
}

/** On its way a leaning moves in so many stages, so that what leans is made anew only so often. */
const STAGES = 4;

/** How far a leaning has gone in a bar, from 0 to 1: bars that were played since it began, counted from 0. */
function shareAt(lean: Lean, index: number, bar: number, { seed, attempt = 0 }: LeanSeed): number {
  if (lean.off) return 0;
  if (lean.goes === 'by chance') {
    const window = Math.floor(bar / lean.bars);
    return once(seed, 'lean', attempt, index, window) * 100 < lean.chance ? 1 : 0;
  }
  const gone = bar / lean.bars;
  const there = lean.then === 'stays' ? Math.min(1, gone) : 1 - Math.abs((gone % 2) - 1);
  return Math.round(STAGES * there) / STAGES;
}

/** Bars in which everything leans alike. */
export interface LeanStage {
  /** How far each leaning has gone, from 0 to 1. */
  readonly shares: readonly number[];
  /** Counted from the first that is asked for. */
  readonly bars: readonly number[];
}

/**
 * How leanings go through some bars: which of them lean alike, in the order of their first bars.
 *
 * @param first  bars that were played before, since it all began
 */
export function leanStages(leans: readonly Lean[], first: number, bars: number, from: LeanSeed): readonly LeanStage[] {
  const stages = new Map<string, { readonly shares: readonly number[]; readonly bars: number[] }>();
  for (const bar of range(bars)) {
    const shares = leans.map((lean, index) => shareAt(lean, index, first + bar, from));
    const name = shares.join(' ');
    const stage = stages.get(name) ?? { shares, bars: [] };
    stage.bars.push(bar);
    stages.set(name, stage);
  }
  return [...stages.values()];
}

/** True where something leans by itself. */
export const leansNow = (leans: readonly Lean[] | undefined): leans is readonly Lean[] =>
  (leans ?? []).some(({ off }) => !off);
