import { Injectable, signal } from '@angular/core';
import { withDrumOn, type DrumKeys } from '@fendro/core/files/midi/drum-layout';
import type { MidiNote } from '@fendro/core/theory/units';
import '@fendro/core/song/validation';
import * as z from 'zod';
import { pageMemory } from '../ui/page-memory';

const KEPT = 'fendro drum keys';

const key = z.number().int().min(0).max(127);
const memorySchema = z.array(z.tuple([key, key])).max(128);

function remembered(): DrumKeys {
  try {
    return new Map(memorySchema.parse(JSON.parse(pageMemory.get(KEPT) ?? '[]')));
  } catch {
    return new Map();
  }
}

/** On which keys the writer's own device has its drums: for every song, on this machine. */
@Injectable({ providedIn: 'root' })
export class OwnDrumKeys {
  private readonly own = signal(remembered());
  readonly keys = this.own.asReadonly();

  /** @param struck  all drums of the kit: none of them shares its key with another */
  put(struck: readonly MidiNote[], drum: MidiNote, on: MidiNote): void {
    this.own.update((own) => withDrumOn(own, struck, drum, on));
    pageMemory.set(KEPT, JSON.stringify([...this.own()]));
  }
}
