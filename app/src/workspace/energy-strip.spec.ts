import { layOut } from '@fendro/core/song/resolve';
import { fireEvent } from '@testing-library/dom';
import { ScoreActions } from '../store/song.actions';
import { SMALL, viewOf } from '../testing/view';
import { EnergyStrip } from './energy-strip';

const placed = layOut(SMALL.score);
const verse = placed[0]!.occurrence.id;
const drawn = (points: readonly { at: number; value: number }[], occurrence = verse) =>
  ScoreActions.energyDrawn({ occurrence, points });

const strip = (done: ReturnType<typeof drawn>[] = []) => {
  const view = viewOf(EnergyStrip, { inputs: { place: placed[0]! }, done });
  const slider = view.by.getByRole('slider', { name: /^Energy of / });
  // The test's page has no layout: the strip is 100 wide and 20 high.
  view.page.querySelector('fd-line-strip')!.getBoundingClientRect = () =>
    ({ left: 0, top: 0, width: 100, height: 20 }) as DOMRect;
  slider.setPointerCapture = () => undefined;
  const at = (kind: 'pointerdown' | 'pointermove' | 'pointerup', x: number, y: number): void => {
    // The test's page knows no pointers: a mouse event has all that is read of one.
    view.act(() => slider.dispatchEvent(new MouseEvent(kind, { clientX: x, clientY: y, bubbles: true })));
  };
  return { view, slider, at };
};

describe('the energy line over a place', () => {
  it('says that nothing is drawn, or where it goes, and how much there is on average', () => {
    expect(strip().slider.getAttribute('aria-valuetext')).toBe('level, nothing drawn');
    const { slider } = strip([
      drawn([
        { at: 0, value: 20 },
        { at: placed[0]!.length, value: 40 },
      ]),
    ]);
    expect(slider.getAttribute('aria-valuetext')).toBe('20 % to 40 %');
    expect(slider.getAttribute('aria-valuenow')).toBe('30');
  });

  it('is lifted and lowered by keys in one step of undo, and let go with Delete', () => {
    const { view, slider } = strip([drawn([{ at: 0, value: 50 }])]);
    const steps = view.song.past.length;
    view.press(slider, 'ArrowUp');
    view.press(slider, 'ArrowUp');
    expect(view.score.energy).toEqual([{ occurrence: verse, at: 0, value: 60 }]);
    expect(view.song.past).toHaveLength(steps + 1);
    view.press(slider, 'ArrowDown');
    expect(view.score.energy[0]!.value).toBe(55);
    view.press(slider, 'Delete');
    expect(view.score.energy).toEqual([]);
    // Other keys are not its own.
    view.press(slider, 'x');
    expect(view.score.energy).toEqual([]);
  });

  it('begins level with its neighbours where nothing is drawn, and ends at its limits', () => {
    const { view, slider } = strip();
    view.press(slider, 'ArrowDown');
    expect(view.score.energy.map(({ at }) => at)).toEqual([0, placed[0]!.length]);
    const low = strip([drawn([{ at: 0, value: 3 }])]);
    low.view.press(low.slider, 'ArrowDown');
    expect(low.view.score.energy[0]!.value).toBe(0);
  });

  it('is drawn by dragging, a point a bar, as one step; other places keep theirs', () => {
    const other = placed[1]!.occurrence.id;
    const { view, at } = strip([drawn([{ at: 0, value: 9 }], other)]);
    const steps = view.song.past.length;
    at('pointerdown', 0, 10);
    at('pointermove', 48, 5);
    at('pointermove', 52, 0);
    expect(view.score.energy).toHaveLength(1);
    at('pointerup', 52, 0);
    expect(view.score.energy).toEqual([
      { occurrence: other, at: 0, value: 9 },
      { occurrence: verse, at: 0, value: 50 },
      { occurrence: verse, at: 1920, value: 100 },
    ]);
    expect(view.song.past).toHaveLength(steps + 1);
    at('pointermove', 90, 10);
    expect(view.song.past).toHaveLength(steps + 1);
  });

  it('is level again after a double click', () => {
    const { view, slider } = strip([drawn([{ at: 0, value: 80 }])]);
    view.act(() => fireEvent.dblClick(slider));
    expect(view.score.energy).toEqual([]);
  });
});
