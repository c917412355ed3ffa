import fc from 'fast-check';
import { tickUnder, timeScale } from './time-scale';

const stretch = fc
  .tuple(fc.integer({ min: 0, max: 100_000 }), fc.integer({ min: 1, max: 100_000 }))
  .map(([from, length]) => ({ from, to: from + length }));

describe('the scale between ticks and places', () => {
  it('puts the edges at the edges, in % unless said otherwise', () => {
    expect(timeScale(1920, 3840)(2400)).toBe(25);
    expect(timeScale(1920, 3840, 640)(3840)).toBe(640);
  });

  it('finds every tick again under the pointer that points at it', () => {
    fc.assert(
      fc.property(
        stretch,
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.integer({ min: 1, max: 4000 }),
        (s, at, w) => {
          const tick = s.from + at * (s.to - s.from);
          const clientX = 17 + timeScale(s.from, s.to, w)(tick);
          expect(tickUnder({ clientX }, { left: 17, width: w }, s.from, s.to)).toBeCloseTo(tick, 4);
        },
      ),
    );
  });

  it('stays inside, wherever the pointer goes', () => {
    fc.assert(
      fc.property(stretch, fc.integer({ min: -5000, max: 5000 }), (s, clientX) => {
        const tick = tickUnder({ clientX }, { left: 100, width: 300 }, s.from, s.to);
        expect(tick).toBeGreaterThanOrEqual(s.from);
        expect(tick).toBeLessThanOrEqual(s.to);
      }),
    );
  });
});
