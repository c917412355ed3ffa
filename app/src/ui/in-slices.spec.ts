import { inSlices } from './in-slices';

function* counted(steps: number, each: () => void): Generator<void, number> {
  for (let step = 0; step < steps; step++) {
    each();
    yield;
  }
  return steps;
}

/** Answers a message a task later, as a browser's does. */
class Channel {
  readonly port1: { onmessage: (() => void) | null; close: () => void } = { onmessage: null, close: () => undefined };
  readonly port2 = { postMessage: () => setTimeout(() => this.port1.onmessage?.()) };
}

describe('work in slices', () => {
  beforeEach(() => {
    Object.assign(globalThis, { MessageChannel: Channel });
  });
  afterEach(() => {
    jest.restoreAllMocks();
  });

  it('does every step once, in order, and gives the result', async () => {
    const done: number[] = [];
    expect(await inSlices(counted(5, () => done.push(done.length)))).toBe(5);
    expect(done).toEqual([0, 1, 2, 3, 4]);
  });

  it('lets others have their turn between slices', async () => {
    let now = 0;
    jest.spyOn(performance, 'now').mockImplementation(() => now);
    const turns: string[] = [];
    const work = inSlices(
      counted(4, () => {
        turns.push('step');
        now += 6;
      }),
    );
    void Promise.resolve().then(() => turns.push('other'));
    await work;
    expect(turns.indexOf('other')).toBe(2);
  });

  it('fails as the work fails', async () => {
    await expect(
      inSlices(
        counted(1, () => {
          throw new Error('damaged');
        }),
      ),
    ).rejects.toThrow('damaged');
  });
});
