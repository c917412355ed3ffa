import { Injectable } from '@angular/core';
import type { Family } from '@fendro/core/sounding/instruments';
import '@fendro/core/song/validation';
import * as z from 'zod';
import { createDecodeWorker } from '../work/create-decode-worker';

const answerSchema = z.object({ id: z.string(), bytes: z.instanceof(ArrayBuffer).optional(), reason: z.string().optional() });

const DECODERS = 2;

/** Fetches families of sounds and decodes them in a worker. */
@Injectable({ providedIn: 'root' })
export class Banks {
  /** Two decoders share the work of a cold start. */
  private readonly workers: Worker[] = [];
  private turn = 0;
  private readonly decoded = new Map<Family, Promise<ArrayBuffer>>();
  private readonly waiting = new Map<string, { resolve: (bytes: ArrayBuffer) => void; reject: (problem: Error) => void }>();

  /** A family's bank as plain samples. Handing it to the audio thread takes it away, so it is decoded anew if needed again. */
  get(family: Family): Promise<ArrayBuffer> {
    const known = this.decoded.get(family) ?? this.load(family);
    this.decoded.set(family, known);
    known.catch(() => this.decoded.delete(family));
    return known;
  }

  /** Fetches and decodes ahead of the first click what is not there yet, the first named first. */
  warm(families: Iterable<Family>, has: (family: Family) => boolean): void {
    setTimeout(() => {
      for (const family of new Set(families)) if (!has(family)) void this.get(family).catch(() => undefined);
    });
  }

  forget(family: Family): void {
    this.decoded.delete(family);
  }

  private async load(family: Family): Promise<ArrayBuffer> {
    const response = await fetch(`sounds/${family}.sf3`);
    if (!response.ok) throw new Error(`The sounds of “${family}” could not be loaded (${response.status}).`);
    const bytes = await response.arrayBuffer();
    return new Promise((resolve, reject) => {
      this.waiting.set(family, { resolve, reject });
      this.decoder().postMessage({ id: family, bytes }, [bytes]);
    });
  }

  private decoder(): Worker {
    const place = this.turn++ % DECODERS;
    const known = this.workers[place];
    if (known) return known;
    const worker = createDecodeWorker();
    this.workers[place] = worker;
    worker.addEventListener('message', ({ data }: MessageEvent<unknown>) => {
      const { id, bytes, reason } = answerSchema.parse(data);
      const waiting = this.waiting.get(id);
      this.waiting.delete(id);
      if (bytes) waiting?.resolve(bytes);
      else waiting?.reject(new Error(reason ?? 'The sounds could not be decoded.'));
    });
    return worker;
  }
}
