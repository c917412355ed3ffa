import fc from 'fast-check';
import { CEILING, Limiter } from './limiter';

const RATE = 48_000;

/** What leaves when samples come in blocks of some sizes. */
function limited(samples: readonly number[], blocks: readonly number[] = [128]): { out: number[]; limiter: Limiter } {
  const limiter = new Limiter(RATE);
  const out: number[] = [];
  let apart = 0;
  for (let from = 0, turn = 0; from < samples.length; turn++) {
    const size = blocks[turn % blocks.length]!;
    const left = Float32Array.from(samples.slice(from, from + size));
    const right = left.map((sample) => -sample / 2);
    limiter.process(left, right);
    out.push(...left);
    // Both channels go together.
    apart = right.reduce((most, sample, index) => Math.max(most, Math.abs(sample + left[index]! / 2)), apart);
    from += size;
  }
  expect(apart).toBeLessThan(1e-6);
  return { out, limiter };
}

const noise = fc
  .tuple(
    fc.array(fc.double({ min: -4, max: 4, noNaN: true }), { minLength: 50, maxLength: 400 }),
    fc.array(fc.integer({ min: 1, max: 200 }), { minLength: 1, maxLength: 5 }),
  )
  .map(([samples, blocks]) => ({ samples, blocks }));

describe('the limiter', () => {
  it('never lets a sample above the ceiling, however loud and sudden it comes', () => {
    fc.assert(
      fc.property(noise, ({ samples, blocks }) => {
        const { out } = limited([...samples, ...Array.from({ length: 200 }, () => 0)], blocks);
        expect(Math.max(...out.map(Math.abs))).toBeLessThanOrEqual(CEILING);
      }),
    );
  });

  it('gives the same in any blocks', () => {
    fc.assert(
      fc.property(noise, ({ samples, blocks }) => {
        expect(limited(samples, blocks).out).toEqual(limited(samples, [samples.length]).out);
      }),
    );
  });

  it('lets what stays below it through unchanged, a moment later, and says that nothing was turned down', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: -CEILING, max: CEILING, noNaN: true }), { minLength: 200 }), (samples) => {
        const { out, limiter } = limited(samples);
        const later = Float32Array.from(samples.slice(0, samples.length - limiter.delay));
        expect(out.slice(limiter.delay)).toEqual([...later]);
        expect(limiter.takeReduction()).toBe(1);
      }),
    );
  });

  it('says by how much it turned down, once, and comes back within a third of a second', () => {
    const loud = Array.from({ length: 4800 }, (_, index) => 2 * Math.sin((2 * Math.PI * 1000 * index) / RATE));
    const soft = Array.from({ length: 16_000 }, (_, index) => 0.5 * Math.sin((2 * Math.PI * 1000 * index) / RATE));
    const { out, limiter } = limited([...loud, ...soft]);
    expect(20 * Math.log10(limiter.takeReduction())).toBeCloseTo(-7.02, 1);
    expect(limiter.takeReduction()).toBe(1);
    expect(Math.max(...out.slice(-100))).toBeCloseTo(0.5, 2);
    expect(limiter.delay / RATE).toBeLessThan(0.002);
  });
});
