import { heldBars } from '@fendro/core/song/holds';
import { ASPECTS, type Asking, type Aspect, type MotifUse, type Take, type TakeId } from '@fendro/core/song/schema';
import { range } from '@fendro/core/theory/units';
import { inWordsOf, listBars } from './say-bars';

const SAYINGS: Readonly<Record<MotifUse, (what: string) => string>> = {
  states: (what) => `say ${what} again and again`,
  quotes: (what) => `quote ${what}`,
  answers: (what) => `answer ${what}`,
  sequences: (what) => `take ${what} up and down`,
  stretches: (what) => `stretch ${what}`,
  inverts: (what) => `turn ${what} upside down`,
  avoids: (what) => `avoid ${what}`,
};

/** What a part may be asked to do with a motif: “quote it”, “turn “Call” upside down”. */
export const sayingOf = (use: MotifUse, what: string): string => SAYINGS[use](what);

/** What a part says of a motif that the writer asked it for; empty where nobody did. */
function said({ motif, bars }: Asking): string {
  if (motif?.name === undefined) return '';
  const { over, use, name } = motif;
  const where =
    over && over.to - over.from < bars ? ` in ${listBars(range(over.to - over.from).map((at) => at + over.from))}` : '';
  return `asked to ${sayingOf(use, `“${name}”`)}${where}`;
}

/** What a redraft drew anew, from what it held of the take that it came from. */
function redrafted({ holds = [], bars }: Asking, chords: boolean, name: (take: TakeId) => string): string {
  const held = heldBars(holds);
  const wanted: readonly Aspect[] = chords ? ASPECTS.filter((aspect) => aspect !== 'dynamics') : ASPECTS;
  const freeIn = (bar: number): Aspect[] => wanted.filter((aspect) => !held.get(bar)?.aspects.has(aspect));
  const free = range(bars).filter((bar) => freeIn(bar).length > 0);
  const aspects = [...new Set(free.map((bar) => freeIn(bar).join()))];
  // The take of which most bars stay is the one that it was made of.
  const counts = new Map<TakeId, number>();
  for (const { take } of held.values()) counts.set(take, (counts.get(take) ?? 0) + 1);
  const of = [...counts].sort(([, a], [, b]) => b - a)[0]?.[0] ?? holds[0]?.take;
  if (of === undefined) return '';
  const where = free.length < bars ? listBars(free) : '';
  const all = aspects.length === 1 && aspects[0] === wanted.join();
  const [only] = aspects.length === 1 ? free.slice(0, 1).map(freeIn) : [];
  if (held.size === 0) return `around held notes of ${name(of)}`;
  if (!only || all) return `${name(of)}, ${where} anew`;
  const what = only.map((aspect) => inWordsOf(aspect, chords)).join(' and ');
  return `${name(of)}, ${what}${where === '' ? '' : ` of ${where}`} anew`;
}

/**
 * What a take was made of, in a few words; empty where it was simply drafted.
 *
 * @param name  of a take, as the list has it
 */
export function madeOf({ of, origin }: Take, name: (take: TakeId) => string): string {
  const { how, asking, parents, from } = origin;
  const kin = how === 'drafted' ? asking?.kin : undefined;
  if (kin) {
    const [first, second] = kin.takes.map(name) as [string, string];
    switch (kin.by) {
      case 'variation':
        return `${first}, varied by ${kin.share} %`;
      case 'rhythm and pitches':
        return of === 'part'
          ? `rhythm of ${first}, pitches of ${second}`
          : `chords of ${second}, changing as in ${first}`;
      case 'bars in turn':
        return `${first} and ${second} in turn`;
      case 'halfway':
        return `halfway from ${first} to ${second}`;
    }
  }
  if (how === 'drafted' && asking?.motif?.name !== undefined) return said(asking);
  if (how === 'drafted' && asking?.holds) return redrafted(asking, of === 'harmony', name);
  if (how === 'edited' && parents[0] !== undefined) return `${name(parents[0])}, edited`;
  if (how === 'caught' && parents[0] !== undefined) return `${from ?? 'a pass'} of ${name(parents[0])}`;
  return how === 'drafted' || how === 'fitted' ? '' : (from ?? how);
}
