import { FOUR, heardLine } from '@fendro/core/testing/heard';
import { keysOfFile } from '@fendro/core/files/incoming/imported-song';
import { heardFile } from '@fendro/core/listen/heard-file';
import type { FromListeningWorker, ToListeningWorker } from './listening-messages';

/** A stand-in for Jest: whatever it listens to, it hears the same chords, eight bars of them at 120 beats a minute. */
class SameChordsWorker extends EventTarget {
  postMessage(message: ToListeningWorker): void {
    if (message.kind === 'listen') this.say({ kind: 'heard', share: 0.5 });
    const {
      file,
      time: _time,
      ...facts
    } = heardFile(heardLine(FOUR, 2), message.kind === 'write' ? message.correction : {});
    this.say({ kind: 'written', file: file as never, keys: keysOfFile(file), ...facts, metre: facts.metre as never });
  }

  terminate(): void {
    // nothing runs
  }

  private say(data: FromListeningWorker): void {
    queueMicrotask(() => this.dispatchEvent(new MessageEvent('message', { data })));
  }
}

export const listeningWorkers = { create: (): Worker => new SameChordsWorker() as unknown as Worker };

export const createListeningWorker = (): Worker => listeningWorkers.create();
