import { TestBed } from '@angular/core/testing';
import { SMALL } from '../../testing/view';
import { Banks } from '../banks';
import { soundFilesWorkers } from './create-sound-files-worker.mock';
import { SoundFilesClient } from './sound-files-client';
import type { SoundWish } from './sound-files-work';
import type { FromSoundWorker } from './sound-messages';

/** A worker that says what it is told to. */
class Saying extends EventTarget {
  readonly asked: SoundWish[] = [];
  ended = false;
  postMessage(wish: SoundWish): void {
    this.asked.push(wish);
  }
  terminate(): void {
    this.ended = true;
  }
  says(data: FromSoundWorker): void {
    this.dispatchEvent(new MessageEvent('message', { data }));
  }
}

const MUSIC = { score: SMALL.score, takes: SMALL.takes, heard: {} };
const WISH = { music: MUSIC, files: [{ name: 'Rain.wav', part: null }], rate: 48_000, bits: 24 } as const;
const settled = (): Promise<void> => new Promise((resolve) => setTimeout(resolve));

describe('the work of writing sound', () => {
  let worker: Saying;
  let fetched: string[];

  beforeEach(() => {
    worker = new Saying();
    fetched = [];
    jest.spyOn(soundFilesWorkers, 'create').mockImplementation(() => worker as unknown as Worker);
    const banks = {
      get: (family: string) => Promise.resolve(new ArrayBuffer(fetched.push(family))),
      forget: () => undefined,
    };
    TestBed.configureTestingModule({ providers: [{ provide: Banks, useValue: banks }] });
  });
  afterEach(() => {
    jest.restoreAllMocks();
  });

  it('asks with the sounds of all that sounds, tells how far it is, and ends its worker with the answer', async () => {
    const told: number[] = [];
    const writing = TestBed.inject(SoundFilesClient).write(
      WISH,
      ({ done }) => told.push(done),
      new AbortController().signal,
    );
    await settled();
    expect(worker.asked[0]!.banks.map(({ family }) => family)).toEqual(fetched);
    expect(new Set(fetched).size).toBe(fetched.length);
    expect(fetched.length).toBeGreaterThan(0);
    worker.says({ kind: 'progress', name: 'Rain.wav', done: 0.5 });
    const answer = { blob: new Blob(['rain']), seconds: 3, peaks: [0.5] };
    worker.says({ kind: 'written', ...answer });
    expect(await writing).toMatchObject(answer);
    expect(told).toEqual([0.5]);
    expect(worker.ended).toBe(true);
  });

  it('ends its worker when it is given up, fails, or breaks, and says which', async () => {
    const client = TestBed.inject(SoundFilesClient);
    const leaving = new AbortController();
    const left = client.write(WISH, () => undefined, leaving.signal);
    await settled();
    leaving.abort();
    await expect(left).rejects.toThrow('given up');
    expect(worker.ended).toBe(true);

    worker = new Saying();
    const failed = client.write(WISH, () => undefined, new AbortController().signal);
    await settled();
    worker.says({ kind: 'failed', reason: 'out of memory' });
    await expect(failed).rejects.toThrow('out of memory');

    worker = new Saying();
    const broken = client.write(WISH, () => undefined, new AbortController().signal);
    await settled();
    worker.dispatchEvent(new ErrorEvent('error', { message: 'no such file' }));
    await expect(broken).rejects.toThrow('no such file');
    expect(worker.ended).toBe(true);

    worker = new Saying();
    await expect(client.write(WISH, () => undefined, AbortSignal.abort())).rejects.toThrow('given up');
    expect(worker.asked).toEqual([]);
  });
});
