import fc from 'fast-check';
import { Shelf } from './shelf';

const RATE = 48_000;
const tone = (hertz: number) =>
  Float32Array.from({ length: 4800 }, (_, at) => Math.sin((2 * Math.PI * hertz * at) / RATE));

/** By how many dB a tone comes out louder. */
function gain(hertz: number, amount: number): number {
  const shelf = new Shelf(RATE);
  shelf.set(amount);
  const [left, right] = [tone(hertz), tone(hertz)];
  shelf.process(left, right);
  const power = (samples: Float32Array) => samples.reduce((total, sample) => total + sample * sample, 0);
  expect(right).toEqual(left);
  return 10 * Math.log10(power(left) / power(tone(hertz)));
}

describe('the treble shelf', () => {
  it('opens what is high, by more the more is asked, and leaves what is low', () => {
    expect(gain(100, 1)).toBeLessThan(0.1);
    expect(gain(12_000, 1)).toBeGreaterThan(7);
    expect(gain(12_000, 1)).toBeLessThan(9);
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true }), (a, b) => {
        expect(gain(6000, Math.max(a, b))).toBeGreaterThanOrEqual(gain(6000, Math.min(a, b)) - 1e-6);
      }),
      { numRuns: 20 },
    );
  });

  it('does nothing where nothing is asked', () => {
    const shelf = new Shelf(RATE);
    shelf.set(-1);
    expect([shelf.works, gain(6000, 0)]).toEqual([false, 0]);
  });
});
