import * as fc from 'fast-check';
import { EVENT, EVENT_SIZE } from '../../worklets/protocol';
import {
  clickEvents,
  endFrame,
  frameAt,
  nextMoment,
  noteEvents,
  pack,
  tickAt,
  timelineEvents,
  type Pass,
} from './schedule';

const pass: Pass = { frame: 1000, from: 1920, to: 3840, framesPerTick: 50 };
const note = (start: number, end: number, pitch = 60) => ({ part: 'p', start, end, pitch, velocity: 90 });
const channels = new Map([['p', 3]]);

describe('scheduling', () => {
  it('places ticks on frames and finds them again', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1920, max: 3839 }), (tick) => {
        expect(Math.round(tickAt([pass], frameAt(pass, tick))!)).toBe(tick);
      }),
    );
    expect(tickAt([pass], 0)).toBeNull();
    expect(tickAt([pass], 10_000_000)).toBe(3840);
    expect(endFrame(pass)).toBe(97_000);
  });

  it('cuts notes at the end of a loop, lets them ring in a song, and leaves out parts without a channel', () => {
    const [, off] = noteEvents([note(3600, 5000)], pass, channels, true);
    expect(off!.frame).toBe(endFrame(pass));
    expect(noteEvents([note(3600, 5000)], pass, channels, false)[1]!.frame).toBe(frameAt(pass, 5000));
    expect(noteEvents([note(3600, 5000)], pass, new Map(), false)).toEqual([]);
  });

  it('strikes again at its beginning what already sounds there', () => {
    const events = timelineEvents({ notes: [], chase: [note(0, 2400)] }, pass, channels, false);
    expect(events.map(({ frame, kind }) => [frame, kind])).toEqual([
      [1000, EVENT.noteOn],
      [25_000, EVENT.noteOff],
    ]);
  });

  it('packs in order, releases and ends before beginnings, every note with its end', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.integer({ min: 1920, max: 3800 }),
            fc.integer({ min: 1, max: 900 }),
            fc.integer({ min: 58, max: 62 }),
          ),
          { maxLength: 30 },
        ),
        (raw) => {
          const notes = raw
            .map(([start, length, pitch]) => note(start, start + length, pitch))
            .sort((a, b) => a.start - b.start);
          const flat = pack([
            ...noteEvents(notes, pass, channels, true),
            { frame: 1000, kind: EVENT.release, channel: 3, a: 0, b: 0 },
          ]);
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
    expect(
      clickEvents(
        [
          { at: 1920, strong: true },
          { at: 2400, strong: false },
        ],
        pass,
        15,
      )
        .filter(({ kind }) => kind === EVENT.noteOn)
        .map(({ frame, a }) => [frame, a]),
    ).toEqual([
      [1000, 76],
      [25_000, 77],
    ]);
  });
});
