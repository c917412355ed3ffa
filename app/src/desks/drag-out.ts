import { Injectable } from '@angular/core';
import type { deliverTake } from '@fendro/core/files/outgoing/deliver';
import type { Music } from '@fendro/core/song/resolve';
import type { Take } from '@fendro/core/song/schema';
import { downloadAddress } from '../ui/download';
import { whenIdle } from '../ui/when-idle';

/** Pictures of music that are dragged out of the window and arrive elsewhere as MIDI files. */
@Injectable({ providedIn: 'root' })
export class DragOut {
  private deliver: typeof deliverTake | null = null;

  /** Fetches what writes files once the page is idle, since a drag cannot wait for it. */
  warmUp(): void {
    whenIdle(() => {
      this.comeNear();
    });
  }

  /** Fetches it at once: the pointer is over something that can be dragged. */
  comeNear(): void {
    if (this.deliver) return;
    // Where it cannot be fetched there is nothing to say yet: a drag ends, and the pointer tries again.
    import('@fendro/core/files/outgoing/deliver').then(
      (module) => {
        this.deliver = module.deliverTake;
      },
      () => undefined,
    );
  }

  /** Lets a drag carry a take's file; ends the drag where there is none. */
  start(event: DragEvent, music: Music | null, take: Take | null): void {
    const file = music && take?.of === 'part' ? (this.deliver?.(music, take) ?? null) : null;
    if (!file || !event.dataTransfer) {
      event.preventDefault();
      return;
    }
    event.dataTransfer.effectAllowed = 'copy';
    event.dataTransfer.setData('DownloadURL', `audio/midi:${file.name}:${downloadAddress(file.bytes, 'audio/midi')}`);
    event.dataTransfer.setData('text/plain', file.name);
  }
}
