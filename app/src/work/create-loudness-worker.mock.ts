import { NOTE_SIZE, type FromLoudnessWorker, type ToLoudnessWorker } from './loudness-messages';

/** A stand-in for Jest: the loudness of a line is its mean velocity in LUFS below 127. */
class MeanWorker extends EventTarget {
  postMessage({ id, notes }: ToLoudnessWorker): void {
    const velocities = notes.filter((_, index) => index % NOTE_SIZE === NOTE_SIZE - 1);
    const mean = velocities.reduce((sum, velocity) => sum + velocity, 0) / velocities.length;
    const data: FromLoudnessWorker = { id, loudness: velocities.length === 0 ? null : mean - 127 };
    this.dispatchEvent(new MessageEvent('message', { data }));
  }

  terminate(): void {
    // nothing runs
  }
}

export const createLoudnessWorker = (): Worker => new MeanWorker() as unknown as Worker;
