import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import * as fc from 'fast-check';
import { deliverSong, leadOf } from '@fendro/core/files/outgoing/deliver';
import { readMidi } from '@fendro/core/files/midi/midi-read';
import type { Music } from '@fendro/core/song/resolve';
import type { PartTake } from '@fendro/core/song/schema';
import { editedTake } from '@fendro/core/song/take';
import { songCourse } from '@fendro/core/sounding/course';
import { pickUpOf } from '@fendro/core/sounding/performance';
import { tempoMap } from '@fendro/core/sounding/tempo-map';
import { scoreWith } from '@fendro/core/testing/scores';
import { songOf, twists } from '@fendro/core/testing/songs';
import { firstPattern } from '@fendro/core/patterns/first-pattern';
import { passNotes } from '@fendro/core/patterns/pass';
import { choose } from '@fendro/core/song/edit';
import { patternTake } from '@fendro/core/song/take';
import { mixControllers, musicOf, storedSong } from '@fendro/core/testing/sounding';
import { ALL_CHANNELS, EVENT, EVENT_SIZE, type ToProcessor } from '../../worklets/protocol';
import { selectSession } from '../store/selectors';
import { SessionActions } from '../store/session';
import { ScoreActions, SongActions, TakeActions } from '../store/song.actions';
import { SoundEngine, type EngineState } from './engine';
import { Playback } from './playback';
import { HARMONY } from '@fendro/core/song/schema';
import { voicesOf, type Voice } from '@fendro/core/sounding/setup';
import { Mixer } from './mixer';
import { songSound } from './rendered/song-sound';
import { CLICK_STRIP, stripsOf, type Strips } from './strips';
import { chosenId, withChoice } from '@fendro/core/song/section';
import { provideSong } from '../store/provide-song';

const RATE = 48_000;

/** What would be heard: events as the audio thread keeps them, taken out again where a switch says so. */
class RecordingEngine {
  readonly state = signal<EngineState>({ kind: 'ready' });
  readonly missing = signal<string | null>(null);
  readonly sampleRate = RATE;
  readonly levels = new Float32Array(40);
  frame = 0;
  events: [frame: number, kind: number, strip: number, a: number, b: number][] = [];
  settings = new Map<string, number>();
  get heardFrame(): number {
    return this.frame;
  }
  start = (): Promise<boolean> => Promise.resolve(true);
  ensure = (): Promise<boolean> => Promise.resolve(true);
  strips = (): void => undefined;
  drums = (): void => undefined;
  program = (strip: number, program: number): void => void this.settings.set(`${strip} program`, program);
  forgetControllers = (): void => undefined;
  controller = (strip: number, controller: number, value: number): void =>
    void this.settings.set(`${strip} ${controller}`, value);
  master = (level: number): void => void this.settings.set('master', level);
  grip = (): void => undefined;
  gain = (strip: number, gain: number): void => void this.settings.set(`${strip} gain`, gain);
  giveUp = (): void => undefined;
  stop = (): void => {
    this.events = this.events.filter(([frame]) => frame < this.frame);
  };
  send(message: ToProcessor): void {
    if (message.kind !== 'block' && message.kind !== 'switch') return;
    if (message.kind === 'switch')
      this.events = this.events.filter(
        ([frame, , strip]) => frame < message.frame || (message.channel !== ALL_CHANNELS && message.channel !== strip),
      );
    for (let at = 0; at < message.events.length; at += EVENT_SIZE)
      this.events.push([...message.events.subarray(at, at + EVENT_SIZE)] as RecordingEngine['events'][number]);
  }

