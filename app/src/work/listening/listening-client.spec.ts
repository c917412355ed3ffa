import { FOUR } from '@fendro/core/testing/heard';
import { ListeningClient } from './listening-client';
import { listeningWorkers } from './create-listening-worker.mock';

/** A worker that says what it is told to. */
class SaidWorker extends EventTarget {
  readonly terminate = jest.fn();
  readonly postMessage = jest.fn();
  say(data: unknown): void {
    this.dispatchEvent(new MessageEvent('message', { data }));
  }
}

describe('listening to a recording', () => {
  const samples = (): Float32Array => new Float32Array(100);
  const said = (): SaidWorker => {
    const worker = new SaidWorker();
    jest.spyOn(listeningWorkers, 'create').mockImplementation(() => worker as unknown as Worker);
    return worker;
  };
  afterEach(() => {
    jest.restoreAllMocks();
  });

  it('tells how far it is, writes down what was heard, and again in another way', async () => {
    const shares: number[] = [];
    const heard = await new ListeningClient().listen(
      samples(),
      (share) => shares.push(share),
      new AbortController().signal,
    );
    expect(shares).toEqual([0.5]);
    expect(heard.written.file.sections).toMatchObject([{ tempo: 120, bars: 2 * FOUR.length }]);
    expect((await heard.write({ tempo: 60 })).tempo).toBeCloseTo(60, 1);
    heard.end();
  });

  it.each([
    ['refuses in words', { kind: 'refused', reason: 'what listens could not be loaded' }, /could not be loaded/],
    ['refuses what makes no sense', { kind: 'written', tempo: 'fast' }, /makes no sense/],
  ])('%s, and ends its worker', async (_name, data, words) => {
    const worker = said();
    const listened = new ListeningClient().listen(samples(), jest.fn(), new AbortController().signal);
    worker.say(data);
    await expect(listened).rejects.toThrow(words);
    expect(worker.terminate).toHaveBeenCalledTimes(1);
  });

  it('ends its worker when it is given up, before or on the way', async () => {
    const worker = said();
    const given = new AbortController();
    const told = jest.fn();
    const listened = new ListeningClient().listen(samples(), told, given.signal);
    given.abort();
    worker.say({ kind: 'heard', share: 0.7 });
    await expect(listened).rejects.toThrow('given up');
    await expect(new ListeningClient().listen(samples(), told, given.signal)).rejects.toThrow('given up');
    expect(worker.terminate).toHaveBeenCalledTimes(2);
    expect(told).not.toHaveBeenCalled();
  });

  it('says so where its worker breaks', async () => {
    const worker = said();
    const listened = new ListeningClient().listen(samples(), jest.fn(), new AbortController().signal);
    worker.dispatchEvent(new ErrorEvent('error', { message: 'out of memory' }));
    await expect(listened).rejects.toThrow('out of memory');
  });
});
