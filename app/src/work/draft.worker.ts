/// <reference lib="webworker" />
import { draftTakes, poolFactor } from '@fendro/core/compose/takes';
import { toWorkerSchema, type FromWorker, type ToWorker } from './draft-messages';
import { inWords } from '../ui/in-words';

/** Longest stretch of work before the worker looks for a cancel. */
const LONGEST_STRETCH_MS = 20;

const cancelled = new Set<number>();
const waiting: Extract<ToWorker, { kind: 'draft' }>[] = [];
let busy = false;

const answer = (message: FromWorker): void => {
  postMessage(message);
};

const breathe = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 0));

async function work({ id, request, from, count, shown }: Extract<ToWorker, { kind: 'draft' }>): Promise<void> {
  let since = performance.now();
  let draws = 0;
  for (const step of draftTakes(request, from, count, new Set(shown))) {
    if (cancelled.has(id)) break;
    if (step.kind === 'take')
      answer({ kind: 'take', id, attempts: step.take.attempts, content: step.take.content as never });
    else if (step.kind === 'refused') answer({ ...step, id });
    else if (step.kind === 'used up') answer({ kind: 'used up', id, found: step.found });
    else draws++;
    if (performance.now() - since > LONGEST_STRETCH_MS || draws === 1) {
      answer({ kind: 'progress', id, share: Math.min(1, draws / (count * poolFactor(count))) });
      await breathe();
      since = performance.now();
    }
  }
  cancelled.delete(id);
  answer({ kind: 'done', id });
}

async function workAll(): Promise<void> {
  busy = true;
  for (let next = waiting.shift(); next; next = waiting.shift()) {
    const { id } = next;
    await work(next).catch((problem: unknown) => {
      answer({ kind: 'failed', id, reason: inWords(problem) });
    });
  }
  busy = false;
}

addEventListener('message', ({ data }: MessageEvent<unknown>) => {
  const message = toWorkerSchema.parse(data);
  if (message.kind === 'cancel') cancelled.add(message.id);
  else waiting.push(message);
  if (!busy) void workAll();
});
