import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { handled, RESTING, type HandAction } from '@fendro/core/live/hands';
import { partPlayer } from '@fendro/core/live/player';
import { TOUCHES } from '@fendro/core/live/touches';
import { changeChordSetting, changePart } from '@fendro/core/song/edit';
import { instrumentOf } from '@fendro/core/sounding/instruments';
import { scoreWith } from '@fendro/core/testing/scores';
import { musicOf, storedSong } from '@fendro/core/testing/sounding';
import { HARMONY } from '@fendro/core/song/schema';
import { makeChord } from '@fendro/core/theory/chord';
import { pickIndex, stream } from '@fendro/core/trellis/random';
import { EVENT, EVENT_SIZE, type ToProcessor } from '../../worklets/protocol';
import { provideSong } from '../store/provide-song';
import { ScoreActions, SongActions } from '../store/song.actions';
import { SoundEngine } from './engine';
import { LiveSound } from './live-sound';
import { Mixer } from './mixer';

const RATE = 48_000;
const SMALL = scoreWith(1, 0);
const [melody] = SMALL.score.parts;

/** Keeps what the audio thread would play, in the order in which it would. */
class QueueingEngine {
  readonly state = () => ({ kind: 'ready' });
  readonly sampleRate = RATE;
  frame = 0;
  private queue: [frame: number, order: number, kind: number, channel: number, pitch: number][] = [];
  /** Pitches that sound, by channel. */
  readonly open = new Set<string>();
  struck = 0;
  /** Notes that were struck while they sounded. */
  doubled = 0;
  gains = new Map<number, number>();
  start = () => Promise.resolve(true);
  ensure = jest.fn(() => Promise.resolve(true));
  strips = () => undefined;
  drums = () => undefined;
  program = jest.fn();
  controller = jest.fn();
  master = () => undefined;
  gain = (channel: number, gain: number) => this.gains.set(channel, gain);
  send(message: ToProcessor): void {
    if (message.kind === 'now')
      this.read(message.events, (event) => {
        this.apply(event);
      });
    if (message.kind === 'switch') this.queue = this.queue.filter(([, , , channel]) => channel !== message.channel);
    if (message.kind === 'cancel')
      this.queue = this.queue.filter(
        ([, , , channel, pitch]) => channel !== message.channel || pitch !== message.pitch,
      );
    if (message.kind === 'block') this.read(message.events, (event) => this.queue.push(event));
  }
  private read(events: Float64Array, use: (event: (typeof this.queue)[number]) => void): void {
    for (let at = 0; at < events.length; at += EVENT_SIZE) {
      const [frame, kind, channel, pitch] = events.subarray(at, at + 4) as unknown as [number, number, number, number];
      use([frame, this.queue.length, kind, channel, pitch]);
    }
  }
  private apply([, , kind, channel, pitch]: (typeof this.queue)[number]): void {
    const name = `${channel} ${pitch}`;
    if (kind === EVENT.noteOff) this.open.delete(name);
    if (kind === EVENT.release)
      for (const each of this.open) if (each.startsWith(`${channel} `)) this.open.delete(each);
    if (kind !== EVENT.noteOn) return;
    this.struck++;
    if (this.open.has(name)) this.doubled++;
    this.open.add(name);
  }
  run(frames: number): void {
    this.frame += frames;
    const due = this.queue.filter(([frame]) => frame <= this.frame).sort((a, b) => a[0] - b[0] || a[1] - b[1]);
    this.queue = this.queue.filter(([frame]) => frame > this.frame);
    for (const event of due) this.apply(event);
  }
}

