import { Injectable } from '@angular/core';
import type { NamedBytes } from '@fendro/core/files/outgoing/archive';
import type { HandOver, HandOverWish } from '@fendro/core/files/outgoing/hand-over';
import type { PrintedSheet } from '@fendro/core/files/outgoing/printed-sheet';
import type { Provenance } from '@fendro/core/song/own-phrase';
import type { Music } from '@fendro/core/song/resolve';
import type { PartId } from '@fendro/core/song/schema';
import { wrap, type Remote } from 'comlink';
import { createFilesWorker } from './create-files-worker';
import type { BankFile, FilesWork } from './files-work';

/** Takes that come over at a time: more would hold the page up. */
const TAKES_AT_ONCE = 100;

/** The page's side of the work on files: a worker for each question, ended with its answer or when it is given up. */
@Injectable({ providedIn: 'root' })
export class FilesClient {
  /** A song file's text as data; null where it is no JSON. */
  readSong(bytes: Uint8Array): Promise<unknown> {
    return this.ask(async (work) => {
      const read = await work.readSong(bytes);
      if (!read || read.takes === 0) return read?.frame ?? null;
      const takes: (readonly [string, unknown])[] = [];
      for (let from = 0; from < read.takes; from += TAKES_AT_ONCE)
        takes.push(...(await work.takes(from, from + TAKES_AT_ONCE)));
      const frame = read.frame as { readonly ledger: object };
      return { ...frame, ledger: { ...frame.ledger, takes: Object.fromEntries(takes) } };
    });
  }

  /** All files of a song. */
  handOver(music: Music, wish: HandOverWish, given?: AbortSignal): Promise<HandOver> {
    return this.ask((work) => work.handOver(music, wish), given);
  }

  /** The lead sheet of a part; null where it plays nothing. */
  leadSheet(music: Music, part: PartId, given?: AbortSignal): Promise<PrintedSheet | null> {
    return this.ask((work) => work.leadSheet(music, part), given);
  }

  zip(files: readonly NamedBytes[]): Promise<Uint8Array<ArrayBuffer>> {
    return this.ask((work) => work.zip(files.map(({ name, bytes }) => ({ name, bytes }))));
  }

  /** @throws Error where it is no zip, or more than can be held */
  unzip(bytes: Uint8Array): Promise<readonly NamedBytes[]> {
    return this.ask((work) => work.unzip(bytes));
  }

  /**
   * The phrases of many MIDI files, one after the other by one worker.
   *
   * @param read   the bytes of each, when its turn comes
   * @param each   told of what is in each, in their order
   * @param given  up: nothing more is told, and the promise fails
   */
  bank(
    files: readonly { readonly from: Provenance; readonly read: () => Promise<Uint8Array> }[],
    each: (answer: BankFile, place: number) => void,
    given: AbortSignal,
  ): Promise<void> {
    return this.ask(async (work) => {
      for (const [place, { from, read }] of files.entries()) {
        const answer = await work.bankFile(await read(), from);
        if (given.aborted) return;
        each(answer, place);
      }
    }, given);
  }

  /** @param given  up: the worker is ended, and the promise fails */
  private async ask<T>(question: (work: Remote<FilesWork>) => Promise<T>, given?: AbortSignal): Promise<T> {
    if (given?.aborted) throw new Error('it was given up');
    const worker = createFilesWorker();
    const broken = new Promise<never>((_resolve, reject) => {
      const fail = (why: string): void => {
        reject(new Error(why));
      };
      worker.addEventListener('error', ({ message }) => {
        fail(message || 'its program could not be loaded');
      });
      given?.addEventListener('abort', () => {
        fail('it was given up');
      });
    });
    try {
      return await Promise.race([question(wrap<FilesWork>(worker)), broken]);
    } finally {
      worker.terminate();
    }
  }
}
