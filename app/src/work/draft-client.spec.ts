import { ENGINE } from '@fendro/core/compose/engine';
import { scoreWith } from '@fendro/core/testing/scores';
import type { ToWorker } from './draft-messages';
import { draftWorkers } from './create-draft-worker.mock';
import { DraftClient, type Refusal } from './draft-client';

/** A worker that does what a test tells it to. */
class TestWorker extends EventTarget {
  ended = false;
  constructor(private readonly act: (worker: TestWorker, message: ToWorker) => void) {
    super();
  }
  postMessage(message: ToWorker): void {
    this.act(this, message);
  }
  answer(data: unknown): void {
    this.dispatchEvent(new MessageEvent('message', { data }));
  }
  terminate(): void {
    this.ended = true;
  }
}
let act: (worker: TestWorker, message: ToWorker) => void;
let workers: TestWorker[] = [];
const create = () => {
  const worker = new TestWorker((own, message) => {
    act(own, message);
  });
  workers.push(worker);
  return worker;
};

const { song } = scoreWith(1, 0);
const asking = {
  engine: ENGINE,
  ground: song.score.ground,
  bars: 2,
  kind: 'verse' as const,
  harmonyBrief: song.score.sections[0]!.harmonyBrief,
  beside: [],
};
const run = (client: DraftClient) => {
  const refusals: Refusal[] = [];
  let takes = 0;
  const { done, cancel } = client.run(
    { request: { asking, seed: 1, chords: null, beside: [] }, from: 0, count: 2, shown: [] },
    {
      take: () => {
        takes++;
      },
      progress: () => undefined,
      refused: (refusal) => refusals.push(refusal),
      usedUp: (found) => refusals.push({ reason: `used up at ${found}` }),
    },
  );
  return { done, cancel, refusals, takes: () => takes };
};
beforeEach(() => {
  workers = [];
  jest.spyOn(draftWorkers, 'create').mockImplementation(() => create() as unknown as Worker);
});

describe('a drafting worker', () => {
  it('that breaks off on the way says so, and the work ends', async () => {
    act = (worker, message) => {
      if (message.kind === 'draft') worker.answer({ kind: 'failed', id: message.id, reason: 'out of memory' });
    };
    const job = run(new DraftClient());
    await job.done;
    expect(job.refusals).toEqual([{ reason: expect.stringContaining('Drafting broke off (out of memory)') as string }]);
  });

  it.each([
    [
      'throws',
      (worker: TestWorker) => {
        worker.dispatchEvent(new ErrorEvent('error', { message: 'boom' }));
      },
    ],
    [
      'answers nonsense',
      (worker: TestWorker) => {
        worker.answer({ kind: 'weather' });
      },
    ],
    [
      'cannot be started',
      () => {
        throw new Error('not allowed');
      },
    ],
  ])('that %s is ended, told, and the next draft gets another', async (_what, breakDown) => {
    act = (worker) => {
      breakDown(worker);
    };
    const client = new DraftClient();
    const [one, two] = [run(client), run(client)];
    await Promise.all([one.done, two.done]);
    expect(one.refusals[0]?.reason).toMatch(/Drafting broke off/);
    expect(workers[0]?.ended).toBe(true);
    act = (worker, message) => {
      worker.answer({ kind: 'done', id: (message as { id: number }).id });
    };
    const next = run(client);
    await next.done;
    expect(next.refusals).toEqual([]);
    expect(workers.at(-1)).not.toBe(workers[0]);
  });

  it('that takes no notice of a cancel is ended', async () => {
    jest.useFakeTimers();
    act = () => undefined;
    const job = run(new DraftClient());
    job.cancel();
    await jest.advanceTimersByTimeAsync(60);
    await job.done;
    expect(workers[0]?.ended).toBe(true);
    jest.useRealTimers();
  });
});
