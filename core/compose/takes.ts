import type { Attempts } from '../song/schema';
import { chordFeatures, noteFeatures, type Features } from '../study/features';
import { barTicks } from '../theory/metre';
import { FarthestFirst, midpoint, NearestFirst, type Picker } from './choose';
import type { Blamed } from './context';
import { printFor } from './print';
import { attemptsAt } from './stages';
import { nearestBrief, type NearestBrief } from './nearest';
import { draft, type Content, type Draft, type DraftRequest } from './draft';

/** A draft with the attempts that make it again. */
export interface DraftedTake {
  readonly attempts: Attempts;
  readonly content: Content;
}

/**
 * How many draws stand behind every take that is shown: few takes are picked from more, for the ear compares them
 * closely.
 */
export const poolFactor = (count: number): number => (count <= 8 ? 20 : 4);
/** Draws without anything new after which the space of answers counts as used up. */
const PATIENCE = 48;

/** Draws that must fail before anything is called impossible. */
const UNLUCKY = 8;

export function featuresOf(content: Content, length: number, bar: number): Features {
  return content.of === 'part' ? noteFeatures(content.notes, length, bar) : chordFeatures(content.chords, length, bar);
}

/** What a run of drafting says step by step. */
export type DraftStep =
  | { readonly kind: 'take'; readonly take: DraftedTake }
  | { readonly kind: 'working' }
  | { readonly kind: 'refused'; readonly reason: string; readonly setting?: Blamed; readonly nearest?: NearestBrief }
  | { readonly kind: 'used up'; readonly found: number };

/** The order in which takes are picked from the pool: the nearest to halfway where that is asked, else the most unlike. */
function pickerFor(
  { asking, models = [] }: DraftRequest,
  features: (content: Content) => Features,
): Picker<DraftedTake> {
  const [first, second] = (asking.kin?.takes ?? []).map((id) => models.find((take) => take.id === id));
  return asking.kin?.by === 'halfway' && first && second
    ? new NearestFirst(midpoint(features(first), features(second)))
    : new FarthestFirst();
}

/**
 * Drafts `count` takes that differ truly: the first draw is given at once, the others are picked from a pool of at
 * least four times as many by farthest-point selection (Gonzalez, 1985) from it; those that are to lie halfway between
 * two are picked by how near they come. Nothing in `shown` is given again.
 *
 * Where stages keep their attempts and nothing new comes of the others, a plan that was kept is drawn anew too.
 *
 * The generator yields after every draw, so that its caller can cancel between any two.
 *
 * @param from   the first attempt not yet used with this seed
 * @param shown  prints of everything shown before for this part and section, by `printFor` the asking
 */
export function* draftTakes(
  request: DraftRequest,
  from: number,
  count: number,
  shown: ReadonlySet<string>,
): Generator<DraftStep, void> {
  const bar = barTicks(request.asking.ground.metre);
  const features = (content: Content): Features => featuresOf(content, bar * request.asking.bars, bar);
  const printOf = printFor(request.asking);
  const seen = new Set(shown);
  const pool = pickerFor(request, features);
  let now = request;
  let attempt = from;
  let idle = 0;
  let given = 0;
  while (pool.size < count * poolFactor(count)) {
    if (idle >= PATIENCE) {
      if (now.kept?.plan === undefined) break;
      const { plan: _freed, ...kept } = now.kept;
      now = { ...now, kept };
      idle = 0;
    }
    const result: Draft = draft(now, attempt);
    if (!result.ok) {
      // One unlucky draw proves nothing; many in a row before anything fitted do.
      if (pool.size === 0 && attempt - from >= UNLUCKY) {
        const nearest = nearestBrief(request, result);
        yield {
          kind: 'refused',
          reason: result.reason,
          ...(result.setting ? { setting: result.setting } : {}),
          ...(nearest ? { nearest } : {}),
        };
        return;
      }
      idle++;
      attempt++;
      yield { kind: 'working' };
      continue;
    }
    const print = printOf(result.content);
    if (seen.has(print)) idle++;
    else {
      seen.add(print);
      idle = 0;
      pool.add({ attempts: attemptsAt(attempt, now.kept), content: result.content }, features(result.content));
      const first = pool.size === 1 && pool.atOnce ? pool.pick() : null;
      if (first) {
        given++;
        yield { kind: 'take', take: first };
        if (given === count) return;
      }
    }
    attempt++;
    yield { kind: 'working' };
  }
  for (; given < count; given++) {
    const take = pool.pick();
    if (take) yield { kind: 'take', take };
  }
  if (pool.size < count) yield { kind: 'used up', found: pool.size };
}
