import { TestBed } from '@angular/core/testing';
import { writeMessage } from '@fendro/core/live/midi-message';
import { HARMONY } from '@fendro/core/song/schema';
import { EVENT } from '../../../worklets/protocol';
import { Mixer } from '../../sound/mixer';
import { pack, type Queued } from '../../sound/schedule';
import { ScoreActions } from '../../store/song.actions';
import { studio } from '../../testing/studio';
import { SMALL } from '../../testing/view';
import { PartSender } from './part-sender';
import { Routes } from './routes';

const [melody, second] = SMALL.score.parts;

beforeEach(() => {
  jest.useFakeTimers();
});
afterEach(() => {
  jest.useRealTimers();
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
