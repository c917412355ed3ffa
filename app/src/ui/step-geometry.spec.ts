import * as fc from 'fast-check';
import { bandOf, boxOf, heightOf, heldValue, repeatsOf, valueAtHeight, type StepLayout } from './step-geometry';

const layouts: fc.Arbitrary<StepLayout> = fc
  .record({
    look: fc.constantFrom('bar' as const, 'line' as const, 'ribbon' as const),
    height: fc.integer({ min: 24, max: 90 }),
    low: fc.integer({ min: -24, max: 60 }),
    span: fc.integer({ min: 1, max: 126 }),
    stepWidth: fc.integer({ min: 8, max: 60 }),
  })
  .map(({ span, ...rest }) => ({ ...rest, high: rest.low + span }));

describe('the steps of a strip', () => {
  it('stand inside it, as high as what they say', () => {
    fc.assert(
      fc.property(layouts, fc.nat(), fc.nat({ max: 20 }), fc.boolean(), (layout, drawn, step, tied) => {
        const value = layout.low + (drawn % (layout.high - layout.low + 1));
        const { top, height, left, width } = boxOf(layout, value, step, tied);
        expect(top).toBeGreaterThanOrEqual(0);
        expect(top + height).toBeLessThanOrEqual(layout.height);
        expect(left >= step * layout.stepWidth && left + width <= (step + 1) * layout.stepWidth).toBe(true);
        // What is pressed where a value is drawn means that value.
        expect(valueAtHeight(layout, heightOf(layout, value))).toBe(value);
        const band = bandOf(layout, layout.low, value);
        expect(band.top).toBeLessThanOrEqual(heightOf(layout, value));
      }),
    );
  });

  it('hold on what comes before them, going round', () => {
    expect(heldValue([5, 1, 2], [1, 2], 2)).toBe(5);
    expect(heldValue([5, 1, 7], [0], 0)).toBe(7);
    expect(heldValue([5, 1], [0, 1], 1)).toBe(1);
  });

  it('are said again to the end, and no further', () => {
    const layout: StepLayout = { look: 'bar', height: 30, low: 0, high: 10, stepWidth: 20 };
    const boxes = [boxOf(layout, 5, 0, false), boxOf(layout, 9, 1, false)];
    expect(repeatsOf(boxes, 40, 100).match(/M\d+/g)).toEqual(['M41', 'M61', 'M81']);
    expect(repeatsOf(boxes, 0, 100)).toBe('');
  });
});
