import { fireEvent } from '@testing-library/dom';
import { HARMONY, type HarmonyTake } from '@fendro/core/song/schema';
import { spanText } from '@fendro/core/song/chord-edit';
import { chosenId } from '@fendro/core/song/section';
import { SessionActions } from '../../store/session';
import { viewOf } from '../../testing/view';
import { ChordBlocks } from './chord-blocks';

describe('chords as blocks', () => {
  const opened = () => {
    const view = viewOf(ChordBlocks, { keys: true, done: [SessionActions.lineFocused({ line: HARMONY })] });
    const spans = () => (view.song.takes[chosenId(view.score.sections[0]!, HARMONY) ?? ''] as HarmonyTake).chords;
    const told = () => spans().map((span) => `${spanText(span)} ${span.start}`);
    const block = (index: number) => view.by.getAllByRole('option')[index]!;
    const drag = (target: Element, from: number, to: number, more: object = {}): void => {
      view.act(() => fireEvent.pointerDown(target, { clientX: from, button: 0, ...more }));
      view.act(() => fireEvent.pointerMove(block(0), { clientX: to, ...more }));
      view.act(() => fireEvent.pointerUp(block(0)));
    };
    return { view, spans, told, block, drag };
  };

  it('stand for every chord in its place, one of them in focus', () => {
    const { view, spans } = opened();
    expect(view.by.getAllByRole('option').map((own) => own.getAttribute('aria-label'))).toEqual(
      spans().map((span) => {
        const bars = span.duration / 1920;
        const length = `${bars} ${bars === 1 ? 'bar' : 'bars'}`;
        return `${spanText(span)}, from bar ${Math.floor(span.start / 1920) + 1}, ${length}`;
      }),
    );
    expect(view.by.getAllByRole('option', { selected: true })).toHaveLength(1);
  });

  it('are gone over, split, typed anew and joined by keys, each a step of undo', () => {
    const { view, spans, block } = opened();
    const before = spans();
    block(0).focus();
    view.press(block(0), 's');
    expect(spans()).toHaveLength(before.length + 1);
    view.press(block(0), 'ArrowRight');
    expect(document.activeElement).toBe(block(1));
    view.press(block(1), 'Enter');
    const caret = view.by.getByRole<HTMLInputElement>('textbox', { name: 'Chord' });
    view.act(() => fireEvent.input(caret, { target: { value: 'x9' } }));
    expect(caret.getAttribute('aria-invalid')).toBe('true');
    view.act(() => fireEvent.input(caret, { target: { value: 'F#m7' } }));
    view.press(caret, 'Enter');
    expect(spanText(spans()[1]!)).toBe('F♯m7');
    block(0).focus();
    view.press(block(0), 'j');
    expect(spans().map(({ start }) => start)).toEqual(before.map(({ start }) => start));
    expect(view.song.past.map(({ name }) => name)).toEqual(['split a chord', 'type a chord', 'join chords']);
  });

  it('leave a chord as it is where Escape is pressed or nothing was changed', () => {
    const { view, told, block } = opened();
    const before = told();
    view.act(() => fireEvent.doubleClick(block(0)));
    view.press(view.by.getByRole('textbox', { name: 'Chord' }), 'Escape');
    view.act(() => fireEvent.doubleClick(block(0)));
    view.press(view.by.getByRole('textbox', { name: 'Chord' }), 'Enter');
    expect([told(), view.song.past]).toEqual([before, []]);
  });

  it('are not dragged by a press that goes nowhere', () => {
    const { view, told, block, drag } = opened();
    const before = told();
    drag(block(0), 10, 11);
    expect([told(), view.song.past]).toEqual([before, []]);
  });
});
