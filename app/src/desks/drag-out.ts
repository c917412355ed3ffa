import { Injectable } from '@angular/core';
import type { Delivery, Stretch } from '@fendro/core/files/outgoing/deliver';
import type { deliverBars, deliverTake } from '@fendro/core/files/outgoing/deliver-piece';
import type { Music } from '@fendro/core/song/resolve';
import type { Part, Take } from '@fendro/core/song/schema';
import { downloadAddress } from '../ui/download';
import { fetchWhenIdle } from '../ui/fetch-ahead';

interface Deliver {
  readonly deliverBars: typeof deliverBars;
  readonly deliverTake: typeof deliverTake;
}

/** Pictures of music and selected bars that are dragged out of the window and arrive elsewhere as MIDI files. */
@Injectable({ providedIn: 'root' })
export class DragOut {
  private deliver: Deliver | null = null;

  /** Fetches what writes files once the page is idle, since a drag cannot wait for it. */
  warmUp(): void {
    fetchWhenIdle(() => {
      this.comeNear();
    });
  }

  /** Fetches it at once: the pointer is over something that can be dragged. */
  comeNear(): void {
    if (this.deliver) return;
    // Where it cannot be fetched there is nothing to say yet: a drag ends, and the pointer tries again.
    import('@fendro/core/files/outgoing/deliver-piece').then(
      (module) => {
        this.deliver = module;
      },
      () => undefined,
    );
  }

  /** Lets a drag carry a take's file; ends the drag where there is none. */
  start(event: DragEvent, music: Music | null, take: Take | null): void {
    this.carry(event, music && take?.of === 'part' ? (this.deliver?.deliverTake(music, take) ?? null) : null);
  }

  /** Lets a drag carry some bars, of one part or of all. */
  startBars(event: DragEvent, music: Music | null, stretch: Stretch | null, part: Part | null): void {
    this.carry(event, music && stretch ? (this.deliver?.deliverBars(music, stretch, part) ?? null) : null);
  }

  /** Lets a drag carry several files in one zip, which is at hand already. */
  startZip(event: DragEvent, name: string, zip: Uint8Array<ArrayBuffer> | null): void {
    this.carry(event, zip ? { name, bytes: zip } : null, 'application/zip');
  }

  private carry(event: DragEvent, file: Pick<Delivery, 'name' | 'bytes'> | null, type = 'audio/midi'): void {
    if (!file || !event.dataTransfer) {
      event.preventDefault();
      return;
    }
    event.dataTransfer.effectAllowed = 'copy';
    event.dataTransfer.setData('DownloadURL', `${type}:${file.name}:${downloadAddress(file.bytes, type)}`);
    event.dataTransfer.setData('text/plain', file.name);
  }
}
