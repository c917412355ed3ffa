import type { Ledger, Score, Take } from './schema';

/**
 * The takes worth keeping: those heard, chosen or judged, and those that they were made from.
 */
export function prunedTakes(score: Score, ledger: Ledger): Readonly<Record<string, Take>> {
  const wanted = new Set<string>();
  const want = (id: string | null | undefined): void => {
    const take = id ? ledger.takes[id] : undefined;
    if (!take || wanted.has(take.id)) return;
    wanted.add(take.id);
    want(take.origin.asking?.harmony);
    take.origin.asking?.beside.forEach(want);
    take.origin.parents.forEach(want);
  };
  ledger.heard.forEach(({ take }) => want(take));
  Object.keys(score.remarks).forEach(want);
  for (const section of score.sections) {
    want(section.harmony);
    Object.values(section.chosen).forEach(want);
  }
  return Object.fromEntries(Object.entries(ledger.takes).filter(([id]) => wanted.has(id)));
}
