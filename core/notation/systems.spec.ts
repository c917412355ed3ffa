import * as fc from 'fast-check';
import { systemsOf, widthsIn } from './systems';

const widths = fc.array(fc.integer({ min: 60, max: 700 }), { minLength: 1, maxLength: 60 });

describe('systems of a sheet', () => {
  it('hold every bar once and in order, up to four, none wider than there is room for unless one bar alone is', () => {
    fc.assert(
      fc.property(widths, fc.array(fc.boolean(), { minLength: 60, maxLength: 60 }), (needed, begins) => {
        const systems = systemsOf(needed, 900, begins);
        expect(systems[0]!.from).toBe(0);
        systems.forEach(({ from, to }, index) => {
          expect(to).toBe(systems[index + 1]?.from ?? needed.length);
          expect(to - from).toBeGreaterThan(0);
          expect(to - from).toBeLessThanOrEqual(4);
          const taken = needed.slice(from, to).reduce((sum, width) => sum + width, 0);
          expect(to - from === 1 || taken <= 900).toBe(true);
        });
      }),
    );
  });

  it('begin with a section where that leaves no bar alone before it', () => {
    const at = (bars: number, ...begins: number[]) =>
      systemsOf(
        Array.from({ length: bars }, () => 200),
        900,
        Array.from({ length: bars }, (_, bar) => begins.includes(bar)),
      ).map(({ from }) => from);
    expect(at(8, 0)).toEqual([0, 4]);
    expect(at(8, 0, 3)).toEqual([0, 3, 7]);
    // After a pick-up, or one bar, a section goes on in the same system.
    expect(at(8, 1)).toEqual([0, 4]);
  });

  it('are filled, but for a last one that is hardly begun', () => {
    fc.assert(
      fc.property(widths, fc.integer({ min: 0, max: 100 }), fc.boolean(), (needed, before, stretches) => {
        const bars = needed.slice(0, 4).map((notes, index) => ({ notes, before: index === 0 ? before : 0 }));
        const found = widthsIn(bars, 900, stretches);
        const sum = found.reduce((total, width) => total + width, 0);
        expect(sum).toBeLessThanOrEqual(900 + 1e-6);
        if (stretches) expect(sum).toBeCloseTo(900, 6);
        // Equal notes get equal room, whatever stands before them.
        found.forEach((width, index) => {
          const { before: own, notes } = bars[index]!;
          expect((width - own) / notes).toBeCloseTo((found[0]! - before) / bars[0]!.notes, 6);
        });
      }),
    );
  });
});