  /** Notes of a strip in the order of their starts: seconds from a frame, pitch and velocity. */
  notesOf(strip: number, zero: number): { on: number; off: number; pitch: number; velocity: number }[] {
    const own = this.events
      .filter(([, , other]) => other === strip)
      .sort((a, b) => a[0] - b[0] || (a[1] === EVENT.noteOn ? 1 : 0) - (b[1] === EVENT.noteOn ? 1 : 0));
    const open = new Map<number, { on: number; velocity: number }>();
    const notes: ReturnType<RecordingEngine['notesOf']> = [];
    const end = (pitch: number, frame: number): void => {
      const begun = open.get(pitch);
      open.delete(pitch);
      if (begun) notes.push({ on: begun.on, off: (frame - zero) / RATE, pitch, velocity: begun.velocity });
    };
    for (const [frame, kind, , a, b] of own) {
      if (kind === EVENT.release) for (const pitch of [...open.keys()]) end(pitch, frame);
      if (kind === EVENT.noteOff) end(a, frame);
      if (kind === EVENT.noteOn) {
        expect(open.has(a)).toBe(false);
        open.set(a, { on: (frame - zero) / RATE, velocity: b });
      }
    }
    // No note is stuck.
    expect(open.size).toBe(0);
    return notes.sort((x, y) => x.pitch - y.pitch || x.on - y.on);
  }
}

