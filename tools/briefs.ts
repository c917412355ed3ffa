/**
 * npm run briefs [count]: random briefs over random chords, keys, metres and styles. Every note of every take has to
 * keep the
 * laws; whatever cannot be met has to name its reason and, where a brief is to blame, the nearest one that can be met.
 */
import * as fc from 'fast-check';
import { draft, type DraftRequest } from '@fendro/core/compose/draft';
import { draftTakes, type DraftStep } from '@fendro/core/compose/takes';
import { narrowRequests, partRequests } from '@fendro/core/testing/arbitrary';
import { brokenLaws } from '@fendro/core/testing/laws';

const COUNT = Number(process.argv[2] ?? 10_000);
/** One in so many registers is drawn narrow on purpose. */
const NARROW = 5;

/** What drafting says first: a take or a refusal. */
function firstAnswer(request: DraftRequest): DraftStep | null {
  for (const step of draftTakes(request, 0, 1, new Set())) if (step.kind !== 'working') return step;
  return null;
}

const tally = { met: 0, notes: 0, refused: 0, offered: 0 };
const reasons = new Map<string, number>();
const requests = [
  ...fc.sample(partRequests(), { numRuns: COUNT - Math.floor(COUNT / NARROW), seed: 20_261 }),
  ...fc.sample(narrowRequests(), { numRuns: Math.floor(COUNT / NARROW), seed: 20_262 }),
];
const since = performance.now();
for (const [index, request] of requests.entries()) {
  const answer = firstAnswer(request);
  if (answer?.kind === 'take' && answer.take.content.of === 'part') {
    const broken = brokenLaws(request, answer.take.content.notes);
    if (broken.length > 0)
      throw new Error(
        `brief ${index} (${request.asking.role}) broke ${broken.length} laws: ${broken[0]}\n${JSON.stringify(request.asking)}`,
      );
    tally.met++;
    tally.notes += answer.take.content.notes.length;
  } else if (answer?.kind === 'refused') {
    tally.refused++;
    const kind = answer.reason.replaceAll(/\d+/g, 'N').slice(0, 70);
    reasons.set(kind, (reasons.get(kind) ?? 0) + 1);
    if (!answer.nearest || !request.asking.brief) continue;
    const changed = {
      ...request,
      asking: { ...request.asking, brief: { ...request.asking.brief, ...answer.nearest } },
    };
    if (!draft(changed, 0).ok) throw new Error(`brief ${index}: what was offered cannot be met either`);
    tally.offered++;
  } else throw new Error(`brief ${index} got no answer`);
}
console.log(
  `${COUNT} random briefs in ${((performance.now() - since) / 1000).toFixed(0)} s: ${tally.met} met ` +
    `(${tally.notes} notes, every law kept), ${tally.refused} refused, ${tally.offered} of them with the ` +
    'nearest that can be met.',
);
for (const [reason, count] of [...reasons].sort((a, b) => b[1] - a[1]))
  console.log(`${String(count).padStart(6)}  ${reason}`);
