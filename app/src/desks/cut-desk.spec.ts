import { waitFor } from '@testing-library/dom';
import { TestBed } from '@angular/core/testing';
import { METRES } from '@fendro/core/theory/metre';
import { Notices } from '../store/notices';
import { SessionActions } from '../store/session';
import { SongActions } from '../store/song.actions';
import { SMALL, viewOf } from '../testing/view';
import { RunningOrder } from '../workspace/running-order';
import { CutDesk } from './cut-desk';

const seven = METRES.find(({ beats, unit }) => beats === 7 && unit === 8)!;

describe('cutting and joining', () => {
  const opened = () => {
    const view = viewOf(RunningOrder, { done: [SessionActions.cursorMoved({ bar: 1 })], keys: true });
    const places = () => view.score.order.map(({ section }) => view.score.sections.find(({ id }) => id === section)!);
    return { view, places, desk: TestBed.inject(CutDesk), first: () => view.by.getAllByRole('button')[0]! };
  };

  it('goes by keys, wherever the section is played, and is undone in one step', async () => {
    const { view, places } = opened();
    view.press(view.by.getByRole('button', { current: true }), '|');
    await waitFor(() => {
      expect(places().map(({ bars }) => bars)).toEqual([1, 1, 2, 1, 1]);
    });
    view.fixture.detectChanges();
    view.press(view.by.getByRole('button', { current: true }), 'j', { altKey: true });
    await waitFor(() => {
      expect(places().map(({ bars }) => bars)).toEqual([2, 2, 1, 1]);
    });
    expect(view.song.past.map(({ name }) => name)).toEqual(['cut a section in two', 'join two sections']);
    for (let step = 0; step < 2; step++)
      view.act(() => {
        view.store.dispatch(SongActions.undone());
      });
    expect(view.score).toEqual(SMALL.score);
  });

  it('gives a bar a metre of its own, and says why unlike sections are not joined', async () => {
    const { view, places, desk } = opened();
    await desk.measure(seven);
    view.fixture.detectChanges();
    expect(places().map(({ bars, ground }) => [bars, ground.metre?.beats])).toEqual([
      [1, undefined],
      [1, 7],
      [2, undefined],
      [1, undefined],
      [1, 7],
    ]);
    expect(places()[1]!.name).toContain('bar 2');
    expect(view.session.occurrence).toBe(view.score.order[1]!.id);
    const before = view.score;
    await desk.join();
    expect(view.score).toBe(before);
    expect(TestBed.inject(Notices).open()[0]!.text).toContain('another key, metre or tempo');
  });
});
