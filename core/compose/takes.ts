import { chordFeatures, noteFeatures, type Features } from '../study/features';
import { barTicks } from '../theory/metre';
import { FarthestFirst } from './choose';
import type { Blamed } from './context';
import { nearestBrief, type NearestBrief } from './nearest';
import { draft, type Content, type Draft, type DraftRequest } from './draft';

/** A draft with the attempt that makes it again. */
export interface DraftedTake {
  readonly attempt: number;
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

/** The notes or chords as text; equal texts are equal takes. Velocities are dynamics and do not make a take new. */
export function fingerprint(content: Content): string {
  return content.of === 'part'
    ? content.notes.map(({ start, duration, pitch }) => `${start},${duration},${pitch}`).join(';')
    : content.chords
        .map(
          ({ start, duration, chord }) =>
            `${start},${duration},${chord ? `${chord.root} ${chord.tones.join(' ')} ${chord.bass}` : ''}`,
        )
        .join(';');
}

export function featuresOf(content: Content, length: number, bar: number): Features {
  return content.of === 'part' ? noteFeatures(content.notes, length, bar) : chordFeatures(content.chords, length, bar);
}

/** What a run of drafting says step by step. */
export type DraftStep =
  | { readonly kind: 'take'; readonly take: DraftedTake }
  | { readonly kind: 'working' }
  | { readonly kind: 'refused'; readonly reason: string; readonly setting?: Blamed; readonly nearest?: NearestBrief }
  | { readonly kind: 'used up'; readonly found: number };

/**
 * Drafts `count` takes that differ truly: the first draw is given at once, the others are picked from a pool of at
 * least four times as many by farthest-point selection (Gonzalez, 1985) from it. Nothing in `shown` is given again.
 *
 * The generator yields after every draw, so that its caller can cancel between any two.
 *
 * @param from   the first attempt not yet used with this seed
 * @param shown  fingerprints of everything shown before for this part and section
 */
export function* draftTakes(
  request: DraftRequest,
  from: number,
  count: number,
  shown: ReadonlySet<string>,
): Generator<DraftStep, void> {
  const bar = barTicks(request.asking.ground.metre);
  const length = bar * request.asking.bars;
  const seen = new Set(shown);
  const pool = new FarthestFirst<DraftedTake>();
  let attempt = from;
  let idle = 0;
  while (pool.size < count * poolFactor(count) && idle < PATIENCE) {
    const result: Draft = draft(request, attempt);
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
    const print = fingerprint(result.content);
    if (seen.has(print)) idle++;
    else {
      seen.add(print);
      idle = 0;
      pool.add({ attempt, content: result.content }, featuresOf(result.content, length, bar));
      const first = pool.size === 1 ? pool.pick() : null;
      if (first) yield { kind: 'take', take: first };
    }
    attempt++;
    yield { kind: 'working' };
  }
  for (let given = 1; given < count; given++) {
    const take = pool.pick();
    if (take) yield { kind: 'take', take };
  }
  if (pool.size < count) yield { kind: 'used up', found: pool.size };
}
