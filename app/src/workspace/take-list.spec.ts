import { remark, verdictOf } from '@fendro/core/song/edit';
import { chosenId } from '@fendro/core/song/section';
import { fireEvent } from '@testing-library/dom';
import { Playback } from '../sound/playback';
import { Drafting } from '../desks/drafting';
import { HarmonyDesk } from '../desks/harmony-desk';
import { Notices } from '../store/notices';
import { EMPTY_SHELF } from '../storage/shelf-storage';
import { Shelf } from '../store/shelf';
import { TakeActions } from '../store/song.actions';
import { silentPlayback, SMALL, viewOf, type View } from '../testing/view';
import { TakeList } from './take-list';

const { score } = SMALL;
const [verse] = score.sections;
const [melody] = score.parts;
const [first, second] = [0, 1].map((attempt) => `${verse!.id}-${melody!.id}-${attempt}`);

function list(of = score) {
  const playback = silentPlayback();
  const drafting = { busy: () => false, unheard: () => [] as string[], clearUnheard: jest.fn(), draft: jest.fn() };
  const shelf = { savePhrase: jest.fn(() => true), contents: () => EMPTY_SHELF };
  const notices = { say: jest.fn() };
  const view = viewOf(TakeList, {
    score: of,
    keys: true,
    providers: [
      { provide: Playback, useValue: playback },
      { provide: Drafting, useValue: drafting },
      { provide: Shelf, useValue: shelf },
      { provide: Notices, useValue: notices },
    ],
  });
  const heard = (): string | undefined => view.session.heard[verse!.id]?.[melody!.id];
  const press = (key: string, more: KeyboardEventInit = {}): void => {
    view.press(view.by.getByRole('listbox'), key, more);
  };
  const options = (): string[] => view.by.getAllByRole('option').map((option) => option.getAttribute('aria-label')!);
  return { view, playback, drafting, shelf, notices, heard, press, options };
}

/** Does something of the menu beside the verdict. */
function further(view: View<TakeList>, name: RegExp): void {
  view.click('button', 'Further for takes');
  const item = [...document.querySelectorAll<HTMLElement>('[role=menuitem]')].find((one) => name.test(one.textContent));
  view.act(() => item!.click());
}

describe('the takes of a line', () => {
  it('are listed in the order in which they came, the chosen one marked', () => {
    const { view, options } = list();
    expect(options()).toHaveLength(2);
    expect(options()[0]).toMatch(/^Take 1 of 2, .*chosen$/);
    expect(view.by.getByRole('option', { selected: true }).id).toBe(`option-${first}`);
  });

  it('are heard with the arrows and chosen with Enter, as one step of undo; Enter again changes nothing', () => {
    const { view, playback, heard, press } = list();
    press('ArrowDown');
    expect(heard()).toBe(second);
    expect(playback.playIfStopped).toHaveBeenCalledTimes(1);
    press('ArrowDown');
    press('Enter');
    expect(chosenId(view.score.sections[0]!, melody!.id)).toBe(second);
    expect(heard()).toBeUndefined();
    expect(view.song.past).toHaveLength(1);
    press('Enter');
    expect(view.song.past).toHaveLength(1);
  });

  it('go back to the chosen one when it is heard again', () => {
    const { heard, press } = list();
    press('ArrowDown');
    press('ArrowUp');
    expect(heard()).toBeUndefined();
  });

  it('are judged by one key each, which moves on; the same verdict again takes it back', () => {
    const { view, heard, press } = list();
    press('y');
    expect(verdictOf(view.score, first!)).toBe('kept');
    expect(heard()).toBe(second);
    press('ArrowUp');
    press('y');
    expect(verdictOf(view.score, first!)).toBeNull();
    expect(heard()).toBeUndefined();
  });

  it('fold away when they are discarded, but for the one that sounds, and can be unfolded', () => {
    const { view, options } = list(remark(score, second!, { verdict: 'discarded' }));
    expect(options()).toHaveLength(1);
    further(view, /discarded/);
    expect(options()).toHaveLength(2);
    further(view, /discarded/);
    view.act(() => {
      view.store.dispatch(TakeActions.heard({ take: second!, section: verse!.id, line: melody!.id, at: 0 }));
    });
    expect(options()).toHaveLength(2);
  });

  it('are compared with the chosen one while C is held', () => {
    const { view, heard, press } = list();
    press('ArrowDown');
    press('c');
    expect(heard()).toBeUndefined();
    press('c', { repeat: true });
    view.act(() => fireEvent.keyUp(view.by.getByRole('listbox'), { key: 'c' }));
    expect(heard()).toBe(second);
  });

  it('give the focus to other lines with left and right, and draft more with D', () => {
    const { view, drafting, press } = list();
    press('d');
    expect(drafting.draft).toHaveBeenCalledWith(verse!.id, melody!.id);
    press('ArrowRight');
    expect(view.session.line).toBe(score.parts[1]!.id);
    press('ArrowLeft');
    press('ArrowLeft');
    press('ArrowLeft');
    expect(view.session.line).toBe('harmony');
  });

  it('leave keys alone that are held with others, handled already, or pressed elsewhere', () => {
    const { view, heard, press } = list();
    press('ArrowDown', { ctrlKey: true });
    press('ArrowDown', { altKey: true });
    press('Enter', { shiftKey: true });
    const elsewhere = document.createElement('input');
    document.body.append(elsewhere);
    view.press(elsewhere, 'ArrowDown');
    expect(heard()).toBeUndefined();
  });

  it('become phrases of the writer’s own by what they are called', () => {
    const { view, shelf, notices } = list();
    further(view, /phrase/);
    expect(shelf.savePhrase).toHaveBeenCalledWith(
      expect.objectContaining({ role: 'melody', name: `${melody!.name} of ${verse!.name}, take 1` }),
    );
    expect(notices.say).toHaveBeenCalledWith(expect.stringContaining('Saved among your phrases'));
  });

  it('choose through the desk, so that what follows chords does so in the same step', () => {
    const { view, press } = list();
    const desk = jest.spyOn(view.fixture.debugElement.injector.get(HarmonyDesk), 'choose');
    press('ArrowDown');
    press('Enter');
    expect(desk).toHaveBeenCalledWith(verse!.id, melody!.id, second);
  });
});
