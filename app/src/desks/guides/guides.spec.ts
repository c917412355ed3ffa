import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { tempoMap } from '@fendro/core/sounding/tempo-map';
import { limiterDelay } from '@fendro/core/sounding/limiter';
import type { Wave } from '@fendro/core/live/wave';
import type { Microphone, OpenMicrophone } from '../../devices/microphone';
import { GuideDrawer } from '../../drawers/guide/guide-drawer';
import { SoundEngine } from '../../sound/engine';
import { Playback } from '../../sound/playback';
import type { Pass } from '../../sound/schedule';
import { SongStorage } from '../../storage/song-storage';
import { SoundStorage } from '../../storage/sound-storage';
import { Notices } from '../../store/notices';
import { SessionActions } from '../../store/session';
import { SongActions } from '../../store/song.actions';
import { silentPlayback, SMALL, viewOf } from '../../testing/view';
import { GuideDesk } from './guide-desk';
import { GuideRecorder } from './guide-recorder';
import { GuideSounds } from './guide-sounds';

const RATE = 48_000;
const [place] = SMALL.score.order;
const BAR = 1920;

/** A graph of sound that makes none. */
class SilentNode {
  readonly port: { onmessage: ((event: { data: unknown }) => void) | null } = { onmessage: null };
  connect = <T>(node: T): T => node;
  disconnect = jest.fn();
}
let recorder: SilentNode | null = null;
/** What of recordings was begun: when, and where in them, in seconds. */
const begun: (readonly [when: number, offset: number])[] = [];
const param = () => ({
  value: 1,
  setValueAtTime: jest.fn(),
  linearRampToValueAtTime: jest.fn(),
  cancelScheduledValues: jest.fn(),
});

beforeAll(() => {
  Object.assign(globalThis, {
    AudioWorkletNode: class extends SilentNode {
      constructor() {
        super();
        // eslint-disable-next-line @typescript-eslint/no-this-alias -- what is recorded is put in from here
        recorder = this;
      }
    },
    GainNode: class extends SilentNode {
      readonly gain = param();
    },
    AudioBufferSourceNode: class extends SilentNode {
      start = (when: number, offset: number): void => void begun.push([when, offset]);
      stop = jest.fn();
    },
  });
});

function opened(room: number | null = null) {
  begun.length = 0;
  const stored = new Map<string, Wave>();
  const storage = {
    full: false,
    get: (name: string) => Promise.resolve(stored.get(name) ?? null),
    put: (name: string, wave: Wave) =>
      storage.full
        ? Promise.reject(new Error('the browser’s storage is full'))
        : Promise.resolve(void stored.set(name, wave)),
    room: () => Promise.resolve(room),
    sweep: (stays: (name: string) => boolean) => {
      for (const name of [...stored.keys()]) if (!stays(name)) stored.delete(name);
      return Promise.resolve();
    },
  };
  const engine = {
    state: signal({ kind: 'ready' }),
    sampleRate: RATE,
    frame: 1000,
    delay: 960,
    audio: {
      audioWorklet: { addModule: () => Promise.resolve() },
      createBuffer: () => ({ copyToChannel: jest.fn() }),
      currentTime: 0,
    },
    start: () => Promise.resolve(true),
  };
  const playing = signal(false);
  const playback = {
    ...silentPlayback(),
    playing,
    waiting: () => false,
    queued: [] as Pass[],
    play: jest.fn(() => {
      playing.set(true);
      return Promise.resolve();
    }),
  };
  const view = viewOf(GuideDrawer, {
    providers: [
      { provide: SoundStorage, useValue: storage },
      { provide: SoundEngine, useValue: engine },
      { provide: Playback, useValue: playback },
    ],
    done: [SessionActions.occurrenceViewed({ occurrence: place!.id })],
  });
  const cue = jest.fn();
  const microphone: Microphone = {
    id: 'test',
    name: 'Test microphone',
    simulated: true,
    open: () =>
      Promise.resolve({ node: new SilentNode(), latency: 0.01, cue, close: jest.fn() } as unknown as OpenMicrophone),
  };
  const desk = TestBed.inject(GuideDesk);
  const record = TestBed.inject(GuideRecorder);
  record.microphone.set(microphone);
  const notices = (): string[] =>
    TestBed.inject(Notices)
      .open()
      .map(({ text }) => text);
  const settle = async (): Promise<void> => {
    await new Promise((resolve) => setTimeout(resolve));
    TestBed.tick();
    view.fixture.detectChanges();
  };
  return { view, stored, storage, engine, playback, playing, desk, record, notices, settle, cue };
}

