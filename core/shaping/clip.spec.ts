import fc from 'fast-check';
import type { ChordSpan } from '../song/schema';
import { chordMask } from '../theory/chord';
import { inMask } from '../theory/pitch';
import { clipOf, pasted } from './clip';
import { EXPRESSION_NAMES, EXPRESSIONS, drawn, expressed, plain } from './curves';
import { everyOne } from './pick';
import type { Notes, Room } from './room';
import { valueAt } from '../song/curve';

const ROOM: Room = { from: -1920, to: 7680, low: 36, high: 84 };
const chord = (start: number, duration: number, root: number, minor = false): ChordSpan => ({
  start,
  duration,
  chord: { root, tones: ['1', minor ? 'b3' : '3', '5'], bass: null },
});
const C = { tonic: 0, scale: 'major' };
const here = { key: C, chords: [chord(0, 1920, 0)] };
const there = { key: C, chords: [chord(0, 1920, 0), chord(1920, 1920, 2, true)] };
const triad: Notes = [60, 64, 67].map((pitch, id) => ({ id, start: id * 480, duration: 480, pitch, velocity: 80 }));

describe('a clip', () => {
  it('comes into another bar as it is, or fitted to its chords', () => {
    const clip = clipOf(triad, everyOne(triad), here, 1920, false)!;
    const plainly = pasted([], clip, 1920, { role: 'melody' }, null, ROOM)!;
    expect(plainly.notes.map(({ start, pitch }) => [start, pitch])).toEqual([
      [1920, 60],
      [2400, 64],
      [2880, 67],
    ]);
    const fitted = pasted([], clip, 1920, { role: 'comping' }, there, ROOM)!;
    const mask = chordMask(there.chords[1]!.chord!);
    expect(fitted.notes.every(({ pitch }) => inMask(mask, pitch))).toBe(true);
    expect(fitted.notes.map(({ start }) => start)).toEqual([1920, 2400, 2880]);
  });

  it('keeps where its notes lie in their bar, goes into what the instrument plays, and leaves what has no room', () => {
    const late: Notes = [{ id: 7, start: 2880, duration: 480, pitch: 100, velocity: 80 }];
    const clip = clipOf(late, everyOne(late), here, 1920, false)!;
    const [note] = pasted([], clip, 3840, { role: 'melody' }, null, ROOM)!.notes;
    expect(note).toMatchObject({ start: 4800, pitch: 76 });
    expect(pasted([], clip, 7680, { role: 'melody' }, null, ROOM)!.notes).toEqual([]);
    expect(pasted([], clip, 0, { role: 'drums' }, null, ROOM)).toBeNull();
    expect(clipOf(late, new Set(), here, 1920, false)).toBeNull();
  });
});

describe('expression by hand', () => {
  it('follows the path that was drawn, and stays as it was beside it', () => {
    const path = fc
      .uniqueArray(fc.record({ at: fc.nat(1400), value: fc.integer({ min: 0, max: 100 }) }), {
        selector: ({ at }) => at,
        minLength: 2,
        maxLength: 12,
      })
      .map((points) => points.sort((a, b) => a.at - b.at));
    fc.assert(
      fc.property(path, (points) => {
        const after = drawn(triad, everyOne(triad), 'swell', points);
        for (const note of after)
          for (let at = 0; at < note.duration; at += 30) {
            const moment = note.start + at;
            const inside = moment >= points[0]!.at && moment <= points.at(-1)!.at;
            const value = note.swell ? valueAt(note.swell, at) : 100;
            const wanted = inside ? valueAt(points, moment) : 100;
            // Between the last drawn point and the next tick a curve may jump.
            const edge = points.some((point) => Math.abs(point.at - moment) <= 1);
            if (!edge) expect(Math.abs(value - wanted)).toBeLessThanOrEqual(1.2);
          }
      }),
    );
  });

  it('gives notes what players do, and takes it off again', () => {
    for (const name of EXPRESSION_NAMES) {
      const after = expressed(triad, new Set([1]), name);
      expect(after[1]![EXPRESSIONS[name].kind]).toBeDefined();
      expect([after[0], after[2]]).toEqual([triad[0], triad[2]]);
      expect(plain(after, new Set([1]), EXPRESSIONS[name].kind)).toEqual(triad);
    }
  });
});
