import fc from 'fast-check';
import { begunLater, CURVE_KINDS, curveOf, CURVES, thinned, valueAt } from './curve';
import { MOST_POINTS, noteSchema } from './music-schema';

const points = fc
  .uniqueArray(fc.record({ at: fc.nat(4000), value: fc.integer({ min: 0, max: 100 }) }), {
    selector: ({ at }) => at,
    minLength: 1,
    maxLength: 300,
  })
  .map((list) => list.sort((a, b) => a.at - b.at));

describe('curves', () => {
  it('are straight between their points and level beside them', () => {
    const curve = [
      { at: 100, value: 0 },
      { at: 200, value: 50 },
    ];
    expect([0, 100, 150, 200, 900].map((at) => valueAt(curve, at))).toEqual([0, 0, 25, 50, 50]);
  });

  it('thinned, stay within the tolerance at every point that went, and keep both ends', () => {
    fc.assert(
      fc.property(points, fc.integer({ min: 0, max: 40 }), (list, tolerance) => {
        const few = thinned(list, tolerance);
        for (const { at, value } of list)
          expect(Math.abs(valueAt(few, at) - value)).toBeLessThanOrEqual(tolerance + 1e-9);
        expect(few[0]).toEqual(list[0]);
        expect(few.at(-1)).toEqual(list.at(-1));
      }),
    );
  });

  it('fit a note, whatever they are made of', () => {
    fc.assert(
      fc.property(points, fc.constantFrom(...CURVE_KINDS), fc.integer({ min: -50, max: 50 }), (list, kind, times) => {
        const curve = curveOf(
          kind,
          list.map(({ at, value }) => ({ at: at - 100, value: value * times })),
        )!;
        expect(curve.length).toBeLessThanOrEqual(MOST_POINTS);
        const note = { start: 0, duration: 480, pitch: 60, velocity: 80, [kind]: curve };
        expect(noteSchema.safeParse(note).success).toBe(true);
        for (const { value } of curve) expect(value >= CURVES[kind].low && value <= CURVES[kind].high).toBe(true);
      }),
    );
    expect(curveOf('bend', [])).toBeNull();
  });

  it('go on where they were in a note that begins later', () => {
    fc.assert(
      fc.property(points, fc.integer({ min: 1, max: 3000 }), (list, by) => {
        const few = list.slice(0, MOST_POINTS);
        const note = { start: 0, duration: 5000, pitch: 60, velocity: 80, swell: few };
        const later = begunLater(note, by);
        expect([later.start, later.duration]).toEqual([by, 5000 - by]);
        for (const at of [0, 400, 1999])
          expect(Math.abs(valueAt(later.swell, at) - valueAt(few, at + by))).toBeLessThanOrEqual(0.51);
      }),
    );
  });
});
