import { Injectable } from '@angular/core';
import * as z from 'zod';
import type { Wave } from '@fendro/core/live/wave';
import { Database } from './database';

const waveSchema = z.object({ rate: z.number().positive(), samples: z.instanceof(Int16Array) });

/** How much of what the browser says is free is counted on. */
const COUNTED_ON = 0.9;

/** Recorded sounds in the browser's own database, each by a name that no other has; written once, never over. */
@Injectable({ providedIn: 'root' })
export class SoundStorage {
  private readonly store = new Database('sounds');

  /** @returns null where it is not there, or cannot be read. @throws StorageProblem where the database does not work */
  async get(name: string): Promise<Wave | null> {
    const read = waveSchema.safeParse(await this.store.get(name));
    return read.success ? read.data : null;
  }

  /** @throws StorageProblem in words, where there is no room among other things */
  put(name: string, { rate, samples }: Wave): Promise<void> {
    return this.store.set(name, { rate, samples });
  }

  /** Frees what nobody names any more. @param stays  whether a sound is to stay */
  async sweep(stays: (name: string) => boolean): Promise<void> {
    for (const name of await this.store.keys()) if (!stays(name)) await this.store.remove(name);
  }

  /** Bytes that can still be stored, as far as the browser tells; null where it does not. */
  async room(): Promise<number | null> {
    const manager = (navigator as { readonly storage?: StorageManager }).storage;
    const { quota, usage } = (await manager?.estimate().catch(() => undefined)) ?? {};
    return quota === undefined || usage === undefined ? null : Math.max(0, COUNTED_ON * (quota - usage));
  }
}
