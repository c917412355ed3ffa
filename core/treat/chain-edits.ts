import { MOST_BRANCHES, MOST_TREATMENTS, type Chain, type Treatment } from '../song/schema';
import { clamp } from '../theory/units';

/** Every edit of a chain is a pure function from one to the next; an edit of a valid one is valid. */

/** Where a treatment stands: in which branch, and as which of it, both counted from 0. */
export interface At {
  readonly branch: number;
  readonly step: number;
}

/** Notes as they are written. */
export const PLAIN: Chain = [[]];

export const treatmentAt = (chain: Chain, { branch, step }: At): Treatment | undefined => chain[branch]?.[step];

const withBranch = (chain: Chain, branch: number, change: (own: readonly Treatment[]) => readonly Treatment[]): Chain =>
  chain.map((own, index) => (index === branch ? change(own) : own));

/** Puts a treatment at a place of a branch, the others after it; as long as there is room. */
export const withTreatment = (chain: Chain, { branch, step }: At, treatment: Treatment): Chain =>
  withBranch(chain, branch, (own) =>
    own.length >= MOST_TREATMENTS ? own : [...own.slice(0, step), treatment, ...own.slice(step)],
  );

/** Puts another treatment in place of one. */
export const withOther = (chain: Chain, { branch, step }: At, treatment: Treatment): Chain =>
  withBranch(chain, branch, (own) => own.map((one, index) => (index === step ? treatment : one)));

const struck = ({ off: _off, ...treatment }: Treatment, off: boolean): Treatment =>
  off ? { ...treatment, off } : treatment;

/** Strikes a treatment out, so that notes pass it by, or lets it work again. */
export function withStruck(chain: Chain, at: At): Chain {
  const treatment = treatmentAt(chain, at);
  return treatment ? withOther(chain, at, struck(treatment, treatment.off !== true)) : chain;
}

/** Strikes all of a chain out, or lets all of it work again. */
export const withAllStruck = (chain: Chain, off: boolean): Chain =>
  chain.map((own) => own.map((treatment) => struck(treatment, off)));

/** Takes a treatment away; a branch that is left empty goes with it, as long as another stays. */
export function withoutTreatment(chain: Chain, { branch, step }: At): Chain {
  const less = withBranch(chain, branch, (own) => own.filter((_, index) => index !== step));
  return branch > 0 && less[branch]?.length === 0 ? withoutBranch(less, branch) : less;
}

/** Adds a branch that sounds meanwhile, with a first treatment; as long as there is room. */
export const withMeanwhile = (chain: Chain, treatment: Treatment): Chain =>
  chain.length >= MOST_BRANCHES ? chain : [...chain, [treatment]];

/** Takes a branch away; one stays. */
export const withoutBranch = (chain: Chain, branch: number): Chain =>
  chain.length <= 1 ? PLAIN : chain.filter((_, index) => index !== branch);

/** Where a treatment comes to stand that goes one place on: past the end of its branch, into the next. */
export function onward(chain: Chain, { branch, step }: At, by: 1 | -1): At {
  const own = chain[branch] ?? [];
  if (step + by >= 0 && step + by < own.length) return { branch, step: step + by };
  const next = clamp(branch + by, 0, chain.length - 1);
  if (next === branch) return { branch, step };
  return { branch: next, step: by > 0 ? 0 : (chain[next]?.length ?? 0) };
}

/** Where all treatments of a chain stand, in the order in which they are read. */
export const placesIn = (chain: Chain): readonly At[] =>
  chain.flatMap((own, branch) => own.map((_, step) => ({ branch, step })));

/** Where a treatment comes to stand that is dragged to a place among all others, behind the one before it there. */
export function draggedTo(chain: Chain, from: number, to: number): At {
  const others = placesIn(chain).filter((_, index) => index !== from);
  const moved = placesIn(chain)[from];
  const before = others[to - 1];
  if (!before) return { branch: others[0]?.branch ?? 0, step: 0 };
  const closedUp = moved?.branch === before.branch && moved.step < before.step;
  return { branch: before.branch, step: closedUp ? before.step : before.step + 1 };
}

/**
 * Moves a treatment to another place, in its branch or another; where that is full, nothing moves.
 *
 * @param to  where it stands afterwards
 */
export function withMoved(chain: Chain, from: At, to: At): Chain {
  const treatment = treatmentAt(chain, from);
  const into = chain[to.branch];
  if (!treatment || !into || (from.branch !== to.branch && into.length >= MOST_TREATMENTS)) return chain;
  const less = withBranch(chain, from.branch, (own) => own.filter((_, index) => index !== from.step));
  return withTreatment(less, to, treatment);
}
