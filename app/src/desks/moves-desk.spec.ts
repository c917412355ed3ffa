import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { fireEvent } from '@testing-library/dom';
import { layOut } from '@fendro/core/song/resolve';
import { Mixer } from '../sound/mixer';
import { Playback } from '../sound/playback';
import { SessionActions } from '../store/session';
import { SongActions } from '../store/song.actions';
import { silentPlayback, SMALL, viewOf } from '../testing/view';
import { MixDrawer } from '../drawers/mix/mix-drawer';
import { MoveStrip } from '../workspace/move-strip';
import { MovesDesk } from './moves-desk';

const [melody] = SMALL.score.parts;
const places = layOut(SMALL.score);
const BAR = 1920;
const focused = SessionActions.lineFocused({ line: melody!.id });

describe('moves', () => {
  it('are recorded from the sliders while the music plays, written when it stops, and heard at once', () => {
    const playing = signal(true);
    let at = 0;
    const [move, letGo] = [jest.fn(), jest.fn()];
    const view = viewOf(MixDrawer, {
      done: [focused],
      providers: [
        { provide: Playback, useValue: { ...silentPlayback(), playing, position: () => at } },
        { provide: Mixer, useValue: { move, letGo, levelOf: () => 0 } },
      ],
    });
    const slide = (tick: number, level: number): void => {
      at = tick;
      const slider = view.by.getByRole('slider', { name: `Level of ${melody!.name}` });
      view.act(() => fireEvent.input(slider, { target: { value: String(level) } }));
    };
    view.click('button', 'Record moves');
    for (let bar = 0; bar <= 2; bar++) slide(4 * BAR + bar * 960, melody!.level - 30 * bar);
    expect(view.score.parts[0]!.level).toBe(melody!.level);
    expect(move).toHaveBeenCalledWith(melody!.id, 'level', melody!.level - 60);
    expect(view.score).toBe(SMALL.score);
    letGo.mockClear();
    view.act(() => {
      playing.set(false);
    });
    expect(view.song.past.map(({ name }) => name)).toEqual(['record moves']);
    // From here on the song moves what the hand moved.
    expect(letGo).toHaveBeenCalledTimes(1);
    expect(view.score.order[2]!.moves).toEqual({
      [melody!.id]: {
        level: [
          { at: 0, value: melody!.level },
          { at: 1920, value: melody!.level - 60 },
        ],
      },
    });
    view.act(() => {
      view.store.dispatch(SongActions.undone());
    });
    expect(view.score).toEqual(SMALL.score);
    // Standing still, sliders set the mix.
    slide(0, 11);
    expect(view.score.parts[0]!.level).toBe(11);
  });

  it('fade a part over selected bars, and the song at its end, each in one act', () => {
    const view = viewOf(MixDrawer, {
      done: [focused, SessionActions.barsSelected({ bars: { from: 0, to: 1 } })],
      providers: [{ provide: Mixer, useValue: { letGo: () => undefined, levelOf: () => 0 } }],
    });
    const moves = TestBed.inject(MovesDesk);
    view.act(() => {
      moves.fade();
    });
    expect(view.score.order[0]!.moves![melody!.id]!.level).toEqual([
      { at: 0, value: melody!.level },
      { at: BAR, value: 0 },
    ]);
    view.act(() => {
      moves.clear();
    });
    expect(view.score.order).toEqual(SMALL.score.order);
    view.act(() => {
      moves.fadeSong();
    });
    expect(Object.keys(view.score.order[2]!.moves!)).toEqual(SMALL.score.parts.map(({ id }) => id));
    expect(view.score.order.slice(0, 2).some(({ moves }) => moves)).toBe(false);
  });

  it('are drawn over a place, stepped by keys and taken away', () => {
    const view = viewOf(MoveStrip, { done: [focused], inputs: { place: places[1]!, part: melody!, kind: 'pan' } });
    const slider = view.by.getByRole('slider', { name: /^Pan of / });
    expect(slider.getAttribute('aria-valuetext')).toBe('as in the mix');
    const box = view.page.querySelector('fd-line-strip')!;
    box.getBoundingClientRect = () => ({ left: 0, top: 0, width: 100, height: 20 }) as DOMRect;
    slider.setPointerCapture = () => undefined;
    const at = (kind: string, x: number, y: number): void => {
      view.act(() => slider.dispatchEvent(new MouseEvent(kind, { clientX: x, clientY: y, bubbles: true })));
    };
    at('pointerdown', 0, 20);
    at('pointermove', 100, 0);
    expect(slider.getAttribute('aria-valuetext')).toBe('-100 to 100');
    at('pointerup', 100, 0);
    const moves = () => view.score.order[1]!.moves?.[melody!.id]?.pan;
    expect(moves()).toEqual([
      { at: 0, value: -100 },
      { at: places[1]!.length, value: 100 },
    ]);
    view.show({ place: layOut(view.score)[1]! });
    view.press(slider, 'ArrowDown');
    expect(moves()!.at(-1)!.value).toBe(90);
    view.press(slider, 'Delete');
    expect(moves()).toBeUndefined();
    expect(TestBed.inject(MovesDesk).moves()).toBe(false);
  });
});
