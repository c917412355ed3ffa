import * as fc from 'fast-check';
import { shapeOf } from '../ui/note-picture';
import { SMALL, viewOf } from '../testing/view';
import { leadOf, PickUps } from './pick-ups';

const BAR = 1920;
const lane = (...starts: number[]) => ({
  notes: starts.map((start) => ({ start, duration: 120, pitch: 60, velocity: 80 })),
});

describe('what is shown before the first bar', () => {
  it('is as many whole quarters as lead in, at most a bar, and nothing where nothing does', () => {
    fc.assert(
      fc.property(fc.array(fc.array(fc.integer({ min: -BAR, max: 9000 }))), (lists) => {
        const lead = leadOf(
          lists.map((starts) => lane(...starts)),
          BAR,
        );
        const earliest = Math.min(0, ...lists.flat());
        expect(lead % 480).toBe(0);
        expect(lead).toBeGreaterThanOrEqual(-earliest);
        expect(lead + earliest).toBeLessThan(480);
      }),
    );
    expect([leadOf([lane(-3000)], BAR), leadOf([lane(0, 10)], BAR), leadOf([], BAR)]).toEqual([BAR, 0, 0]);
  });

  it('has a picture for every part', () => {
    const lanes = SMALL.score.parts.map((part) => ({
      part,
      ...lane(-480, 0),
      clashes: [],
      roles: [],
      held: [],
      heldNotes: [],
      tentative: false,
      shape: shapeOf(part.colour, false),
      instrument: '',
    }));
    const view = viewOf(PickUps, { inputs: { lanes, lead: 480, bar: BAR, focus: lanes[0]!.part.id } });
    expect(view.page.querySelectorAll('fd-note-picture')).toHaveLength(lanes.length);
    expect(view.page.querySelectorAll('.tall')).toHaveLength(1);
  });
});
