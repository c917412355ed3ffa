import { expose } from 'comlink';
import { filesWork } from './files-work';

/** One end of a line between page and worker, both in the same thread. */
class Line extends EventTarget {
  other: Line | null = null;

  postMessage(data: unknown): void {
    // A promise: timers of a spec may stand still.
    void Promise.resolve().then(() => this.other?.dispatchEvent(new MessageEvent('message', { data })));
  }

  terminate(): void {
    this.other = null;
  }
}

/** Does what the worker does, without a thread of its own. */
function sameThread(): Worker {
  const [page, worker] = [new Line(), new Line()];
  page.other = worker;
  worker.other = page;
  expose(filesWork, worker);
  return page as unknown as Worker;
}

export const filesWorkers = { create: sameThread };

export const createFilesWorker = (): Worker => filesWorkers.create();