describe('playback', () => {
  let store: Store;
  let engine: RecordingEngine;
  let playback: Playback;

  beforeEach(() => {
    jest.useFakeTimers();
    engine = new RecordingEngine();
    TestBed.configureTestingModule({ providers: [provideSong(), { provide: SoundEngine, useValue: engine }] });
    store = TestBed.inject(Store) as Store;
    playback = TestBed.inject(Playback);
  });
  afterEach(() => {
    playback.stop();
    jest.useRealTimers();
  });

  const open = (music: Music): void => {
    store.dispatch(SongActions.opened({ song: storedSong(music) }));
    TestBed.tick();
  };
  /** Lets the clock of the sound run, and the transport look at it. */
  const run = (seconds: number): void => {
    for (let step = 0; step < seconds * 2; step++) {
      engine.frame += RATE / 2;
      jest.advanceTimersByTime(500);
      TestBed.tick();
    }
  };
  const settled = async (): Promise<void> => {
    TestBed.tick();
    await Promise.resolve();
    await Promise.resolve();
    await Promise.resolve();
  };
  const LEAD = Math.round(0.04 * RATE);

  /** How far a hand is early by less than a pick-up, in ticks: what it plays begins with the file. */
  const earlyHand = (music: Music): number => {
    const course = songCourse(music.score);
    return leadOf(music, course) > 0 ? 0 : pickUpOf(music, course, ({ muted }) => !muted);
  };

  /** What is written as sound is made of the very events that were heard. */
  function expectRendered(music: Music, audible: readonly Voice[], strips: Strips): void {
    if (earlyHand(music) > 0) return;
    const sound = songSound(music, RATE);
    const heard = audible.map(({ id }) => engine.events.filter(([, , strip]) => strip === strips.get(id)));
    const written = audible.map(({ id }) =>
      sound.events
        .filter(({ channel }) => channel === sound.strips.get(id))
        .map(({ frame, kind, channel, a, b }) => [frame, kind, channel, a, b] as const),
    );
    const inText = (lists: typeof written): string[][] => {
      const begins = Math.min(...lists.flat().map(([frame]) => frame));
      return lists.map((own) => own.map(([frame, kind, , a, b]) => `${frame - begins} ${kind} ${a} ${b}`).sort());
    };
    expect(inText(written)).toEqual(inText(heard));
  }

  it('sounds what is handed over, second by second: the same notes, levels, pans, tones and instruments', async () => {
    await fc.assert(
      fc.asyncProperty(twists, async (twist) => {
        const music = songOf(twist);
        playback.stop();
        engine.events = [];
        engine.frame = 0;
        open(music);
        if (store.selectSignal(selectSession)().looping) store.dispatch(SessionActions.loopToggled());
        TestBed.tick();
        await playback.play(0);
        for (let guard = 0; playback.playing() && guard < 60; guard++) run(5);
        const reading = readMidi(deliverSong(music).bytes);
        if (!reading.ok) throw new Error(reading.reason);
        const { tempos, tracks } = reading.file;
        const { secondsAt } = tempoMap(
          tempos.map(({ at, bpm }, index) => ({ start: at, end: tempos[index + 1]?.at ?? 1e9, tempo: bpm })),
        );
        const strips = TestBed.inject(Mixer).strips();
        const audible = voicesOf(music.score).filter(({ line, muted }) => line !== HARMONY && !muted);
        const heard = audible.map(({ id }) => engine.notesOf(strips.get(id)!, LEAD));
        const written = audible.map((_, index) =>
          tracks[index + 1]!.notes.map(({ start, duration, pitch, velocity }) => ({
            on: secondsAt(start),
            off: secondsAt(start + duration),
            pitch,
            velocity,
          })).sort((x, y) => x.pitch - y.pitch || x.on - y.on),
        );
        // The file begins with a bar for a pick-up, playback with the pick-up itself.
        const first = (lists: typeof heard): number => Math.min(...lists.flat().map(({ on }) => on));
        const early = earlyHand(music);
        const between = heard.flat().length > 0 ? first(written) - first(heard) : 0;
        const shift = early > 0 ? -secondsAt(early) : between;
        audible.forEach((voice, index) => {
          const [found, expected] = [heard[index]!, written[index]!];
          expect(found.map(({ pitch, velocity }) => [pitch, velocity])).toEqual(
            expected.map(({ pitch, velocity }) => [pitch, velocity]),
          );
          found.forEach(({ on, off }, at) => {
            expect(Math.abs(Math.max(0, on + shift) - expected[at]!.on)).toBeLessThan(0.004);
            if (on + shift >= 0) expect(Math.abs(off + shift - expected[at]!.off)).toBeLessThan(0.004);
          });
          const strip = strips.get(voice.id)!;
          const { controllers, program } = tracks[index + 1]!;
          for (const [controller, value] of Object.entries(mixControllers(controllers)))
            expect([controller, engine.settings.get(`${strip} ${controller}`)]).toEqual([controller, value]);
          expect(engine.settings.get(`${strip} program`)).toBe(program);
        });
        expect(engine.settings.get('master')).toBe(music.score.master ?? 100);
        expectRendered(music, audible, strips);
      }),
      { numRuns: 25 },
    );
  });

  it('goes round a loop without a gap, with every note ended, and at a new tempo from the next bar on', async () => {
    const { score, takes } = scoreWith(1, 0);
    const steady = { ...score, ground: { ...score.ground, tempo: 120, feel: 0 } };
    open(musicOf(steady, takes));
    await playback.play();
    run(9);
    const kick = stripsOf(steady).get(steady.parts.find(({ role }) => role === 'drums')!.id)!;
    const downbeats = (): number[] =>
      engine
        .notesOf(kick, LEAD)
        .filter(({ pitch }) => pitch === 36)
        .map(({ on }) => on);
    for (const second of [0, 2, 4, 6, 8]) expect(downbeats().some((on) => Math.abs(on - second) < 0.002)).toBe(true);
    expect(playback.position()).toBeGreaterThanOrEqual(0);
    expect(playback.position()).toBeLessThan(3840);
    store.dispatch(ScoreActions.groundSet({ change: { tempo: 240 } }));
    await settled();
    run(4);
    // The bar from 8 to 10 s sounds as it began; then bars last a second.
    for (const second of [10, 11, 12]) expect(downbeats().some((on) => Math.abs(on - second) < 0.002)).toBe(true);
  });

  it('sounds the pick-up of what is looped before the repeat, and of what begins before it begins', async () => {
    const { score, takes } = scoreWith(1, 0);
    const part = score.parts[0]!;
    const section = score.sections[0]!;
    const take = takes[chosenId(section, part.id)!] as PartTake;
    const led = editedTake('led', take, [{ start: -480, duration: 400, pitch: 99, velocity: 80 }]);
    const song = {
      ...score,
      ground: { ...score.ground, tempo: 120, feel: 0 },
      parts: score.parts.map((own) => ({ ...own, brief: { ...own.brief, humanise: 0 } })),
      sections: score.sections.map((own) => (own === section ? withChoice(own, part.id, 'led') : own)),
    };
    open(musicOf(song, { ...takes, led }));
    await playback.play();
    // While it sounds, the place is the first bar.
    engine.frame += RATE / 10;
    expect(playback.position()).toBe(0);
    run(13);
    const strip = stripsOf(song).get(part.id)!;
    const starts = engine.notesOf(strip, LEAD).map(({ on }) => Math.round(on * 100) / 100);
    expect(starts.filter((on) => on < 13)).toEqual([0, 4, 8, 12]);
  });

  it('counts in before it begins, in the metre and tempo of what begins, and says where it is from then on', async () => {
    const small = scoreWith(1, 0);
    open(musicOf(small.score, small.takes));
    await playback.play(undefined, 2);
    const clicks = engine.events.filter(([, kind, strip]) => kind === EVENT.noteOn && strip === CLICK_STRIP);
    const beat = RATE * (60 / 96);
    expect(clicks.map(([frame]) => frame)).toEqual([0, 1, 2, 3, 4, 5, 6, 7].map((index) => LEAD + index * beat));
    expect(new Set(clicks.map(([, , , pitch]) => pitch)).size).toBe(2);
    const music = engine.events.filter(([, kind, strip]) => kind === EVENT.noteOn && strip !== CLICK_STRIP);
    expect(Math.min(...music.map(([frame]) => frame))).toBeGreaterThanOrEqual(LEAD + 8 * beat);
    expect(playback.placeAt()).toBeNull();
    const later = (frames: number): number => (1000 * (LEAD + frames)) / RATE;
    expect(playback.placeAt(later(8 * beat - 100))).toBeNull();
    const first = playback.placeAt(later(8 * beat + 1));
    expect(first).toMatchObject({ section: 'section-1', occurrence: 'occurrence-1', round: 0 });
    expect(Math.round(first!.at)).toBe(0);
    engine.frame += 8 * beat;
    run(2 * 8 * (60 / 96));
    expect(playback.placeAt(1)?.round).toBeGreaterThan(0);
  });

  it('switches a line to another take on the bar, and leaves the others as they were', async () => {
    const { score, takes } = scoreWith(1, 0);
    const song = { ...score, ground: { ...score.ground, tempo: 120, feel: 0 } };
    open(musicOf(song, takes));
    await playback.play();
    run(1);
    const [part] = song.parts;
    const strip = stripsOf(song).get(part!.id)!;
    const others = (): string => JSON.stringify(engine.events.filter(([, , own]) => own !== strip));
    const before = others();
    store.dispatch(TakeActions.heard({ section: 'section-1', line: part!.id, take: `section-1-${part!.id}-1` }));
    await settled();
    expect(others()).toBe(before);
    const other = takes[`section-1-${part!.id}-1`] as PartTake;
    const heard = engine.notesOf(strip, LEAD).filter(({ on }) => on >= 1.99 && on < 3.99);
    const expected = other.notes.filter(({ start }) => start >= 1920);
    for (const { pitch } of expected) expect(heard.some((note) => note.pitch === pitch)).toBe(true);
  });

  it('plays another pass of what goes on by itself each time round, and tells which; a new tempo goes on with it', async () => {
    const { score, takes } = scoreWith(1, 0);
    const steady = { ...score, ground: { ...score.ground, tempo: 120, feel: 0 } };
    const melody = steady.parts.find(({ role }) => role === 'melody')!;
    const [section] = steady.sections;
    const pattern = { ...firstPattern(melody, 7), redraw: 1 };
    const place = { id: 'going', section: section!.id, length: 3840 };
    const going = patternTake(place, melody, pattern, [], { harmony: null, ground: steady.ground, before: null });
    const music = musicOf(choose(steady, section!.id, melody.id, 'going'), { ...takes, going });
    open(music);
    await playback.play();
    run(9);
    const strip = stripsOf(steady).get(melody.id)!;
    const expected = (pass: number) => passNotes(music, section!, going, pass);
    const sounded = (from: number, to: number) =>
      engine
        .notesOf(strip, LEAD)
        .filter(({ on }) => on >= from - 0.01 && on < to - 0.01)
        .sort((a, b) => a.on - b.on)
        .map(({ pitch }) => pitch);
    for (const pass of [0, 1])
      expect(sounded(4 * pass, 4 * pass + 4)).toEqual(expected(pass).map(({ pitch }) => pitch));
    expect(sounded(4, 8)).not.toEqual(sounded(0, 4));
    expect(store.selectSignal(selectSession)().passes).toEqual({ [section!.id]: 2 });
    store.dispatch(ScoreActions.groundSet({ change: { tempo: 240 } }));
    await settled();
    run(4);
    // Its second bar comes at the new tempo from 10 s on, then the next pass.
    expect(sounded(11, 13)).toEqual(expected(3).map(({ pitch }) => pitch));
    playback.stop();
    await playback.play();
    run(1);
    expect(store.selectSignal(selectSession)().passes).toEqual({ [section!.id]: 0 });
  });

  it('silences a part that is removed at the bar, and leaves the others on their strips with their instruments', async () => {
    const { score, takes } = scoreWith(1, 0);
    const song = { ...score, ground: { ...score.ground, tempo: 120, feel: 0 } };
    open(musicOf(song, takes));
    await playback.play();
    run(1);
    const strips = stripsOf(song);
    const [gone, ...others] = song.parts.map(({ id }) => strips.get(id)!);
    const notesAfter = (strip: number, second: number): number =>
      engine.notesOf(strip, LEAD).filter(({ on }) => on >= second).length;
    expect(notesAfter(gone!, 2)).toBeGreaterThan(0);
    const before = JSON.stringify(engine.events.filter(([, , strip]) => others.includes(strip)));
    const settings = JSON.stringify([...engine.settings]);
    store.dispatch(ScoreActions.partRemoved({ part: song.parts[0]!.id }));
    await settled();
    expect(notesAfter(gone!, 1.99)).toBe(0);
    expect(notesAfter(gone!, 0)).toBeGreaterThan(0);
    expect(JSON.stringify(engine.events.filter(([, , strip]) => others.includes(strip)))).toBe(before);
    expect(JSON.stringify([...engine.settings])).toBe(settings);
    // What comes again later stays where it was too.
    run(4);
    for (const strip of others) if (before.includes(`,${strip},`)) expect(notesAfter(strip, 4)).toBeGreaterThan(0);
    expect(notesAfter(gone!, 2)).toBe(0);
  });

  it('stops with the song, when another is opened, and where sound fails', async () => {
    const { score, takes } = scoreWith(1, 0);
    open(musicOf(score, takes));
    store.dispatch(SessionActions.loopToggled());
    await playback.play();
    for (let guard = 0; playback.playing() && guard < 20; guard++) run(5);
    expect(playback.playing()).toBe(false);
    expect(playback.position()).toBeNull();
    await playback.play();
    expect(playback.playing()).toBe(true);
    store.dispatch(SongActions.opened({ song: storedSong(musicOf(score, takes), 'other') }));
    TestBed.tick();
    expect(playback.playing()).toBe(false);
    await playback.play();
    engine.state.set({ kind: 'failed', reason: 'gone' });
    TestBed.tick();
    expect(playback.playing()).toBe(false);
  });
});
