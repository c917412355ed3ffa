import { inject, Injectable } from '@angular/core';
import { Banks } from '../banks';
import { createSoundFilesWorker } from './create-sound-files-worker';
import { soundingVoices } from './song-sound';
import type { SoundWish } from './sound-files-work';
import { fromSoundWorkerSchema, type SoundProgress, type WrittenSound } from './sound-messages';

const givenUp = (): Error => new Error('it was given up');

/** Has songs written as sound, away from the page: a worker for each, ended when it is done or given up. */
@Injectable({ providedIn: 'root' })
export class SoundFilesClient {
  private readonly banks = inject(Banks);

  /**
   * @param tell   hears how far it is
   * @param given  up: the worker is ended, and the promise fails
   */
  async write(
    wish: Omit<SoundWish, 'banks'>,
    tell: (progress: SoundProgress) => void,
    given: AbortSignal,
  ): Promise<WrittenSound> {
    const families = [...new Set(soundingVoices(wish.music).map(({ instrument }) => instrument.family))];
    const banks = await Promise.all(
      families.map(async (family) => {
        const bytes = await this.banks.get(family);
        this.banks.forget(family);
        return { family, bytes };
      }),
    );
    if (given.aborted) throw givenUp();
    const worker = createSoundFilesWorker();
    try {
      return await new Promise((resolve, reject) => {
        given.addEventListener('abort', () => {
          reject(givenUp());
        });
        worker.addEventListener('error', ({ message }) => {
          reject(new Error(message || 'its program could not be loaded'));
        });
        worker.addEventListener('message', ({ data }: MessageEvent<unknown>) => {
          const message = fromSoundWorkerSchema.parse(data);
          if (message.kind === 'progress') tell(message);
          else if (message.kind === 'written') resolve(message);
          else reject(new Error(message.reason));
        });
        const asked: SoundWish = { ...wish, banks };
        worker.postMessage(
          asked,
          banks.map(({ bytes }) => bytes),
        );
      });
    } finally {
      worker.terminate();
    }
  }
}