describe('what hands play', () => {
  let engine: QueueingEngine;
  let live: LiveSound;
  let mixer: Mixer;
  const parts = () =>
    changePart(SMALL.score, melody!.id, { layers: [{ instrument: 'nylon-guitar', octave: 1, level: 60 }], octave: -1 });
  const part = parts().parts[0]!;

  beforeEach(() => {
    engine = new QueueingEngine();
    TestBed.configureTestingModule({ providers: [provideSong(), { provide: SoundEngine, useValue: engine }] });
    const store = TestBed.inject(Store);
    store.dispatch(SongActions.opened({ song: storedSong(musicOf(parts(), SMALL.takes)) }));
    live = TestBed.inject(LiveSound);
    mixer = TestBed.inject(Mixer);
    TestBed.tick();
  });

  it('sounds at once, on strips of its own, as the part does, doubled as it is', async () => {
    expect(await live.prepare(part.id)).toBe(true);
    live.sound([], [{ pitch: 60, velocity: 90, after: 0, lasts: null }], part);
    const own = [...mixer.liveStrips().values()];
    expect(own).toHaveLength(2);
    for (const strip of mixer.strips().values()) expect(own).not.toContain(strip);
    expect([...engine.open].sort()).toEqual([`${own[0]} 48`, `${own[1]} 60`].sort());
    expect(engine.program).toHaveBeenCalledWith(own[0], instrumentOf(part.instrument).program);
    engine.run(RATE / 10);
    live.sound([60], [], part);
    expect(engine.open.size).toBe(0);
  });

  it('has the sounds of the chord line as its section lays chords out', async () => {
    const store = TestBed.inject(Store);
    const [section] = SMALL.score.sections;
    store.dispatch(
      ScoreActions.revised({
        name: 'voice for guitar',
        score: changeChordSetting(parts(), section!.id, { family: 'guitar' }),
        takes: [],
        released: [],
      }),
    );
    await live.prepare(HARMONY);
    expect(engine.ensure).toHaveBeenLastCalledWith(['guitars']);
  });

  it('is heard while the part itself gives way to it', async () => {
    await live.prepare(part.id);
    mixer.givesWay.set(part.id);
    TestBed.tick();
    expect(engine.gains.get(mixer.strips().get(part.id)!)).toBe(0);
    for (const strip of mixer.liveStrips().values()) expect(engine.gains.get(strip)).toBe(1);
    mixer.givesWay.set(null);
    TestBed.tick();
    expect(engine.gains.get(mixer.strips().get(part.id)!)).toBe(1);
  });

  it('leaves no note hanging and strikes none twice in a storm of 10,000 events', async () => {
    await live.prepare(part.id);
    const random = stream(7, 'storm');
    const pick = <T>(list: readonly T[]): T => list[pickIndex(random, list.length)]!;
    const keys = ['a', 'b', 'c', 'd', 'e', 'f'];
    const chords = [
      makeChord(0, ['1', '3', '5']),
      makeChord(2, ['1', 'b3', '5', 'b7']),
      makeChord(-1, ['1', '3', '5']),
    ];
    const played = {
      player: partPlayer({ ...part, role: 'strum' }, instrumentOf('nylon-guitar')),
      key: SMALL.score.ground,
    };
    let hands = RESTING;
    const act = (action: HandAction): void => {
      const next = handled(hands, action, played);
      live.sound(next.ends, next.strikes, part);
      hands = next.hands;
    };
    for (let event = 0; event < 10_000; event++) {
      const kind = random.next();
      const key = pick(keys);
      if (kind < 0.2) act({ does: 'hold', key, chord: pick(chords), sounds: random.next() < 0.3, velocity: 80 });
      else if (kind < 0.6) act({ does: 'touch', key, touch: pick(TOUCHES), velocity: 80 });
      else if (kind < 0.95) act({ does: 'let go', key });
      else if (kind < 0.98) act({ does: 'invert', inversion: pick([null, 1, 2]) });
      else {
        act({ does: 'rest' });
        if (random.next() < 0.5) live.quiet();
      }
      engine.run(pickIndex(random, RATE / 20));
    }
    for (const key of keys) act({ does: 'let go', key });
    engine.run(RATE);
    expect(engine.struck).toBeGreaterThan(10_000);
    expect(engine.open.size).toBe(0);
    expect(engine.doubled).toBe(0);
  });
});
