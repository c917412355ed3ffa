import * as fc from 'fast-check';
import { distance } from '../study/features';
import { FarthestFirst } from './choose';

const points = fc.array(fc.tuple(fc.integer({ min: 0, max: 9 }), fc.integer({ min: 0, max: 9 })), { maxLength: 14 });
const pickerOf = (list: readonly (readonly number[])[]): FarthestFirst<number> => {
  const picker = new FarthestFirst<number>();
  list.forEach((point, index) => {
    picker.add(index, Float64Array.from(point));
  });
  return picker;
};

describe('picking what differs', () => {
  it('picks everything once, the first first, and always what lies furthest from all picked before', () => {
    fc.assert(
      fc.property(points, (list) => {
        const picker = pickerOf(list);
        const order = list.map(() => picker.pick()!);
        expect(picker.pick()).toBeNull();
        expect(picker.size).toBe(list.length);
        expect([...order].sort((a, b) => a - b)).toEqual(list.map((_, index) => index));
        if (list.length > 0) expect(order[0]).toBe(0);
        const away = (index: number, before: readonly number[]): number =>
          Math.min(
            ...before.map((other) => distance(Float64Array.from(list[index]!), Float64Array.from(list[other]!))),
          );
        order.slice(1).forEach((own, place) => {
          const before = order.slice(0, place + 1);
          for (const left of order.slice(place + 2))
            expect(away(own, before)).toBeGreaterThanOrEqual(away(left, before));
        });
      }),
    );
  });

  it('counts what was picked before a candidate came', () => {
    const picker = pickerOf([[0, 0]]);
    expect(picker.pick()).toBe(0);
    picker.add(1, Float64Array.of(1, 0));
    picker.add(2, Float64Array.of(9, 0));
    expect([picker.pick(), picker.pick(), picker.pick()]).toEqual([2, 1, null]);
  });
});
