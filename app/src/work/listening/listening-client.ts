import { Injectable } from '@angular/core';
import type { Correction } from '@fendro/core/listen/heard-file';
import { inWords } from '../../ui/in-words';
import { createListeningWorker } from './create-listening-worker';
import { fromListeningWorkerSchema, type ToListeningWorker, type WrittenSound } from './listening-messages';

/** A recording that has been heard; its worker keeps what it heard until it is ended. */
export interface HeardRecording {
  readonly written: WrittenSound;
  /** Writes it down in another way. @throws Error in words */
  readonly write: (correction: Correction) => Promise<WrittenSound>;
  readonly end: () => void;
}

/** The page's side of listening: a worker for each recording, ended when it is given up or no longer needed. */
@Injectable({ providedIn: 'root' })
export class ListeningClient {
  /**
   * Listens to a recording.
   *
   * @param samples  one channel at the rate of listening; they go to the worker and are gone here
   * @param heard    told the share that has been heard, 0 to 1
   * @param given    up: the worker is ended, and the promise fails
   * @throws Error in words where it cannot be listened to
   */
  async listen(samples: Float32Array, heard: (share: number) => void, given: AbortSignal): Promise<HeardRecording> {
    const worker = createListeningWorker();
    const end = (): void => {
      worker.terminate();
    };
    const base = new URL('listening/', document.baseURI).href;
    try {
      const question: ToListeningWorker = { kind: 'listen', samples, base };
      const written = await this.ask(worker, question, [samples.buffer as ArrayBuffer], heard, given);
      return { written, write: (correction) => this.ask(worker, { kind: 'write', correction }, []), end };
    } catch (problem) {
      end();
      throw problem;
    }
  }

  private ask(
    worker: Worker,
    question: ToListeningWorker,
    over: readonly ArrayBuffer[],
    heard?: (share: number) => void,
    given?: AbortSignal,
  ): Promise<WrittenSound> {
    return new Promise((resolve, reject) => {
      const done = new AbortController();
      const { signal } = done;
      const fail = (why: string): void => {
        done.abort();
        reject(new Error(why));
      };
      const giveUp = (): void => {
        fail('it was given up');
      };
      if (given?.aborted) {
        giveUp();
        return;
      }
      given?.addEventListener('abort', giveUp, { signal });
      worker.addEventListener(
        'error',
        ({ message }) => {
          fail(message || 'what listens could not be loaded');
        },
        { signal },
      );
      worker.addEventListener(
        'message',
        ({ data }: MessageEvent<unknown>) => {
          const answer = fromListeningWorkerSchema.safeParse(data);
          if (!answer.success) fail('what was heard in it makes no sense');
          else if (answer.data.kind === 'heard') heard?.(answer.data.share);
          else if (answer.data.kind === 'refused') fail(answer.data.reason);
          else {
            done.abort();
            const { kind: _kind, ...written } = answer.data;
            resolve(written);
          }
        },
        { signal },
      );
      try {
        worker.postMessage(question, [...over]);
      } catch (problem) {
        fail(inWords(problem));
      }
    });
  }
}
