import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { NOTHING_CAME, placeHeard, studioHeard, type StudioHeard } from '@fendro/core/live/studio';
import { readMessage, writeMessage, type MidiMessage } from '@fendro/core/live/midi-message';
import { HARMONY } from '@fendro/core/song/schema';
import { tempoMap } from '@fendro/core/sounding/tempo-map';
import { musicOf, storedSong } from '@fendro/core/testing/sounding';
import { EVENT, type ToProcessor } from '../../../worklets/protocol';
import type { MidiIn, MidiOut } from '../../devices/ports';
import { SimulatedIn } from '../../devices/simulated/simulated-in';
import { StudioLink } from '../../devices/simulated/studio-link';
import { SoundEngine } from '../../sound/engine';
import { LiveSound } from '../../sound/live-sound';
import { Mixer } from '../../sound/mixer';
import type { Pace } from '../../sound/pace';
import { Playback } from '../../sound/playback';
import { pack, type Pass, type Queued } from '../../sound/schedule';
import { Notices } from '../../store/notices';
import { provideSong } from '../../store/provide-song';
import { ScoreActions, SongActions } from '../../store/song.actions';
import { quietHands, silentPlayback, SMALL } from '../../testing/view';
import { ClockFollower } from './clock-follower';
import { ClockSender } from './clock-sender';
import { DeviceDesk } from './device-desk';
import { DeviceUses } from './device-uses';
import { PartSender } from './part-sender';
import { Routes } from './routes';

const mockValues = new Map<string, unknown>();
jest.mock('localforage', () => ({
  __esModule: true,
  default: {
    INDEXEDDB: 'indexeddb',
    createInstance: () => ({
      getItem: (key: string) => Promise.resolve(mockValues.get(key) ?? null),
      setItem: (key: string, value: unknown) => Promise.resolve(mockValues.set(key, value)),
      removeItem: (key: string) => Promise.resolve(mockValues.delete(key)),
      keys: () => Promise.resolve([...mockValues.keys()]),
    }),
  },
}));

const RATE = 48_000;
const [melody, second] = SMALL.score.parts;

/** Sound that is rendered in time and heard 20 ms later. */
class TimedEngine {
  readonly state = signal({ kind: 'ready' });
  readonly sampleRate = RATE;
  private readonly taps = new Set<(message: ToProcessor) => void>();
  get frame(): number {
    return Math.floor((performance.now() / 1000) * RATE);
  }
  heardAt = (frame: number): number => (1000 * frame) / RATE + 20;
  tap = (hear: (message: ToProcessor) => void): (() => void) => {
    this.taps.add(hear);
    return () => this.taps.delete(hear);
  };
  strips = (): void => undefined;
  drums = (): void => undefined;
  master = (): void => undefined;
  program = (): void => undefined;
  controller = (): void => undefined;
  readonly gains = new Map<number, number>();
  gain = (strip: number, gain: number): void => void this.gains.set(strip, gain);
  send(message: ToProcessor): void {
    for (const hear of this.taps) hear(message);
  }
}

