import { draftTakes } from '@fendro/core/compose/takes';
import type { FromWorker, ToWorker } from './draft-messages';

/** A stand-in for Jest that drafts for real, on the same thread. */
class SameThreadWorker extends EventTarget {
  postMessage(message: ToWorker): void {
    if (message.kind !== 'draft') return;
    const { id, request, from, count, shown } = message;
    const answer = (data: FromWorker): boolean => this.dispatchEvent(new MessageEvent('message', { data }));
    for (const step of draftTakes(request, from, count, new Set(shown))) {
      if (step.kind === 'take')
        answer({ kind: 'take', id, attempts: step.take.attempts, content: step.take.content as never });
      if (step.kind === 'refused') answer({ ...step, id });
      if (step.kind === 'used up') answer({ kind: 'used up', id, found: step.found });
    }
    answer({ kind: 'done', id });
  }

  terminate(): void {
    // nothing runs
  }
}

export const draftWorkers = { create: (): Worker => new SameThreadWorker() as unknown as Worker };

export const createDraftWorker = (): Worker => draftWorkers.create();
