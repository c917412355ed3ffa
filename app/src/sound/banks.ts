import { Injectable } from '@angular/core';
import type { Family } from '@fendro/core/sounding/instruments';
import '@fendro/core/song/validation';
import * as z from 'zod';
import { fetchAhead } from '../ui/fetch-ahead';
import { createDecodeWorker } from '../work/create-decode-worker';

const answerSchema = z.object({
  id: z.string(),
  bytes: z.instanceof(ArrayBuffer).optional(),
  reason: z.string().optional(),
});

const DECODERS = 2;
/** A family that takes longer to decode is given up. */
const DECODE_LIMIT_MS = 20_000;

/** Fetches families of sounds and decodes them in a worker. */
@Injectable({ providedIn: 'root' })
export class Banks {
  /** Two decoders share the work of a cold start. */
  private readonly workers: Worker[] = [];
  private turn = 0;
  private readonly decoded = new Map<Family, Promise<ArrayBuffer>>();
  private readonly waiting = new Map<
    string,
    { resolve: (bytes: ArrayBuffer) => void; reject: (problem: Error) => void; timer: ReturnType<typeof setTimeout> }
  >();

  /**
   * A family's bank as plain samples. Handing it to the audio thread takes it away, so it is decoded anew if needed
   * again.
   */
  get(family: Family): Promise<ArrayBuffer> {
    const known = this.decoded.get(family) ?? this.load(family);
    this.decoded.set(family, known);
    known.catch(() => this.decoded.delete(family));
    return known;
  }

  /** Fetches and decodes the missing families before they are needed, in the given order. */
  warm(families: Iterable<Family>, has: (family: Family) => boolean): void {
    fetchAhead(() => {
      setTimeout(() => {
        for (const family of new Set(families)) if (!has(family)) void this.get(family).catch(() => undefined);
      });
    });
  }

  forget(family: Family): void {
    this.decoded.delete(family);
  }

  private async load(family: Family): Promise<ArrayBuffer> {
    const response = await fetch(`sounds/${family}.sf3`).catch(() => null);
    if (!response?.ok)
      throw new Error(
        `The sounds of “${family}” could not be loaded (${response ? response.status : 'no connection'}).`,
      );
    const bytes = await response.arrayBuffer();
    return new Promise((resolve, reject) => {
      const timer = setTimeout(() => {
        this.answer(family, null, 'decoding them took too long.');
      }, DECODE_LIMIT_MS);
      this.waiting.set(family, { resolve, reject, timer });
      this.decoder().postMessage({ id: family, bytes }, [bytes]);
    });
  }

  private answer(id: string, bytes: ArrayBuffer | null, reason: string): void {
    const waiting = this.waiting.get(id);
    this.waiting.delete(id);
    clearTimeout(waiting?.timer);
    if (bytes) waiting?.resolve(bytes);
    else waiting?.reject(new Error(`The sounds of “${id}” could not be decoded: ${reason}`));
  }

  private decoder(): Worker {
    const place = this.turn++ % DECODERS;
    const known = this.workers[place];
    if (known) return known;
    const worker = createDecodeWorker();
    this.workers[place] = worker;
    worker.addEventListener('message', ({ data }: MessageEvent<unknown>) => {
      const { id, bytes, reason } = answerSchema.parse(data);
      this.answer(id, bytes ?? null, reason ?? 'there is nothing in them.');
    });
    // Which of them broke it is not known: all are told, and the next family gets a new worker.
    worker.addEventListener('error', ({ message }) => {
      worker.terminate();
      this.workers.splice(0).forEach((other) => {
        other.terminate();
      });
      for (const id of [...this.waiting.keys()]) this.answer(id, null, message || 'the decoder could not be loaded.');
    });
    return worker;
  }
}
