import { Injectable } from '@angular/core';
import type { DraftRequest } from '@fendro/core/compose/draft';
import { createDraftWorker } from './create-draft-worker';
import { fromWorkerSchema, type FromWorker, type ToWorker } from './draft-messages';
import { inWords } from '../ui/in-words';

export interface DraftJob {
  readonly request: DraftRequest;
  readonly from: number;
  readonly count: number;
  readonly shown: readonly string[];
}

/** What could not be met, and what would help. */
export type Refusal = Pick<Extract<FromWorker, { kind: 'refused' }>, 'reason' | 'setting' | 'nearest'>;

export interface DraftListener {
  readonly take: (take: Extract<FromWorker, { kind: 'take' }>) => void;
  readonly progress: (share: number) => void;
  /** In plain words, where the asking cannot be met. */
  readonly refused: (refusal: Refusal) => void;
  /** Where fewer takes exist than were asked for: how many were found. */
  readonly usedUp: (found: number) => void;
}

/** How long a worker may ignore a cancel before it is ended and started again. */
const PATIENCE_MS = 50;

/** The page's side of the drafting worker. */
@Injectable({ providedIn: 'root' })
export class DraftClient {
  private worker: Worker | null = null;
  private next = 1;
  private readonly jobs = new Map<number, { listener: DraftListener; done: () => void }>();

  /** Starts the worker ahead of the first draft, so that the first take comes at once. */
  warmUp(): void {
    this.ensure();
  }

  /** Runs one job; the promise resolves when it is done or cancelled. */
  run(job: DraftJob, listener: DraftListener): { readonly done: Promise<void>; readonly cancel: () => void } {
    const id = this.next++;
    const done = new Promise<void>((resolve) => this.jobs.set(id, { listener, done: resolve }));
    const { request, from, count, shown } = job;
    try {
      this.post({ kind: 'draft', id, request: request as never, from, count, shown: [...shown] });
    } catch (problem) {
      this.breakDown(inWords(problem));
    }
    return {
      done,
      cancel: () => {
        this.cancel(id);
      },
    };
  }

  private post(message: ToWorker): void {
    this.ensure().postMessage(message);
  }

  private cancel(id: number): void {
    if (!this.jobs.has(id)) return;
    this.post({ kind: 'cancel', id });
    setTimeout(() => {
      if (!this.jobs.has(id)) return;
      this.worker?.terminate();
      this.worker = null;
      this.endAll();
    }, PATIENCE_MS);
  }

  private endAll(): void {
    for (const { done } of this.jobs.values()) done();
    this.jobs.clear();
  }

  private ensure(): Worker {
    if (this.worker) return this.worker;
    const worker = createDraftWorker();
    worker.addEventListener('message', ({ data }: MessageEvent<unknown>) => {
      this.receive(data);
    });
    worker.addEventListener('error', (event: ErrorEvent) => {
      this.breakDown(event.message || 'its program could not be loaded');
    });
    worker.addEventListener('messageerror', () => {
      this.breakDown('an answer could not be read');
    });
    this.worker = worker;
    return worker;
  }

  /** Every job that waits is told, and the next one gets a new worker. */
  private breakDown(reason: string): void {
    this.worker?.terminate();
    this.worker = null;
    for (const { listener } of this.jobs.values()) listener.refused({ reason: brokenOff(reason) });
    this.endAll();
  }

  private receive(data: unknown): void {
    const read = fromWorkerSchema.safeParse(data);
    if (!read.success) {
      this.breakDown('an answer could not be read');
      return;
    }
    const message = read.data;
    const job = this.jobs.get(message.id);
    if (!job) return;
    if (message.kind === 'take') job.listener.take(message);
    else if (message.kind === 'progress') job.listener.progress(message.share);
    else if (message.kind === 'refused') job.listener.refused(message);
    else if (message.kind === 'used up') job.listener.usedUp(message.found);
    else {
      if (message.kind === 'failed') job.listener.refused({ reason: brokenOff(message.reason) });
      this.jobs.delete(message.id);
      job.done();
    }
  }
}

const brokenOff = (reason: string): string =>
  `Drafting broke off (${reason}). What was drafted before is here; draft again, and if it breaks off again, change the brief.`;