const tempo = tempoMap([{ start: 0, end: 1, tempo: 120 }]);
const SECTION = SMALL.score.sections.find(({ id }) => id === place!.section)!;
const ROUND = (SECTION.bars * BAR * RATE) / 960;

/** Two rounds of the first section, from a frame on. */
const rounds = (frame: number): Pass[] =>
  [0, 1].map((round) => ({ frame: frame + round * ROUND, from: 0, to: SECTION.bars * BAR, tempo, rate: RATE, round }));

/** A click on each beat of what is heard, as it comes in. */
function clicks(from: number, to: number, first: number): { frame: number; samples: Float32Array } {
  const samples = new Float32Array(to - from);
  for (let at = first; at < to; at += RATE / 2) if (at >= from) samples[at - from] = 0.9;
  return { frame: from, samples };
}

describe('guides', () => {
  it('are recorded round by round, each in time; the last whole round is heard', async () => {
    const { view, stored, engine, playback, playing, settle, cue } = opened();
    view.click('button', 'Record');
    await settle();
    expect(playback.play).toHaveBeenCalledWith(undefined, 1);
    playback.queued = rounds(50_000);
    await settle();
    // A simulated singer is given the beats as she hears them.
    engine.frame = 49_000;
    await new Promise((resolve) => setTimeout(resolve, 120));
    expect(cue.mock.calls[0]).toEqual([(50_000 + engine.delay) / RATE]);
    const delay = 960 + 480;
    const end = 50_000 + ROUND + ROUND / 2;
    recorder!.port.onmessage!({ data: clicks(2000, end, 50_000 + delay) });
    engine.frame = end;
    playing.set(false);
    await settle();
    await new Promise((resolve) => setTimeout(resolve, 200));
    await settle();
    const guides = view.score.guides!;
    expect(guides.map(({ place: where, at, muted }) => [where, at, muted])).toEqual([
      [place!.id, 0, true],
      [place!.id, 0, false],
    ]);
    const whole = stored.get(guides[1]!.sound)!;
    expect(whole.samples).toHaveLength(ROUND);
    const struck = [...whole.samples.entries()].filter(([, value]) => value !== 0).map(([at]) => at);
    expect(struck.slice(0, 4)).toEqual([0, RATE / 2, RATE, 1.5 * RATE]);
    expect(view.song.past.at(-1)!.name).toBe('lay a guide under the song');
    expect(view.by.getByRole('img', { name: /^Guide: \d/ })).toBeTruthy();
  });

  it('sound at their place each time that it is played, from the middle where music begins there', async () => {
    const { desk, engine, playback, playing, settle } = opened();
    const wave = { rate: RATE, samples: new Int16Array(4 * RATE) };
    await desk.add([{ wave, name: 'Guide', place: place!.id, at: 960 }]);
    await settle();
    await settle();
    const [first, second] = rounds(2000);
    playback.queued = [first!, { ...second!, from: 1920 }];
    playing.set(true);
    await settle();
    await new Promise((resolve) => setTimeout(resolve, 120));
    const heard = (frame: number): number => (frame + limiterDelay(RATE)) / RATE;
    // What begins later than in a moment may still change.
    expect(begun).toEqual([]);
    engine.frame = 2000 + RATE - 1000;
    await new Promise((resolve) => setTimeout(resolve, 120));
    expect(begun).toEqual([[heard(2000 + RATE), 0]]);
    engine.frame = 2000 + ROUND;
    await new Promise((resolve) => setTimeout(resolve, 120));
    expect(begun[1]).toEqual([heard(2000 + ROUND), 1]);
    expect(begun).toHaveLength(2);
  });

  it('are not begun where there is no room, and little room is told', async () => {
    const none = opened(1000);
    none.view.click('button', 'Record');
    await none.settle();
    expect(none.playback.play).not.toHaveBeenCalled();
    expect(none.notices()[0]).toMatch(/storage is full: nothing was recorded/);
    const little = opened(3.5 * 60 * 2 * RATE);
    little.view.click('button', 'Record');
    await little.settle();
    expect(little.notices()[0]).toMatch(/room for 3 more minutes/);
    expect(little.record.state()).toBe('recording');
  });

  it('tell why a microphone cannot be heard, and change nothing', async () => {
    const { view, record, notices, settle, playback } = opened();
    record.microphone.set({
      id: 'none',
      name: 'Microphone',
      simulated: false,
      open: () => Promise.reject(new Error('there is none: connect one, then try again')),
    });
    view.click('button', 'Record');
    await settle();
    expect(notices()).toEqual(['The microphone cannot be heard: there is none: connect one, then try again.']);
    expect([record.state(), playback.play.mock.calls.length]).toEqual(['ready', 0]);
  });

  it('that cannot be stored are under the song all the same, are told, and can be kept as a file', async () => {
    const { view, desk, storage, notices, settle } = opened();
    storage.full = true;
    const wave = { rate: RATE, samples: new Int16Array(RATE) };
    await desk.add([{ wave, name: 'Guide', place: place!.id, at: 480 }]);
    await settle();
    expect(view.score.guides).toMatchObject([{ name: 'Guide', at: 480, seconds: 1 }]);
    expect(notices()[0]).toMatch(/could not be stored: the browser’s storage is full.*keep it as a file now/);
    expect(TestBed.inject(Notices).open()[0]!.action!.label).toBe('Keep as a file');
    expect(view.by.getByText('on this page only: download it')).toBeTruthy();
  });

  it('are named, moved, made quiet and taken out, each as a step; a song holds only so many', async () => {
    const { view, desk, settle, notices } = opened();
    const wave = { rate: RATE, samples: new Int16Array(RATE) };
    await desk.add([{ wave, name: 'Guide', place: 'gone', at: 0 }]);
    await settle();
    expect(view.by.getByText('its place is gone')).toBeTruthy();
    view.click('button', 'Move Guide here');
    expect(view.score.guides![0]!.place).toBe(place!.id);
    view.click('button', 'Quiet: Guide');
    view.set('textbox', 'Name of Guide', 'Hum');
    view.set('spinbutton', 'How much later Hum sounds', '-120');
    expect(view.score.guides).toMatchObject([{ name: 'Hum', muted: true, offset: -120 }]);
    view.click('button', 'Take Hum out');
    expect(view.score.guides).toBeUndefined();
    view.act(() => view.store.dispatch(SongActions.undone()));
    expect(view.score.guides).toHaveLength(1);
    await desk.add(Array.from({ length: 15 }, () => ({ wave, name: 'Guide', place: place!.id, at: 0 })));
    expect(desk.toldFull()).toBe(true);
    expect(notices().at(-1)).toMatch(/A song holds 16 recordings/);
  });

  it('free what no song names any more, once it has lain for a week, and nothing where that is not sure', async () => {
    const { desk, stored, storage } = opened();
    const wave = { rate: RATE, samples: new Int16Array(RATE) };
    await desk.add([{ wave, name: 'Guide', place: place!.id, at: 0 }]);
    const [here] = [...stored.keys()];
    const [old, young] = [`sound-${Date.now() - 8 * 86_400_000}-of-1`, `sound-${Date.now() - 86_400_000}-of-2`];
    const elsewhere = `sound-1000-of-3`;
    for (const name of [old, young, elsewhere]) stored.set(name, wave);
    const swept = async (named: ReadonlySet<string> | null): Promise<readonly string[]> => {
      const sounds = TestBed.inject(GuideSounds) as unknown as { swept: boolean; sweep: () => Promise<void> };
      sounds.swept = false;
      jest.spyOn(TestBed.inject(SongStorage), 'guideSounds').mockResolvedValue(named);
      await sounds.sweep();
      return [...stored.keys()];
    };
    expect(storage.full).toBe(false);
    expect(await swept(null)).toHaveLength(4);
    expect(await swept(new Set([elsewhere]))).toEqual([here, young, elsewhere]);
  });
});
