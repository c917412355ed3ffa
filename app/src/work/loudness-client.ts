import { Injectable } from '@angular/core';
import type { Instrument } from '@fendro/core/sounding/instruments';
import { createLoudnessWorker } from './create-loudness-worker';
import { fromLoudnessWorkerSchema, NOTE_SIZE, type ToLoudnessWorker } from './loudness-messages';

/** A note that sounds, in seconds. */
export interface TimedNote {
  readonly start: number;
  readonly end: number;
  readonly pitch: number;
  readonly velocity: number;
}

/** Measures how loud lines are, with the sounds that play them, away from the page. */
@Injectable({ providedIn: 'root' })
export class LoudnessClient {
  private worker: Worker | null = null;
  private next = 1;
  private readonly waiting = new Map<number, (loudness: number | null) => void>();

  /** @returns the loudness in LUFS; null where the line is silent or could not be measured */
  measure(notes: readonly TimedNote[], { family, program }: Instrument, drums: boolean): Promise<number | null> {
    const flat = new Float64Array(notes.length * NOTE_SIZE);
    notes.forEach(({ start, end, pitch, velocity }, index) => {
      flat.set([start, end, pitch, velocity], index * NOTE_SIZE);
    });
    const id = this.next++;
    const bank = new URL(`sounds/${family}.sf3`, document.baseURI).href;
    return new Promise((resolve) => {
      this.waiting.set(id, resolve);
      this.ensure().postMessage({ id, bank, program, drums, notes: flat } satisfies ToLoudnessWorker);
    });
  }

  private ensure(): Worker {
    if (this.worker) return this.worker;
    const worker = createLoudnessWorker();
    worker.addEventListener('message', ({ data }: MessageEvent<unknown>) => {
      const { id, loudness } = fromLoudnessWorkerSchema.parse(data);
      this.waiting.get(id)?.(loudness);
      this.waiting.delete(id);
    });
    // Without it takes are compared as loud as they are.
    worker.addEventListener('error', () => {
      worker.terminate();
      this.worker = null;
      for (const resolve of this.waiting.values()) resolve(null);
      this.waiting.clear();
    });
    this.worker = worker;
    return worker;
  }
}
