import * as fc from 'fast-check';
import type { PerformanceEvent } from '@fendro/core/sounding/performance';
import { instrumentOf } from '@fendro/core/sounding/instruments';
import { tempoMap } from '@fendro/core/sounding/tempo-map';
import { EVENT, EVENT_SIZE } from '../../worklets/protocol';
import { clickEvents, endFrame, frameAt, nextMoment, pack, performedEvents, momentAt, type Pass } from './schedule';

/** A second is 960 ticks at first, then 480. */
const tempo = tempoMap([
  { start: 1920, end: 2880, tempo: 120 },
  { start: 2880, end: 9600, tempo: 60 },
]);
const pass: Pass = { frame: 1000, from: 1920, to: 3840, tempo, rate: 48_000, round: 0 };
const note = (at: number, end: number, pitch = 60): PerformanceEvent => ({
  kind: 'note',
  voice: 'p',
  at,
  end,
  pitch,
  velocity: 90,
});
const strips = new Map([['p', 3]]);
const performed = (events: PerformanceEvent[], chase: PerformanceEvent[] = []) =>
  performedEvents({ events, chase }, pass, strips, true);

describe('scheduling', () => {
  it('places ticks on frames and finds them again, through a change of tempo', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1920, max: 3839 }), (tick) => {
        expect(Math.round(momentAt([pass], frameAt(pass, tick))!.tick)).toBe(tick);
      }),
    );
    expect(frameAt(pass, 2880)).toBe(49_000);
    expect(endFrame(pass)).toBe(49_000 + 96_000);
    expect(momentAt([pass], 0)).toBeNull();
    expect(momentAt([pass], 10_000_000)?.tick).toBe(3840);
  });

  it('lets notes ring past their pass, and leaves out lines without a strip', () => {
    const [, off] = performed([note(3600, 5000)]);
    expect(off!.frame).toBe(frameAt(pass, 5000) - 1);
    expect(performedEvents({ events: [note(3600, 5000)], chase: [] }, pass, new Map(), true)).toEqual([]);
  });

  it('strikes again at its beginning what already sounds there, and nothing of it where it goes on', () => {
    const events = performed([], [note(0, 2400)]);
    expect(events.map(({ frame, kind }) => [frame, kind])).toEqual([
      [1000, EVENT.noteOn],
      [24_999, EVENT.noteOff],
    ]);
    expect(performedEvents({ events: [], chase: [note(0, 2400)] }, pass, strips, false)).toEqual([]);
  });

  it('changes programs on their frame', () => {
    const program = { kind: 'program', voice: 'p', at: 2880, instrument: instrumentOf('steel-guitar') } as const;
    expect(performed([program])).toEqual([{ frame: 49_000, kind: EVENT.program, channel: 3, a: 25, b: 0 }]);
  });

  it('bends by the full range of the synthesizer, and sets vibrato and swell as their controllers', () => {
    const control = (at: number, kind: 'bend' | 'vibrato' | 'swell', value: number) =>
      ({ kind: 'control', voice: 'p', at, control: kind, value }) as const;
    expect(performed([control(2880, 'bend', 2400), control(2880, 'vibrato', 100), control(2880, 'swell', 50)])).toEqual(
      [
        { frame: 49_000, kind: EVENT.bend, channel: 3, a: 16_383, b: 0 },
        { frame: 49_000, kind: EVENT.controller, channel: 3, a: 1, b: 127 },
        { frame: 49_000, kind: EVENT.controller, channel: 3, a: 11, b: 64 },
      ],
    );
    // How far a voice is bent holds from the beginning of every pass.
    const chase = [control(1920, 'bend', 0), note(0, 2400)];
    expect(performedEvents({ events: [], chase }, pass, strips, false)).toEqual([
      { frame: 1000, kind: EVENT.bend, channel: 3, a: 8192, b: 0 },
    ]);
  });

  it('packs in order, releases and ends before beginnings, every note with its end', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 192, max: 379 }), fc.integer({ min: 1, max: 90 })), { maxLength: 30 }),
        (raw) => {
          const starts = [...new Map(raw).entries()].sort(([a], [b]) => a - b);
          const notes = starts.map(([at, length], index) =>
            note(at * 10, Math.min((at + length) * 10, (starts[index + 1]?.[0] ?? 9999) * 10)),
          );
          const release = { frame: 1000, kind: EVENT.release, channel: 3, a: 0, b: 0 };
          const flat = pack([...performed(notes), release]);
          const sounding = new Set<number>();
          for (let at = 0; at < flat.length; at += EVENT_SIZE) {
            if (at > 0) expect(flat[at]!).toBeGreaterThanOrEqual(flat[at - EVENT_SIZE]!);
            if (flat[at + 1] === EVENT.noteOn) {
              expect(sounding.has(flat[at + 3]!)).toBe(false);
              sounding.add(flat[at + 3]!);
            }
            if (flat[at + 1] === EVENT.noteOff) sounding.delete(flat[at + 3]!);
          }
          expect(sounding.size).toBe(0);
        },
      ),
    );
  });

  it('finds the next bar, beat or start that can still be reached', () => {
    const long = { ...pass, to: 9600 };
    expect(nextMoment(long, [0, 1920, 3840, 5760], frameAt(long, 2000))).toBe(3840);
    expect(nextMoment(long, [1920, 2400, 2880], frameAt(long, 2000))).toBe(2400);
    expect(nextMoment(long, [], frameAt(long, 2000))).toBeNull();
    expect(nextMoment(long, [], 0)).toBe(1920);
  });

  it('clicks high on the bar and low on the beats', () => {
    const strokes = clickEvents(
      [
        { at: 1920, strong: true },
        { at: 2400, strong: false },
      ],
      pass,
      0,
    );
    expect(strokes.filter(({ kind }) => kind === EVENT.noteOn).map(({ frame, a }) => [frame, a])).toEqual([
      [1000, 76],
      [25_000, 77],
    ]);
  });
});
