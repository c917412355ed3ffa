import * as fc from 'fast-check';
import { happens, hashLabels, pickWeighted, stream } from './random';
import { logWeight } from './weights';

describe('streams', () => {
  it('are the same for the same labels and others for others', () => {
    const first = (...labels: (string | number)[]) => {
      const random = stream(5, ...labels);
      return [random.next(), random.next()];
    };
    expect(first('rhythm', 1)).toEqual(first('rhythm', 1));
    expect(first('rhythm', 1)).not.toEqual(first('rhythm', 2));
    expect(first('rhythm', 1)).not.toEqual(first('pitch', 1));
    expect(hashLabels(1, ['a', 'b'])).not.toBe(hashLabels(1, ['ab']));
  });

  it('never happen at 0 %, always at 100 %, and at their rate in between', () => {
    const random = stream(1, 'rate');
    for (let index = 0; index < 2000; index++) {
      expect(happens(random, 0)).toBe(false);
      expect(happens(random, 100)).toBe(true);
    }
    for (const chance of [10, 35, 80]) {
      const draws = 20_000;
      const hits = Array.from({ length: draws }, () => happens(random, chance)).filter(Boolean).length;
      const expected = (draws * chance) / 100;
      const chi = (hits - expected) ** 2 / expected + (hits - expected) ** 2 / (draws - expected);
      expect(chi).toBeLessThan(10.8);
    }
  });

  it('pick by weight and never what weighs nothing', () => {
    const random = stream(2, 'pick');
    const counts = { a: 0, b: 0, c: 0 };
    for (let index = 0; index < 9000; index++)
      counts[
        pickWeighted(random, [
          ['a', 1],
          ['b', 0],
          ['c', 2],
        ] as const)
      ]++;
    expect(counts.b).toBe(0);
    expect(counts.c / counts.a).toBeGreaterThan(1.8);
    expect(() => pickWeighted(random, [])).toThrow(RangeError);
  });

  it('weigh shares like the logarithm', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.001, max: 1, noNaN: true }), (share) => {
        expect(Math.abs(logWeight(share) - 100 * Math.log(share))).toBeLessThanOrEqual(1.01);
      }),
    );
    expect(logWeight(0)).toBe(-1200);
  });
});