function studio() {
  mockValues.clear();
  const engine = new TimedEngine();
  const input = new SimulatedIn('studio', 'Grey studio');
  const came: { message: MidiMessage; at: number }[] = [];
  const output: MidiOut = {
    id: 'studio',
    name: 'Grey studio',
    simulated: true,
    send: (bytes, at = performance.now()) => came.push({ message: readMessage(bytes)!, at }),
  };
  const there = signal(true);
  const link = {
    inputs: (): readonly MidiIn[] => (there() ? [input] : []),
    outputs: (): readonly MidiOut[] => (there() ? [output] : []),
  };
  const playing = signal(false);
  const beginnings = signal(0);
  const playback = {
    ...silentPlayback(),
    playing,
    beginnings,
    queued: [] as Pass[],
    playWith: jest.fn((_pace: Pace) => Promise.resolve(true)),
  };
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({
    providers: [
      provideSong(),
      { provide: SoundEngine, useValue: engine },
      { provide: Playback, useValue: playback },
      { provide: LiveSound, useValue: quietHands() },
      { provide: StudioLink, useValue: link },
    ],
  });
  const store = TestBed.inject(Store);
  store.dispatch(SongActions.opened({ song: storedSong(musicOf(SMALL.score, SMALL.takes)) }));
  TestBed.inject(DeviceDesk);
  TestBed.tick();
  const uses = TestBed.inject(DeviceUses);
  /** What a studio with a tempo of its own has heard of all that came. */
  const heard = (tempo: number): StudioHeard =>
    [...came]
      .sort((a, b) => a.at - b.at)
      .reduce((now, { message, at }) => studioHeard(now, message, at, tempo), NOTHING_CAME);
  /** Plays a loop of two bars round and round. */
  const play = (tempo: number, from = 0): void => {
    const map = tempoMap([{ start: 0, end: 1, tempo }]);
    const length = (3840 * 60 * RATE) / (tempo * 480);
    const first = engine.frame + 0.04 * RATE;
    playback.queued = Array.from({ length: 200 }, (_, round) => ({
      frame: Math.round(first + round * length),
      from: round === 0 ? from : 0,
      to: 3840,
      tempo: map,
      rate: RATE,
      round,
    }));
    beginnings.update((count) => count + 1);
    playing.set(true);
    TestBed.tick();
  };
  const stop = (): void => {
    playing.set(false);
    TestBed.tick();
  };
  return { engine, input, came, uses, heard, play, stop, playback, there, store, playing };
}

beforeEach(() => {
  jest.useFakeTimers();
});
afterEach(() => {
  jest.useRealTimers();
});

describe('the clock that goes out', () => {
  it('stays within 1 ms of a studio for five minutes, 24 pulses a quarter', () => {
    const { uses, heard, play, stop, came } = studio();
    TestBed.inject(ClockSender);
    uses.change('Grey studio', { clocked: true });
    play(117);
    jest.advanceTimersByTime(300_000);
    stop();
    const { furthest, clock } = heard(117);
    expect(furthest).toBeLessThan(1);
    expect(clock.running).toBe(false);
    const pulses = came.filter(({ message }) => message.says === 'clock').length;
    expect(Math.abs(pulses - 5 * 117 * 24)).toBeLessThan(10);
    expect(came.slice(0, 2).map(({ message }) => message.says)).toEqual(['position', 'start']);
    // Nothing is sent long before it is meant.
    expect(Math.max(...came.map(({ at }) => at - performance.now()))).toBeLessThan(200);
  });

  it('tells where music begins that begins elsewhere, at the next sixteenth, and goes to nobody who did not ask', () => {
    const { uses, heard, play, came, there } = studio();
    TestBed.inject(ClockSender);
    play(120, 1930);
    jest.advanceTimersByTime(100);
    expect(came).toEqual([]);
    uses.change('Grey studio', { clocked: true });
    TestBed.tick();
    play(120, 1930);
    jest.advanceTimersByTime(1000);
    expect(came[0]!.message).toEqual({ says: 'position', sixteenths: 17 });
    expect(came[1]!.message).toEqual({ says: 'continue' });
    expect(placeHeard(heard(120)).bar).toBe(2);
    there.set(false);
    TestBed.tick();
    const count = came.length;
    jest.advanceTimersByTime(1000);
    expect(came.slice(count).map(({ message }) => message.says)).toEqual([]);
  });
});

