import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { NOTHING_CAME, studioHeard, type StudioHeard } from '@fendro/core/live/studio';
import { readMessage, type MidiMessage } from '@fendro/core/live/midi-message';
import { tempoMap } from '@fendro/core/sounding/tempo-map';
import { musicOf, storedSong } from '@fendro/core/testing/sounding';
import type { ToProcessor } from '../../worklets/protocol';
import { DeviceDesk } from '../desks/devices/device-desk';
import { DeviceUses } from '../desks/devices/device-uses';
import type { MidiIn, MidiOut } from '../devices/ports';
import { SimulatedIn } from '../devices/simulated/simulated-in';
import { StudioLink } from '../devices/simulated/studio-link';
import { SoundEngine } from '../sound/engine';
import { LiveSound } from '../sound/live-sound';
import type { Pace } from '../sound/pace';
import { Playback } from '../sound/playback';
import type { Pass } from '../sound/schedule';
import { provideSong } from '../store/provide-song';
import { SongActions } from '../store/song.actions';
import { openMemory } from './memory-database';
import { quietHands, silentPlayback, SMALL } from './view';

const RATE = 48_000;

/** Sound that is rendered in time and heard 20 ms later. */
class TimedEngine {
  readonly state = signal({ kind: 'ready' });
  readonly sampleRate = RATE;
  private readonly taps = new Set<(message: ToProcessor) => void>();
  get frame(): number {
    return Math.floor((performance.now() / 1000) * RATE);
  }
  timed = true;
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

/** A studio that is connected, what came to it, and music that plays by a timer. */
export function studio() {
  openMemory();
  const engine = new TimedEngine();
  const input = new SimulatedIn('studio', 'Grey studio');
  const came: { message: MidiMessage; at: number }[] = [];
  const output: MidiOut = {
    id: 'studio',
    name: 'Grey studio',
    simulated: true,
    send: (bytes, at = performance.now()) => {
      const message = readMessage(bytes);
      if (message) came.push({ message, at });
    },
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
