import * as fc from 'fast-check';
import { RUN_STEPS, runWindow, sayStep } from './run-steps';

const BAR = 1920;
const loop = { from: 8 * BAR, to: 14 * BAR };

describe('the steps of a run-through', () => {
  it('hold the tick, lie in the loop and meet without gaps', () => {
    fc.assert(
      fc.property(fc.integer({ min: loop.from, max: loop.to - 1 }), fc.constantFrom(...RUN_STEPS), (tick, step) => {
        const window = runWindow(tick, loop, BAR, step, 1);
        expect(window.from).toBeLessThanOrEqual(tick);
        expect(window.to).toBeGreaterThan(tick);
        expect(window.from).toBeGreaterThanOrEqual(loop.from);
        expect(window.to).toBeLessThanOrEqual(loop.to);
        if (window.to < loop.to) expect(runWindow(window.to, loop, BAR, step, 1).from).toBe(window.to);
      }),
    );
  });

  it('of bars end with the loop at the latest, of loops after as many rounds', () => {
    expect(runWindow(13 * BAR, loop, BAR, { bars: 4 }, 1)).toMatchObject({ from: 12 * BAR, to: loop.to, last: true });
    expect(runWindow(9 * BAR, loop, BAR, { loops: 2 }, 1)).toMatchObject({ ...loop, last: false });
    expect(runWindow(9 * BAR, loop, BAR, { loops: 2 }, 2).last).toBe(true);
    expect(RUN_STEPS.map(sayStep)).toEqual(['bar', '2 bars', '4 bars', '8 bars', 'loop', '2 loops']);
  });
});
