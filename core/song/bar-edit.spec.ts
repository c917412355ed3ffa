import fc from 'fast-check';
import { loudnessMoved, octavesMoved, rested } from './bar-edit';
import { noteSchema } from './music-schema';

const note = fc.record({
  start: fc.integer({ min: -480, max: 7680 }),
  duration: fc.integer({ min: 1, max: 3000 }),
  pitch: fc.integer({ min: 24, max: 100 }),
  velocity: fc.integer({ min: 1, max: 127 }),
});
const notes = fc.array(note, { maxLength: 30 });
const stretch = fc
  .tuple(fc.integer({ min: 0, max: 3 }), fc.integer({ min: 1, max: 3 }))
  .map(([from, bars]) => ({ from: from * 1920, to: (from + bars) * 1920 }));
const inside = ({ from, to }: { from: number; to: number }, start: number): boolean => start >= from && start < to;
const REACH = { low: 24, high: 108 };

describe('bars that are edited', () => {
  it('rest: nothing starts in them or rings into them, and all else stays note for note', () => {
    fc.assert(
      fc.property(notes, stretch, (all, bars) => {
        const left = rested(all, bars);
        for (const one of left) {
          expect(noteSchema.safeParse(one).success).toBe(true);
          expect(inside(bars, one.start)).toBe(false);
          if (one.start < bars.from) expect(one.start + one.duration).toBeLessThanOrEqual(bars.from);
        }
        expect(left).toHaveLength(all.filter(({ start }) => !inside(bars, start)).length);
        expect(left.filter(({ start }) => start >= bars.to)).toEqual(all.filter(({ start }) => start >= bars.to));
      }),
    );
  });

  it('go up and down by octaves, there and back the same, and never out of the instrument’s reach', () => {
    fc.assert(
      fc.property(notes, stretch, fc.constantFrom(-1, 1), (all, bars, by) => {
        const moved = octavesMoved(all, bars, by, REACH);
        const possible = all.every(
          ({ start, pitch }) => !inside(bars, start) || (pitch + 12 * by >= REACH.low && pitch + 12 * by <= REACH.high),
        );
        expect(moved !== null).toBe(possible);
        if (moved) expect(octavesMoved(moved, bars, -by, { low: 0, high: 127 })).toEqual(all);
      }),
    );
  });

  it('get louder and softer within what there is, alone', () => {
    fc.assert(
      fc.property(notes, stretch, fc.integer({ min: -40, max: 40 }), (all, bars, by) => {
        const moved = loudnessMoved(all, bars, by);
        moved.forEach((one, index) => {
          const before = all[index]!;
          expect(noteSchema.safeParse(one).success).toBe(true);
          expect({ ...one, velocity: 0 }).toEqual({ ...before, velocity: 0 });
          if (!inside(bars, one.start)) expect(one).toBe(before);
          else expect(Math.sign(one.velocity - before.velocity) * Math.sign(by)).toBeGreaterThanOrEqual(0);
        });
      }),
    );
  });
});
