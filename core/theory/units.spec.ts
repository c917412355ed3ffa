import fc from 'fast-check';
import { countLeading } from './units';

describe('a count of leading items', () => {
  it('is where the first that fails stands, as going through all of them tells', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 40 })), fc.integer({ min: -1, max: 41 }), (list, limit) => {
        const inOrder = list.toSorted((a, b) => a - b);
        const passes = (item: number): boolean => item <= limit;
        expect(countLeading(inOrder, passes)).toBe(inOrder.filter(passes).length);
      }),
    );
  });
});
