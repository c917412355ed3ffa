import { remark, verdictOf } from '@fendro/core/song/edit';
import { chosenId } from '@fendro/core/song/section';
import { fireEvent, waitFor } from '@testing-library/dom';
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

async function list(of = score) {
  const playback = silentPlayback();
  const drafting = {
    busy: () => false,
    unheard: () => [] as string[],
    clearUnheard: jest.fn(),
    draftInFocus: jest.fn(),
  };
  const shelf = { put: jest.fn(() => true), contents: () => EMPTY_SHELF };
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
  await view.fixture.whenStable();
  const heard = (): string | undefined => view.session.heard[verse!.id]?.[melody!.id];
  const press = (key: string, more: KeyboardEventInit = {}): void => {
    view.press(view.by.getByRole('listbox'), key, more);
  };
  /** Rows come and go a picture later than what they show. */
  const options = (count: number): Promise<string[]> =>
    waitFor(() => {
      view.fixture.detectChanges();
      const found = view.by.getAllByRole('option').map((option) => option.getAttribute('aria-label')!);
      expect(found).toHaveLength(count);
      return found;
    });
  return { view, playback, drafting, shelf, notices, heard, press, options };
}

/** Does something of the menu beside the verdict. */
function further(view: View<TakeList>, name: RegExp): void {
  view.click('button', 'Further for takes');
  const item = [...document.querySelectorAll<HTMLElement>('[role=menuitem]')].find((one) => name.test(one.textContent));
  view.act(() => item!.click());
}

describe('the takes of a line', () => {
  it('are listed in the order in which they came, the chosen one marked', async () => {
    const { view, options } = await list();
    const [said] = await options(2);
    expect(said).toMatch(/^Take 1 of 2, .*chosen$/);
    expect(view.by.getByRole('option', { selected: true }).id).toMatch(new RegExp(`^option-\\d+-${first}$`));
  });

  it('are heard with the arrows and chosen with Enter, as one step of undo; Enter again changes nothing', async () => {
    const { view, playback, heard, press } = await list();
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

  it('go back to the chosen one when it is heard again', async () => {
    const { heard, press } = await list();
    press('ArrowDown');
    press('ArrowUp');
    expect(heard()).toBeUndefined();
  });

  it('are judged by one key each, which moves on; the same verdict again takes it back', async () => {
    const { view, heard, press } = await list();
    press('y');
    expect(verdictOf(view.score, first!)).toBe('kept');
    expect(heard()).toBe(second);
    press('ArrowUp');
    press('y');
    expect(verdictOf(view.score, first!)).toBeNull();
    expect(heard()).toBeUndefined();
  });

  it('fold away when they are discarded, but for the one that sounds, and can be unfolded', async () => {
    const { view, options } = await list(remark(score, second!, { verdict: 'discarded' }));
    await options(1);
    further(view, /discarded/);
    await options(2);
    further(view, /discarded/);
    view.act(() => {
      view.store.dispatch(TakeActions.heard({ take: second!, section: verse!.id, line: melody!.id }));
    });
    await options(2);
  });

  it('are compared with the chosen one while C is held', async () => {
    const { view, heard, press } = await list();
    press('ArrowDown');
    press('c');
    expect(heard()).toBeUndefined();
    press('c', { repeat: true });
    view.act(() => fireEvent.keyUp(view.by.getByRole('listbox'), { key: 'c' }));
    expect(heard()).toBe(second);
  });

  it('give the focus to other lines with left and right, and draft more with D', async () => {
    const { view, drafting, press } = await list();
    press('d');
    expect(drafting.draftInFocus).toHaveBeenCalledTimes(1);
    press('ArrowRight');
    expect(view.session.line).toBe(score.parts[1]!.id);
    press('ArrowLeft');
    press('ArrowLeft');
    press('ArrowLeft');
    expect(view.session.line).toBe('harmony');
  });

  it('leave keys alone that are held with others, handled already, or pressed elsewhere', async () => {
    const { view, heard, press } = await list();
    press('ArrowDown', { ctrlKey: true });
    press('ArrowDown', { altKey: true });
    press('Enter', { shiftKey: true });
    const elsewhere = document.createElement('input');
    document.body.append(elsewhere);
    view.press(elsewhere, 'ArrowDown');
    expect(heard()).toBeUndefined();
  });

  it('become phrases of the writer’s own by what they are called', async () => {
    const { view, shelf, notices } = await list();
    further(view, /phrase/);
    expect(shelf.put).toHaveBeenCalledWith(
      'phrases',
      expect.objectContaining({ role: 'melody', name: `${melody!.name} of ${verse!.name}, take 1` }),
    );
    expect(notices.say).toHaveBeenCalledWith(expect.stringContaining('Saved among your phrases'));
  });

  it('choose through the desk, so that what follows chords does so in the same step', async () => {
    const { view, press } = await list();
    const desk = jest.spyOn(view.fixture.debugElement.injector.get(HarmonyDesk), 'choose');
    press('ArrowDown');
    press('Enter');
    expect(desk).toHaveBeenCalledWith(verse!.id, melody!.id, second);
  });
});
