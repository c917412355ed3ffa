import fc from 'fast-check';
import { leadOf } from './pick-up';

const notes = (...starts: number[]) => starts.map((start) => ({ start }));

describe('what leads into a section', () => {
  it('is as many whole quarters as it needs, and nothing where nothing does', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -1920, max: 9000 })), (starts) => {
        const lead = leadOf(notes(...starts));
        const earliest = Math.min(0, ...starts);
        expect(lead % 480).toBe(0);
        expect(lead).toBeGreaterThanOrEqual(-earliest);
        expect(lead + earliest).toBeLessThan(480);
      }),
    );
    expect([leadOf(notes(-481, 0)), leadOf(notes(0, 10)), leadOf([])]).toEqual([960, 0, 0]);
  });
});
