import { Injectable } from '@angular/core';
import type { ChordSpan } from '@fendro/core/song/schema';
import type { ImportFile } from '@fendro/core/files/incoming/file-model';
import type { Key } from '@fendro/core/theory/key';
import { createImportWorker } from './create-import-worker';
import {
  fromImportWorkerSchema,
  type FoundInFile,
  type FromImportWorker,
  type ToImportWorker,
} from './import-messages';
import { inWords } from '../ui/in-words';

export type ImportAnswer =
  | { readonly ok: true; readonly found: FoundInFile }
  | { readonly ok: false; readonly reason: string };

/** A file that takes longer than this is given up. */
const TIME_LIMIT_MS = 8000;

/** The page's side of the import worker: one worker for each question, ended when it has answered or takes too long. */
@Injectable({ providedIn: 'root' })
export class ImportClient {
  /** @param given  up: the worker is ended, and the answer is a refusal that nobody needs to see */
  async read(bytes: Uint8Array, given?: AbortSignal): Promise<ImportAnswer> {
    const message = await this.ask({ kind: 'read', bytes }, given);
    if (message.kind === 'found') return { ok: true, found: { file: message.file, keys: message.keys } };
    return { ok: false, reason: message.kind === 'refused' ? message.reason : 'This file could not be read.' };
  }

  /** The chords of each section from the lines that are picked; null where they could not be found in time. */
  async chords(
    file: ImportFile,
    picked: readonly string[],
    key: Key,
  ): Promise<readonly (readonly ChordSpan[])[] | null> {
    const message = await this.ask({ kind: 'chords', file, picked, key });
    return message.kind === 'chords' ? message.chords : null;
  }

  private ask(question: ToImportWorker, given?: AbortSignal): Promise<FromImportWorker> {
    return new Promise((resolve) => {
      let worker: Worker | undefined;
      const end = (answer: FromImportWorker): void => {
        clearTimeout(timer);
        worker?.terminate();
        resolve(answer);
      };
      const timer = setTimeout(() => {
        end({ kind: 'refused', reason: 'Reading this file took too long and was given up. It may be damaged.' });
      }, TIME_LIMIT_MS);
      const fail = (why: string): void => {
        end({ kind: 'refused', reason: `This file could not be read: ${why}` });
      };
      const giveUp = (): void => {
        end({ kind: 'refused', reason: 'Reading this file was given up.' });
      };
      if (given?.aborted) {
        giveUp();
        return;
      }
      given?.addEventListener('abort', giveUp);
      try {
        worker = createImportWorker();
        worker.addEventListener('message', ({ data }: MessageEvent<unknown>) => {
          const answer = fromImportWorkerSchema.safeParse(data);
          if (answer.success) end(answer.data);
          else fail('what was found in it makes no sense.');
        });
        worker.addEventListener('error', ({ message }: ErrorEvent) => {
          fail(message || 'its reader could not be loaded.');
        });
        worker.postMessage(question);
      } catch (problem) {
        fail(inWords(problem));
      }
    });
  }
}
