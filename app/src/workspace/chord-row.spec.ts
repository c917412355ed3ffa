import { HARMONY } from '@fendro/core/song/schema';
import { fireEvent } from '@testing-library/dom';
import { selectChords } from '../store/selectors';
import { SMALL, viewOf } from '../testing/view';
import { systemsOf } from './bar-geometry';
import { ChordRow } from './chord-row';
import { ChordDesk } from '../desks/chord-desk';

const { score } = SMALL;
const [verse] = score.sections;

function row() {
  const view = viewOf(ChordRow, { inputs: { system: systemsOf(verse!, score)[0]! }, providers: [ChordDesk] });
  view.page.dataset['region'] = 'sheet';
  const cell = (name: RegExp): HTMLElement => view.by.getByRole('button', { name });
  const caret = (): HTMLInputElement | null => view.by.queryByRole<HTMLInputElement>('textbox', { name: 'Chord' });
  const roots = (): (number | undefined)[] =>
    view.store
      .selectSignal(selectChords)()
      .map(({ chord }) => chord?.root);
  const type = (text: string): void => {
    view.act(() => fireEvent.input(caret()!, { target: { value: text } }));
  };
  return { view, cell, caret, roots, type };
}

describe('the row of chords', () => {
  it('leaves everything where it is at a press: only the click gives the chords the focus and opens the caret', () => {
    const { view, cell, caret } = row();
    const line = view.session.line;
    const pressed = cell(/^Bar 2 beat 1,/);
    view.act(() => pressed.dispatchEvent(new MouseEvent('pointerdown', { bubbles: true })));
    view.act(() => {
      pressed.focus();
    });
    expect(view.session.line).toBe(line);
    expect(line).not.toBe(HARMONY);
    view.act(() => fireEvent.click(pressed));
    expect(view.session).toMatchObject({ line: HARMONY, chordAt: 1920 });
    expect(document.activeElement).toBe(caret());
  });

  it('gives the chords the focus when keys come to it, after a press that went elsewhere too', () => {
    const { view, cell } = row();
    const pressed = cell(/^Bar 2 beat 1,/);
    view.act(() => pressed.dispatchEvent(new MouseEvent('pointerdown', { bubbles: true })));
    view.act(() => {
      pressed.focus();
      pressed.blur();
    });
    view.act(() => {
      cell(/^Bar 1 beat 1,/).focus();
    });
    expect(view.session).toMatchObject({ line: HARMONY, chordAt: 0 });
  });

  it('takes what is typed and goes on to the next bar', () => {
    const { view, cell, caret, roots, type } = row();
    view.act(() => fireEvent.click(cell(/^Bar 1 beat 1,/)));
    type('Ab');
    view.press(caret()!, 'Enter');
    expect(roots()[0]).toBe(-4);
    expect(view.session.chordAt).toBe(1920);
    expect(view.song.past).toHaveLength(1);
  });

  it('says at once what is no chord, offers the nearest, and changes nothing on Escape', () => {
    const { view, cell, caret, roots, type } = row();
    const before = roots();
    view.act(() => fireEvent.click(cell(/^Bar 1 beat 1,/)));
    type('Hmaj');
    expect(view.by.getByRole('alert').textContent).toMatch(/does not start with a note name/);
    type('Cmja7');
    expect(view.by.getByRole('alert').textContent).toMatch(/↓ puts in C/);
    view.press(caret()!, 'ArrowDown');
    expect(caret()!.value).toMatch(/^C/);
    expect(view.by.queryByRole('alert')).toBeNull();
    view.press(caret()!, 'Escape');
    expect(caret()).toBeNull();
    expect(roots()).toEqual(before);
    expect(view.song.past).toHaveLength(0);
  });

  it('is walked with the arrows, cell by cell, with one stop for Tab', () => {
    const { view, cell } = row();
    const first = cell(/^Bar 1 beat 1,/);
    view.act(() => {
      first.focus();
    });
    view.press(first, 'ArrowRight');
    expect(document.activeElement).toBe(cell(/^Bar 1 beat 2,/));
    view.press(document.activeElement!, 'ArrowLeft');
    expect(document.activeElement).toBe(first);
    const stops = view.by.getAllByRole('button', { name: /^Bar \d beat \d/ }).filter(({ tabIndex }) => tabIndex === 0);
    expect(stops).toEqual([first]);
  });
});