describe('the clock that comes in', () => {
  const lead = (input: SimulatedIn, tempo: number, count: number): void => {
    for (let pulse = 0; pulse < count; pulse++) {
      input.say({ says: 'clock' });
      jest.advanceTimersByTime(60_000 / (tempo * 24));
    }
  };

  it('begins the music where it is, leads its tempo, and stops it', async () => {
    const { input, uses, playback } = studio();
    uses.change('Grey studio', { leads: true });
    input.say({ says: 'position', sixteenths: 64 });
    input.say({ says: 'continue' });
    lead(input, 125, 48);
    await Promise.resolve();
    expect(playback.playWith).toHaveBeenCalledTimes(1);
    const [pace] = playback.playWith.mock.lastCall!;
    expect(pace.tempo()).toBeCloseTo(125, 3);
    const now = performance.now();
    expect(pace.tickAt(now)).toBeCloseTo(64 * 120 + 960, 0);
    expect(pace.tempoFor(64 * 120 + 960, 1920, now)).toBeCloseTo(125, 1);
    expect(TestBed.inject(ClockFollower).led()).toEqual({ device: 'Grey studio', tempo: 125 });
    expect(TestBed.inject(Notices).open()[0]!.text).toMatch(/^Grey studio leads/);
    input.say({ says: 'stop' });
    expect(playback.stop).toHaveBeenCalledTimes(1);
    expect(TestBed.inject(ClockFollower).led()).toBeNull();
  });

  it('leads nothing any more when it is pulled out; the music goes on', () => {
    const { input, uses, playback, there } = studio();
    uses.change('Grey studio', { leads: true });
    input.say({ says: 'start' });
    lead(input, 125, 48);
    expect(TestBed.inject(ClockFollower).led()).not.toBeNull();
    there.set(false);
    TestBed.tick();
    expect(TestBed.inject(ClockFollower).led()).toBeNull();
    expect(playback.stop).not.toHaveBeenCalled();
  });

  it('joins it anew where it jumps, follows one device only, and none that was not asked to lead', () => {
    const { input, uses, playback } = studio();
    input.say({ says: 'start' });
    lead(input, 125, 48);
    expect(playback.playWith).not.toHaveBeenCalled();
    uses.change('Other box', { leads: true });
    uses.change('Grey studio', { leads: true });
    expect(uses.of('Other box').leads).toBe(false);
    input.say({ says: 'start' });
    lead(input, 125, 48);
    input.say({ says: 'position', sixteenths: 0 });
    lead(input, 125, 4);
    expect(playback.playWith).toHaveBeenCalledTimes(2);
  });
});

