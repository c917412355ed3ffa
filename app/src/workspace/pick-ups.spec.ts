import { shapeOf } from '../ui/note-shape';
import { SMALL, viewOf } from '../testing/view';
import { PickUps } from './pick-ups';

const BAR = 1920;
const lane = (...starts: number[]) => ({
  notes: starts.map((start) => ({ start, duration: 120, pitch: 60, velocity: 80 })),
});

describe('what is shown before the first bar', () => {
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
