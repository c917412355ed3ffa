import * as fc from 'fast-check';
import { stream } from './random';
import { bestPath, FORBIDDEN, holdState, isDeadEnd, linkLayers, pathSampler, type Trellis } from './trellis';

/** Small trellises with some states and links forbidden. */
const trellises = (): fc.Arbitrary<Trellis> =>
  fc
    .array(
      fc.array(
        fc.oneof(
          { weight: 5, arbitrary: fc.integer({ min: -300, max: 100 }) },
          { weight: 1, arbitrary: fc.constant(FORBIDDEN) },
        ),
        { minLength: 1, maxLength: 4 },
      ),
      { minLength: 1, maxLength: 5 },
    )
    .chain((layers) =>
      fc.tuple(fc.constant(layers), fc.array(fc.integer({ min: -400, max: 50 }), { minLength: 80, maxLength: 80 })),
    )
    .map(([layers, weights]) => ({
      layers: layers.map((layer) => Int32Array.from(layer)),
      links: layers.slice(1).map((to, index) =>
        linkLayers(layers[index]!.length, to.length, (a, b) => {
          const weight = weights[(index * 16 + a * 4 + b) % 80]!;
          return weight < -350 ? FORBIDDEN : weight;
        }),
      ),
    }));

/** Every allowed path with its total weight, by brute force. */
function enumerate({ layers, links }: Trellis): { path: number[]; weight: number }[] {
  let paths = [...layers[0]!.keys()]
    .filter((state) => layers[0]![state]! > FORBIDDEN)
    .map((state) => ({ path: [state], weight: layers[0]![state]! }));
  for (let position = 1; position < layers.length; position++) {
    const { offsets, targets, weights } = links[position - 1]!;
    paths = paths.flatMap(({ path, weight }) => {
      const from = path.at(-1)!;
      return [...targets.slice(offsets[from], offsets[from + 1])].flatMap((target, index) => {
        const unary = layers[position]![target]!;
        return unary <= FORBIDDEN
          ? []
          : [{ path: [...path, target], weight: weight + unary + weights[offsets[from]! + index]! }];
      });
    });
  }
  return paths;
}

const weigh = (trellis: Trellis, path: Iterable<number>): number =>
  enumerate(trellis).find((other) => other.path.join() === [...path].join())?.weight ?? Number.NaN;

describe('the best path', () => {
  it('equals the enumerated optimum, or is a dead end where no path exists', () => {
    fc.assert(
      fc.property(trellises(), (trellis) => {
        const all = enumerate(trellis);
        const found = bestPath(trellis);
        if (all.length === 0) expect(isDeadEnd(found)).toBe(true);
        else if (!isDeadEnd(found)) expect(weigh(trellis, found)).toBe(Math.max(...all.map(({ weight }) => weight)));
        else throw new Error('missed a path');
      }),
      { numRuns: 400 },
    );
  });

  it('names the first position that nothing reaches', () => {
    const layers = [Int32Array.of(0, 0), Int32Array.of(0, 0), Int32Array.of(FORBIDDEN, 0), Int32Array.of(0)];
    const open = linkLayers(2, 2, (a, b) => (a === 1 && b === 1 ? FORBIDDEN : 0));
    expect(
      bestPath({
        layers,
        links: [open, linkLayers(2, 2, (_, b) => (b === 1 ? FORBIDDEN : 0)), linkLayers(2, 1, () => 0)],
      }),
    ).toEqual({ deadEnd: 2 });
    expect(pathSampler({ layers: [Int32Array.of(FORBIDDEN)], links: [] }, 100)).toEqual({ deadEnd: 0 });
  });
});

describe('the sampler', () => {
  it('finds a dead end exactly where the best path does', () => {
    fc.assert(
      fc.property(trellises(), (trellis) => {
        const best = bestPath(trellis);
        const sampler = pathSampler(trellis, 80);
        expect(isDeadEnd(sampler) ? sampler : 'open').toEqual(isDeadEnd(best) ? best : 'open');
      }),
    );
  });

  it('draws allowed paths only, held states among them', () => {
    fc.assert(
      fc.property(trellises(), fc.integer(), (trellis, seed) => {
        const sampler = pathSampler(trellis, 150);
        if (isDeadEnd(sampler)) return;
        const path = sampler.draw(stream(seed, 'test'));
        expect(weigh(trellis, path)).not.toBeNaN();
        const held = {
          ...trellis,
          layers: trellis.layers.map((layer, index) => (index === 0 ? holdState(layer.length, path[0]!) : layer)),
        };
        const again = pathSampler(held, 150);
        expect(!isDeadEnd(again) && again.draw(stream(seed, 'other'))[0]).toBe(path[0]);
      }),
    );
  });

  it('matches the enumerated distribution (chi-square)', () => {
    const layers = [Int32Array.of(0, -40, 20), Int32Array.of(10, 0), Int32Array.of(0, -70, FORBIDDEN)];
    const links = [
      linkLayers(3, 2, (a, b) => (a === 2 && b === 0 ? FORBIDDEN : -30 * Math.abs(a - b))),
      linkLayers(2, 3, (a, b) => -25 * a * b),
    ];
    const trellis = { layers, links };
    for (const temperature of [100, 60]) {
      const all = enumerate(trellis).map(({ path, weight }) => ({
        name: path.join(),
        share: Math.exp(weight / temperature),
      }));
      const total = all.reduce((sum, { share }) => sum + share, 0);
      const sampler = pathSampler(trellis, temperature);
      if (isDeadEnd(sampler)) throw new Error('dead end');
      const draws = 20_000;
      const counts = new Map<string, number>();
      const random = stream(7, 'chi-square', temperature);
      for (let index = 0; index < draws; index++) {
        const name = [...sampler.draw(random)].join();
        counts.set(name, (counts.get(name) ?? 0) + 1);
      }
      const chi = all.reduce((sum, { name, share }) => {
        const expected = (draws * share) / total;
        return sum + ((counts.get(name) ?? 0) - expected) ** 2 / expected;
      }, 0);
      // 99.9 % quantile at this many degrees of freedom.
      expect(all.length).toBeLessThanOrEqual(11);
      expect(chi).toBeLessThan(29.6);
      expect([...counts.keys()].every((name) => all.some((path) => path.name === name))).toBe(true);
    }
  });

  it('keeps to the best path when it is cold', () => {
    fc.assert(
      fc.property(trellises(), (trellis) => {
        const best = bestPath(trellis);
        const sampler = pathSampler(trellis, 5);
        if (isDeadEnd(sampler) || isDeadEnd(best)) return;
        const margin = weigh(trellis, best) - weigh(trellis, sampler.draw(stream(3, 'cold')));
        expect(margin).toBeLessThanOrEqual(80);
      }),
    );
  });
});