describe('parts that go out', () => {
  const note = (frame: number, channel: number, pitch: number): readonly Queued[] => [
    { frame, kind: EVENT.noteOn, channel, a: pitch, b: 80 },
    { frame: frame + 4800, kind: EVENT.noteOff, channel, a: pitch, b: 0 },
  ];

  it('are sent as they sound, on their channel, each note at its moment, and sound here no more', () => {
    const { engine, came } = studio();
    TestBed.inject(PartSender);
    const routes = TestBed.inject(Routes);
    const strip = TestBed.inject(Mixer).strips().get(melody!.id)!;
    const other = TestBed.inject(Mixer).strips().get(second!.id)!;
    routes.set({ line: melody!.id, port: 'Grey studio', channel: 4, here: false });
    TestBed.tick();
    TestBed.tick();
    expect([engine.gains.get(strip), engine.gains.get(other)]).toEqual([0, 1]);
    expect(came.map(({ message }) => message.says)).toContain('program');
    came.length = 0;
    const from = engine.frame;
    const events = pack([
      ...note(from + 9600, strip, 60),
      ...note(from + 9600, other, 40),
      ...note(from + 48_000, strip, 62),
    ]);
    engine.send({ kind: 'block', events });
    jest.advanceTimersByTime(400);
    expect(came).toEqual([
      { message: { says: 'note on', channel: 4, pitch: 60, velocity: 80 }, at: engine.heardAt(from + 9600) },
      { message: { says: 'note off', channel: 4, pitch: 60 }, at: engine.heardAt(from + 14_400) },
    ]);
    // Another take comes in: what was to sound from there on is sent no more.
    engine.send({ kind: 'switch', channel: strip, frame: from + 40_000, events: pack(note(from + 48_000, strip, 65)) });
    jest.advanceTimersByTime(560);
    expect(came.slice(2).map(({ message }) => message)).toMatchObject([{ says: 'note on', pitch: 65 }]);
    engine.send({ kind: 'stop' });
    expect(came.at(-1)!.message).toMatchObject({ says: 'note off', pitch: 65 });
  });

  it('end what was sent ahead after it has begun, whatever is stopped or switched meanwhile', () => {
    const { engine, came } = studio();
    TestBed.inject(PartSender);
    const strip = TestBed.inject(Mixer).strips().get(melody!.id)!;
    TestBed.inject(Routes).set({ line: melody!.id, port: 'Grey studio', channel: 0, here: true });
    TestBed.tick();
    const ended = (act: (soon: number) => void): void => {
      came.length = 0;
      const soon = engine.frame + 4000;
      engine.send({ kind: 'block', events: pack(note(soon, strip, 60)) });
      jest.advanceTimersByTime(30);
      expect(came).toMatchObject([{ message: { says: 'note on', pitch: 60 } }]);
      act(soon);
      jest.advanceTimersByTime(300);
      const [on, off] = came;
      expect(off!.message).toMatchObject({ says: 'note off', pitch: 60 });
      expect(off!.at).toBeGreaterThan(on!.at);
      expect(came).toHaveLength(2);
    };
    ended(() => {
      engine.send({ kind: 'stop' });
    });
    // Another take comes in before the note that is on its way.
    ended((soon) => {
      const release = { frame: soon - 1000, kind: EVENT.release, channel: strip, a: 0, b: 0 };
      engine.send({ kind: 'switch', channel: strip, frame: soon - 1000, events: pack([release]) });
    });
    ended(() => {
      globalThis.dispatchEvent(new Event('pagehide'));
    });
  });

  it('leave no note sounding where they are made quiet, go elsewhere, or the device goes', () => {
    const { engine, came, store, there } = studio();
    TestBed.inject(PartSender);
    const routes = TestBed.inject(Routes);
    const strip = TestBed.inject(Mixer).strips().get(melody!.id)!;
    const sounding = new Set<number>();
    const strike = (pitch: number): void => {
      const on = { frame: 0, kind: EVENT.noteOn, channel: strip, a: pitch, b: 70 };
      engine.send({ kind: 'now', events: pack([on]) });
    };
    const still = (): ReadonlySet<number> => {
      TestBed.tick();
      for (const { message } of came.splice(0)) {
        if (message.says === 'note on') sounding.add(message.pitch);
        if (message.says === 'note off') sounding.delete(message.pitch);
      }
      return sounding;
    };
    const route = { line: melody!.id, port: 'Grey studio', channel: 2, here: true };
    routes.set(route);
    TestBed.tick();
    strike(60);
    expect(still().size).toBe(1);
    const muted = (on: boolean): void => {
      store.dispatch(ScoreActions.partChanged({ part: melody!.id, change: { muted: on } }));
    };
    muted(true);
    expect(still().size).toBe(0);
    strike(61);
    expect(still().size).toBe(0);
    muted(false);
    TestBed.tick();
    strike(62);
    expect(still().size).toBe(1);
    routes.set({ ...route, channel: 3 });
    expect(still().size).toBe(0);
    strike(63);
    expect(still().size).toBe(1);
    there.set(false);
    expect(still().size).toBe(0);
    there.set(true);
    routes.set({ ...route, line: HARMONY });
    routes.take(melody!.id);
    TestBed.tick();
    came.length = 0;
    strike(64);
    expect(came).toEqual([]);
  });

  it('say bends, controllers and programs as the sound has them', () => {
    const { engine, came } = studio();
    TestBed.inject(PartSender);
    const strip = TestBed.inject(Mixer).strips().get(melody!.id)!;
    TestBed.inject(Routes).set({ line: melody!.id, port: 'Grey studio', channel: 0, here: true });
    TestBed.tick();
    came.length = 0;
    const at = { frame: 0, channel: strip };
    const all = [
      { ...at, kind: EVENT.bend, a: 8192 + 100, b: 0 },
      { ...at, kind: EVENT.controller, a: 11, b: 90 },
      { ...at, kind: EVENT.program, a: 40, b: 0 },
    ];
    engine.send({ kind: 'now', events: pack(all) });
    expect(came.map(({ message }) => writeMessage(message))).toEqual(
      [
        { says: 'bend', channel: 0, value: 100 } as const,
        { says: 'control', channel: 0, controller: 11, value: 90 } as const,
        { says: 'program', channel: 0, program: 40 } as const,
      ].map(writeMessage),
    );
  });
});
