import { TestBed } from '@angular/core/testing';
import type { FromProcessor, ToProcessor } from '../../worklets/protocol';
import { Banks } from './banks';
import { SoundEngine } from './engine';

/** The browser's side of sound, as far as the engine sees it. */
const system = {
  resumes: true,
  ready: true,
  takesBanks: true,
  contexts: [] as TestContext[],
  sent: [] as ToProcessor[],
};

class TestContext {
  state: AudioContextState | 'interrupted' = 'suspended';
  sampleRate = 48_000;
  currentTime = 0;
  baseLatency = 0;
  outputLatency = 0;
  onstatechange: (() => void) | null = null;
  destination = {};
  getOutputTimestamp = () => ({ contextTime: performance.now() / 1000, performanceTime: performance.now() });
  audioWorklet = { addModule: () => Promise.resolve() };
  constructor() {
    system.contexts.push(this);
  }
  resume(): Promise<void> {
    if (!system.resumes) return new Promise(() => undefined);
    this.become('running');
    return Promise.resolve();
  }
  close(): Promise<void> {
    this.become('closed');
    return Promise.resolve();
  }
  become(state: TestContext['state']): void {
    this.state = state;
    this.onstatechange?.();
  }
}

class TestNode {
  onprocessorerror: (() => void) | null = null;
  port = {
    onmessage: null as ((event: { data: FromProcessor }) => void) | null,
    postMessage: (message: ToProcessor): void => {
      this.receive(message);
    },
  };
  constructor() {
    setTimeout(() => {
      if (system.ready) this.say({ kind: 'ready' });
    });
  }
  connect(): void {
    /* nothing sounds */
  }
  private receive(message: ToProcessor): void {
    system.sent.push(message);
    if (message.kind !== 'bank') return;
    setTimeout(() => {
      this.say(
        system.takesBanks
          ? { kind: 'bank added', id: message.id }
          : { kind: 'bank refused', id: message.id, reason: 'no bank' },
      );
    });
  }
  private say(data: FromProcessor): void {
    this.port.onmessage?.({ data });
  }
}

const banks = {
  get: jest.fn((family: string) =>
    family === 'winds'
      ? Promise.reject(new Error('The sounds of “winds” could not be loaded (404).'))
      : Promise.resolve(new ArrayBuffer(8)),
  ),
  forget: () => undefined,
};
let engine: SoundEngine;

beforeEach(() => {
  jest.useFakeTimers();
  Object.assign(system, { resumes: true, ready: true, takesBanks: true, contexts: [], sent: [] });
  Object.assign(globalThis, { AudioContext: TestContext, AudioWorkletNode: TestNode });
  TestBed.configureTestingModule({ providers: [{ provide: Banks, useValue: banks }] });
  engine = TestBed.inject(SoundEngine);
});
afterEach(() => {
  jest.useRealTimers();
});

/** Banks are there within this, with the moment in which the sound is timed anew. */
const LOADING_MS = 200;

const start = async (within = 6000): Promise<boolean> => {
  const started = engine.start();
  await jest.advanceTimersByTimeAsync(within);
  return started;
};

describe('the sound engine', () => {
  it('starts once, and is there at once the next time', async () => {
    expect(await start()).toBe(true);
    expect(await start()).toBe(true);
    expect(engine.state()).toEqual({ kind: 'ready' });
    expect(system.contexts).toHaveLength(1);
  });

  it.each([
    ['the browser does not let it', 6, 'resumes'],
    ['the synthesizer is silent', 16, 'ready'],
  ] as const)('says when %s, within %i seconds', async (_why, seconds, what) => {
    system[what] = false;
    expect(await start(seconds * 1000)).toBe(false);
    expect(engine.state()).toMatchObject({
      kind: 'failed',
      reason: expect.stringMatching(/could not start: .*press play again/) as string,
    });
    system[what] = true;
    expect(await start()).toBe(true);
  });

  it('wakes at once when the system puts it to sleep', async () => {
    await start();
    system.contexts[0]!.become('suspended');
    await jest.advanceTimersByTimeAsync(0);
    expect(system.contexts[0]!.state).toBe('running');
    expect(engine.state()).toEqual({ kind: 'ready' });
  });

  it('says when it cannot be woken, and starts anew with its sounds on the next play', async () => {
    await start();
    const loading = engine.ensure(['drums']);
    await jest.advanceTimersByTimeAsync(LOADING_MS);
    expect(await loading).toBe(true);
    system.resumes = false;
    system.contexts[0]!.become('interrupted');
    await jest.advanceTimersByTimeAsync(2000);
    expect(engine.state()).toMatchObject({
      kind: 'failed',
      reason: expect.stringContaining('Press play to wake it') as string,
    });
    expect(engine.has(['drums'])).toBe(false);
    system.resumes = true;
    expect(await start()).toBe(true);
    expect(system.contexts).toHaveLength(2);
  });

  it('is made anew after it was closed', async () => {
    await start();
    system.contexts[0]!.become('closed');
    await jest.advanceTimersByTimeAsync(0);
    expect(engine.state().kind).toBe('failed');
    expect(await start()).toBe(true);
    expect(engine.state().kind).toBe('ready');
  });

  it('says which sounds are missing, and is none the worse for it', async () => {
    await start();
    const none = engine.ensure(['winds']);
    await jest.advanceTimersByTimeAsync(LOADING_MS);
    expect(await none).toBe(false);
    expect(engine.missing()).toMatch(/“winds” could not be loaded \(404\).*press play again/);
    const some = engine.ensure(['winds', 'drums']);
    await jest.advanceTimersByTimeAsync(LOADING_MS);
    expect(await some).toBe(true);
    const all = engine.ensure(['drums']);
    await jest.advanceTimersByTimeAsync(LOADING_MS);
    expect(await all).toBe(true);
    expect(engine.missing()).toBeNull();
  });

  it('does not wait for a bank that the synthesizer cannot read', async () => {
    await start();
    system.takesBanks = false;
    const adding = engine.ensure(['drums']);
    await jest.advanceTimersByTimeAsync(LOADING_MS);
    expect(await adding).toBe(false);
    expect(engine.missing()).toMatch(/“drums” could not be used: no bank/);
  });
});
