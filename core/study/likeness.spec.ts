import * as fc from 'fast-check';
import { layOutByLikeness, nextSpot, type Spot } from './likeness';

const all = (features: readonly Float64Array[]): readonly Spot[] => {
  const work = layOutByLikeness(features);
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
  }
};
const pointsFrom = (minLength: number): fc.Arbitrary<number[][]> =>
  fc.array(fc.array(fc.double({ min: -9, max: 9, noNaN: true }), { minLength: 6, maxLength: 6 }), {
    minLength,
    maxLength: 40,
    size: 'max',
  });
const from = (values: readonly number[][]): Float64Array[] => values.map((own) => Float64Array.from(own));
/** Places against the first one, since the whole field is moved to its corner. */
const against = (spots: readonly Spot[]): string[] =>
  spots.map(({ column, row }) => `${column - spots[0]!.column} ${row - spots[0]!.row}`);

describe('takes laid out by likeness', () => {
  it('never lie in one spot, and always in the same', () => {
    fc.assert(
      fc.property(pointsFrom(1), (values) => {
        const spots = all(from(values));
        expect(new Set(against(spots)).size).toBe(values.length);
        expect(all(from(values))).toEqual(spots);
        expect(spots.every(({ column, row }) => column >= 0 && row >= 0)).toBe(true);
      }),
      { numRuns: 60 },
    );
  });

  it('stay where they are when more come, once a first batch is there', () => {
    fc.assert(
      fc.property(pointsFrom(13), fc.integer({ min: 8, max: 12 }), (values, count) => {
        expect(against(all(from(values))).slice(0, count)).toEqual(against(all(from(values.slice(0, count)))));
      }),
      { numRuns: 40 },
    );
  });

  it('lie near what they are like: two kinds come apart', () => {
    const kind = (at: number, index: number): Float64Array =>
      Float64Array.from([at, at, 0.3 * Math.sin(index * 7), 0.3 * Math.cos(index * 5)]);
    const values = Array.from({ length: 24 }, (_, index) => kind(index % 2 === 0 ? 0 : 20, index));
    const spots = all(values);
    const away = (a: number, b: number): number =>
      Math.hypot(spots[a]!.column - spots[b]!.column, spots[a]!.row - spots[b]!.row);
    for (let index = 0; index < 24; index++) {
      const [nearest] = Array.from({ length: 24 }, (_, other) => other)
        .filter((other) => other !== index)
        .sort((a, b) => away(index, a) - away(index, b));
      expect(nearest! % 2).toBe(index % 2);
    }
  });

  it('are gone over by the arrows: straight on before aside', () => {
    const spots = [
      { column: 2, row: 2 },
      { column: 4, row: 2 },
      { column: 3, row: 4 },
      { column: 0, row: 2 },
      { column: 2, row: 0 },
    ];
    expect((['right', 'left', 'up', 'down'] as const).map((way) => nextSpot(spots, 0, way))).toEqual([1, 3, 4, 2]);
    expect(nextSpot(spots, 1, 'right')).toBeNull();
    expect(nextSpot(spots, 9, 'up')).toBeNull();
  });
});
