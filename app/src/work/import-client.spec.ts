import type { ImportFile } from '@fendro/core/files/incoming/file-model';
import type { ToImportWorker } from './import-messages';
import { importWorkers } from './create-import-worker.mock';
import { ImportClient } from './import-client';

/** A worker that does what a test tells it to. */
class TestWorker extends EventTarget {
  ended = false;
  postMessage(message: ToImportWorker): void {
    act(this, message);
  }
  answer(data: unknown): void {
    this.dispatchEvent(new MessageEvent('message', { data }));
  }
  terminate(): void {
    this.ended = true;
  }
}
let act: (worker: TestWorker, message: ToImportWorker) => void;
let workers: TestWorker[] = [];
const create = () => {
  const worker = new TestWorker();
  workers.push(worker);
  return worker;
};

const file: ImportFile = { lines: [], sections: [], length: 1920, chords: [], remarks: [] };
const bytes = Uint8Array.of(1, 2, 3);
const key = { tonic: 0, scale: 'major' };

describe('reading a file in its worker', () => {
  beforeEach(() => {
    workers = [];
    jest.spyOn(importWorkers, 'create').mockImplementation(() => create() as unknown as Worker);
  });

  it('answers with what was found, and ends the worker', async () => {
    act = (worker, message) => {
      expect(message).toEqual({ kind: 'read', bytes });
      worker.answer({ kind: 'found', file, keys: [{ key, confidence: 0.7 }] });
    };
    expect(await new ImportClient().read(bytes)).toEqual({
      ok: true,
      found: { file, keys: [{ key, confidence: 0.7 }] },
    });
    expect(workers.map(({ ended }) => ended)).toEqual([true]);
  });

  it('ends the worker when it is given up, and starts none where it was given up before', async () => {
    act = () => undefined;
    const leaving = new AbortController();
    const reading = new ImportClient().read(bytes, leaving.signal);
    leaving.abort();
    expect((await reading).ok).toBe(false);
    expect(workers.map(({ ended }) => ended)).toEqual([true]);
    expect((await new ImportClient().read(bytes, leaving.signal)).ok).toBe(false);
    expect(workers).toHaveLength(1);
  });

  it('tells why a file is refused', async () => {
    act = (worker) => {
      worker.answer({ kind: 'refused', reason: 'This is not a MIDI file.' });
    };
    expect(await new ImportClient().read(bytes)).toEqual({ ok: false, reason: 'This is not a MIDI file.' });
  });

  it('tells when the answer makes no sense, the worker fails, or cannot be asked', async () => {
    const client = new ImportClient();
    act = (worker) => {
      worker.answer({ kind: 'found', file: 'all of it' });
    };
    expect(await client.read(bytes)).toMatchObject({ reason: expect.stringContaining('makes no sense') as string });
    act = (worker) => worker.dispatchEvent(new ErrorEvent('error', { message: 'out of memory' }));
    expect(await client.read(bytes)).toMatchObject({ reason: expect.stringContaining('out of memory') as string });
    act = () => {
      throw new DOMException('it could not be cloned', 'DataCloneError');
    };
    expect(await client.read(bytes)).toMatchObject({ reason: expect.stringContaining('cloned') as string });
    expect(workers.every(({ ended }) => ended)).toBe(true);
  });

  it('gives up a file that takes too long, in words', async () => {
    jest.useFakeTimers();
    act = () => undefined;
    const answer = new ImportClient().read(bytes);
    jest.advanceTimersByTime(8000);
    jest.useRealTimers();
    expect(await answer).toMatchObject({ ok: false, reason: expect.stringContaining('too long') as string });
    expect(workers[0]!.ended).toBe(true);
  });

  it('finds chords, or none where they could not be found', async () => {
    act = (worker, message) => {
      expect(message).toEqual({ kind: 'chords', file, picked: ['a'], key });
      worker.answer({ kind: 'chords', chords: [[]] });
    };
    expect(await new ImportClient().chords(file, ['a'], key)).toEqual([[]]);
    act = (worker) => worker.dispatchEvent(new ErrorEvent('error'));
    expect(await new ImportClient().chords(file, ['a'], key)).toBeNull();
  });
});
