import { heldTakes } from './holds';
import { own } from './look-up';
import { choicesOf } from './section';
import type { Hearing, Ledger, Score, TakeId } from './schema';

/**
 * Drafted takes that nobody has heard, chosen, held or judged, and that nothing was made from, in the order in which
 * they came to be. What was played, typed, edited or brought in is never among them.
 */
export function unheardTakes(score: Score, ledger: Ledger, hearing: Hearing): string[] {
  const wanted = new Set<string>();
  const open: (TakeId | null)[] = [
    ...ledger.heard.map(({ take }) => take),
    ...Object.keys(score.remarks),
    ...score.sections.flatMap(choicesOf),
    ...score.sections.flatMap(heldTakes),
    ...Object.values(hearing).flatMap((lines) => Object.values(lines)),
  ];
  for (let id = open.pop(); id !== undefined; id = open.pop()) {
    const take = id === null ? undefined : own(ledger.takes, id);
    if (!take || wanted.has(take.id)) continue;
    wanted.add(take.id);
    const { asking, parents } = take.origin;
    const over = take.of === 'part' ? take.over?.harmony : undefined;
    open.push(asking?.harmony ?? null, over ?? null, ...(asking?.beside ?? []), ...parents);
  }
  return Object.values(ledger.takes).flatMap(({ id, origin }) =>
    origin.how === 'drafted' && !wanted.has(id) ? [id] : [],
  );
}

/** Beyond `most` unheard takes, the oldest of them: what a song lets go so that it stays quick to open and save. */
export const surplusTakes = (score: Score, ledger: Ledger, hearing: Hearing, most: number): string[] => {
  const unheard = unheardTakes(score, ledger, hearing);
  return unheard.slice(0, Math.max(0, unheard.length - most));
};
