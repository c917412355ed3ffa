import { secondsPerTick, type TempoMap } from '@fendro/core/sounding/tempo-map';
import { ALL_CHANNELS, EVENT } from '../../worklets/protocol';
import { PassQueue, type EventsOf } from './pass-queue';
import { frameAt, type Pass } from './schedule';

const RATE = 48_000;
const second = secondsPerTick(120);
const tempo: TempoMap = { secondsAt: (tick: number) => tick * second, tickAt: (seconds: number) => seconds / second };
const pass = (from: number, to: number): Omit<Pass, 'frame'> => ({ from, to, tempo, rate: RATE, round: 0 });

/** A bar lasts two seconds. */
const BAR = 1920;

interface Sent {
  readonly kind: string;
  readonly frame?: number;
  readonly channel?: number;
  readonly events: Float64Array;
}

function queue() {
  const sent: Sent[] = [];
  const engine = {
    frame: 1000,
    sampleRate: RATE,
    send: (message: unknown) => {
      sent.push(message as Sent);
    },
  };
  const asked: { strip: number | null; chased: boolean; from: number }[] = [];
  // One note at the beginning of every pass, on strip 3.
  const eventsOf: EventsOf = (of, strip, chased) => {
    asked.push({ strip, chased, from: of.from });
    return [{ frame: frameAt(of, of.from), kind: EVENT.noteOn, channel: strip ?? 3, a: 60, b: 80 }];
  };
  return { engine, sent, asked, queue: new PassQueue(engine, eventsOf) };
}

const framesOf = ({ events }: Sent): number[] =>
  Array.from({ length: events.length / 5 }, (_, index) => events[5 * index]!);
const kindsOf = ({ events }: Sent): number[] =>
  Array.from({ length: events.length / 5 }, (_, index) => events[5 * index + 1]!);

describe('the queue of passes', () => {
  it('begins a moment after it is asked to, chasing what sounds already', () => {
    const { queue: passes, sent, asked } = queue();
    passes.begin(pass(0, BAR));
    expect(asked).toEqual([{ strip: null, chased: true, from: 0 }]);
    // It is told that something begins, so that it sounds as it did before.
    expect(kindsOf(sent[0]!)).toEqual([EVENT.anew, EVENT.noteOn]);
    expect(framesOf(sent[0]!)).toEqual([1000 + 0.04 * RATE, 1000 + 0.04 * RATE]);
    expect(passes.momentAt(1000)).toBeNull();
    expect(passes.momentAt(1000 + 0.04 * RATE + RATE)?.tick).toBeCloseTo(BAR / 2);
    expect(passes.over).toBe(1000 + 0.04 * RATE + 2 * RATE);
  });

  it('adds passes on the very frame where the last ends, and nothing that is empty', () => {
    const { queue: passes, sent, asked } = queue();
    passes.add(pass(0, BAR));
    expect(sent).toEqual([]);
    passes.begin(pass(0, BAR));
    passes.add(pass(0, BAR));
    passes.add(pass(BAR, BAR));
    expect(asked.map(({ chased }) => chased)).toEqual([true, false]);
    expect(framesOf(sent[1]!)).toEqual([1000 + 0.04 * RATE + 2 * RATE]);
    expect(sent).toHaveLength(2);
  });

  it('finds the next place that can still be reached, in this pass or a later one', () => {
    const { queue: passes, engine } = queue();
    expect(passes.momentFor([0])).toBeNull();
    passes.begin(pass(0, BAR));
    passes.add(pass(0, BAR));
    expect(passes.momentFor([0, 480, 960])!.tick).toBe(0);
    engine.frame += Math.round(0.04 * RATE);
    expect(passes.momentFor([0, 480, 960])!.tick).toBe(480);
    // A hair before a beat it is too late for that one.
    engine.frame += RATE / 2 - 10;
    expect(passes.momentFor([0, 480, 960])!.tick).toBe(960);
    // After the last place of a pass comes the beginning of the next.
    engine.frame += RATE;
    expect(passes.momentFor([480])).toEqual({ pass: passes.last, tick: 0 });
  });

  it('switches one strip from a moment on, in that pass and in all later ones', () => {
    const { queue: passes, sent, asked, engine } = queue();
    passes.begin(pass(0, BAR));
    passes.add(pass(0, BAR));
    engine.frame += RATE / 2;
    const moment = passes.momentFor([960])!;
    passes.requeue(5, moment);
    const switched = sent.at(-1)!;
    expect(switched).toMatchObject({ kind: 'switch', channel: 5, frame: frameAt(moment.pass, 960) });
    expect(kindsOf(switched)).toEqual([EVENT.release, EVENT.noteOn, EVENT.noteOn]);
    expect(asked.slice(-2)).toEqual([
      { strip: 5, chased: true, from: 960 },
      { strip: 5, chased: false, from: 0 },
    ]);
  });

  it('puts another pass in place of everything from a moment on', () => {
    const { queue: passes, sent, engine } = queue();
    passes.begin(pass(0, BAR));
    passes.add(pass(0, BAR));
    engine.frame += RATE / 2;
    const moment = passes.momentFor([960])!;
    passes.replaceFrom(moment, pass(4 * BAR, 5 * BAR));
    const switched = sent.at(-1)!;
    expect(switched).toMatchObject({ kind: 'switch', channel: ALL_CHANNELS, frame: frameAt(moment.pass, 960) });
    expect(kindsOf(switched)).toEqual([EVENT.release, EVENT.noteOn]);
    const frame = frameAt(moment.pass, 960);
    expect(passes.momentAt(frame - 1)?.tick).toBeLessThan(960);
    expect(passes.momentAt(frame)?.tick).toBe(4 * BAR);
    expect(passes.last!.to).toBe(5 * BAR);
  });

  it('forgets what is long over, and keeps what is behind what is rendered', () => {
    const { queue: passes, engine } = queue();
    passes.begin(pass(0, BAR));
    for (const _ of [1, 2, 3, 4]) passes.add(pass(0, BAR));
    const first = passes.momentFor([0])!.pass.frame;
    engine.frame = first + 9 * RATE;
    passes.prune(engine.frame);
    expect(passes.momentAt(first + RATE)).toBeNull();
    expect(passes.momentAt(first + 5 * RATE)).not.toBeNull();
    passes.clear();
    expect(passes.last).toBeUndefined();
    expect(passes.over).toBe(0);
  });
});
