import { computed, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { handedNow, type HandedOver } from '@fendro/core/files/outgoing/since';
import type { HandedFile } from '@fendro/core/files/outgoing/hand-over';
import * as z from 'zod';
import { selectSong } from '../store/selectors';
import { pageMemory } from '../ui/page-memory';

const KEPT = 'fendro handed over';
/** Songs whose last hand-over is remembered: those handed over longest ago are forgotten. */
const SONGS = 50;

const memorySchema = z.record(
  z.string(),
  z.object({
    /** When, in ms since 1970. */
    at: z.number(),
    files: z.record(z.string(), z.string()),
  }),
);
type Memory = z.infer<typeof memorySchema>;

function remembered(): Memory {
  try {
    const read = memorySchema.safeParse(JSON.parse(pageMemory.get(KEPT) ?? '{}'));
    return read.success ? read.data : {};
  } catch {
    return {};
  }
}

const NOTHING: HandedOver = {};

/** Which files of the open song went out last, so that only what has changed since need go again. */
@Injectable({ providedIn: 'root' })
export class HandedOverDesk {
  /** Where files went last while Fendro is open: what changes goes there again. */
  readonly folder = signal<FileSystemDirectoryHandle | null>(null);
  private readonly open = inject(Store).selectSignal(selectSong);
  private readonly memory = signal(remembered());
  private readonly last = computed(() => this.memory()[this.open().open?.id ?? ''] ?? null);
  /** When something of the song went out last; null where nothing ever did. */
  readonly at = computed(() => {
    const last = this.last();
    return last ? new Date(last.at) : null;
  });
  readonly files = computed(() => this.last()?.files ?? NOTHING);

  /** @param all  every file that the song has now */
  remember(out: readonly HandedFile[], all: readonly HandedFile[]): void {
    const song = this.open().open?.id;
    if (song === undefined) return;
    const printed = (files: readonly HandedFile[]) => files.map(({ delivery: { name }, print }) => ({ name, print }));
    // Other tabs hand over too.
    const memory = remembered();
    const files = handedNow(memory[song]?.files ?? NOTHING, printed(out), printed(all));
    const latest = Object.entries({ ...memory, [song]: { at: Date.now(), files } })
      .sort(([, a], [, b]) => b.at - a.at)
      .slice(0, SONGS);
    this.memory.set(Object.fromEntries(latest));
    pageMemory.set(KEPT, JSON.stringify(this.memory()));
  }
}
