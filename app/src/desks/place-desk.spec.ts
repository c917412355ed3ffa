import { TestBed } from '@angular/core/testing';
import { SessionActions } from '../store/session';
import { SongActions } from '../store/song.actions';
import { SMALL, viewOf } from '../testing/view';
import { PlaceLine } from '../workspace/place-line';
import { RunningOrder } from '../workspace/running-order';
import { ArrangementDesk } from './arrangement-desk';
import { MovesDesk } from './moves-desk';
import { PlaceDesk } from './place-desk';

const drums = SMALL.score.parts.find(({ role }) => role === 'drums')!;
const last = SMALL.score.order[2]!.id;
const there = [SessionActions.occurrenceViewed({ occurrence: last }), SessionActions.lineFocused({ line: drums.id })];

describe('a place of its own', () => {
  it('is lifted by keys, a run of them as one step, and shows where it differs', () => {
    const view = viewOf(RunningOrder, { done: there, keys: true });
    const place = (): HTMLElement => view.by.getByRole('button', { current: true });
    view.press(place(), 'PageUp', { altKey: true });
    view.press(place(), 'PageUp', { altKey: true });
    expect(view.score.order.map(({ lift }) => lift)).toEqual([undefined, undefined, 2]);
    expect(place().getAttribute('aria-label')).toContain('2 semitones up');
    expect(place().textContent).toContain('+2');
    expect(view.song.past.map(({ name }) => name)).toEqual(['lift a place']);
    view.press(place(), '=');
    expect(view.score.order).toEqual(SMALL.score.order);
  });

  it('lets the part in focus rest in the selected bars there, says so, and is plain again by one press', () => {
    const view = viewOf(PlaceLine, { done: [...there, SessionActions.barsSelected({ bars: { from: 0, to: 1 } })] });
    const desk = TestBed.inject(PlaceDesk);
    expect(view.page.textContent).toBe('');
    view.act(() => {
      desk.toggleRest();
    });
    expect(view.score.order[2]!.rests).toEqual({ [drums.id]: [0] });
    expect(view.by.getByRole('note').textContent).toContain(`without ${drums.name} in bar 1`);
    expect(desk.rests()).toBe(true);
    view.click('button', 'As everywhere');
    expect(view.score.order).toEqual(SMALL.score.order);
    view.act(() => {
      view.store.dispatch(SongActions.undone());
    });
    expect(view.score.order[2]!.rests).toEqual({ [drums.id]: [0] });
  });

  it('slows down at its section’s end, as long as the writer says', () => {
    const view = viewOf(PlaceLine, { done: there });
    const desk = TestBed.inject(ArrangementDesk);
    const [section] = view.score.sections;
    const own = () => view.score.sections[0]!;
    desk.setEndTempo(section!, view.score.ground.tempo / 2, 1);
    expect(own().tempos).toEqual([
      { at: 1920, value: 100 },
      { at: 3840, value: 50 },
    ]);
    desk.setEndTempo(own(), null, 1);
    expect(own().tempos).toBeUndefined();
  });

  it('plays so often in a row, told in its menu, and once again', () => {
    const view = viewOf(RunningOrder, { done: there });
    const desk = TestBed.inject(PlaceDesk);
    view.act(() => {
      desk.play(3);
    });
    expect(view.score.order.slice(-3).map(({ section }) => section)).toEqual(
      Array(3).fill(SMALL.score.order[2]!.section),
    );
    expect([desk.plays(), view.song.past.at(-1)!.name]).toEqual([3, 'play a section so often']);
    view.act(() => {
      desk.play(1);
    });
    expect(view.score.order).toEqual(SMALL.score.order);
  });

  it('draws the tempo of a section over all its places, by keys too', () => {
    const view = viewOf(RunningOrder, { done: there });
    view.act(() => {
      TestBed.inject(MovesDesk).line.set('tempo');
    });
    const [strip] = view.by.getAllByRole('slider', { name: /^Tempo of / });
    expect(strip!.getAttribute('aria-valuetext')).toBe(`${SMALL.score.ground.tempo} beats a minute`);
    view.press(strip!, 'ArrowDown');
    view.press(strip!, 'ArrowDown');
    expect(view.score.sections[0]!.tempos).toEqual([{ at: 0, value: 90 }]);
    expect(view.song.past.map(({ name }) => name)).toEqual(['draw the tempo']);
    view.press(strip!, 'Delete');
    expect(view.score.sections[0]!.tempos).toBeUndefined();
  });
});
