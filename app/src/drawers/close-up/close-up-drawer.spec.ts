import { TestBed } from '@angular/core/testing';
import { dealPart, treatPart } from '@fendro/core/song/edit';
import { chosenId } from '@fendro/core/song/section';
import { HARMONY, type HarmonyTake, type PartTake } from '@fendro/core/song/schema';
import { FIRST } from '@fendro/core/treat/first-treatment';
import { CloseUpDesk } from '../../desks/close-up-desk';
import { CloseUpView } from '../../desks/close-up-view';
import { ClipDesk } from '../../desks/clip-desk';
import { ExpressionDesk } from '../../desks/expression-desk';
import { NotesDesk } from '../../desks/notes-desk';
import { TakeView } from '../../desks/take-view';
import { Touch } from '../../sound/touch';
import { SessionActions } from '../../store/session';
import { ScoreActions, SongActions } from '../../store/song.actions';
import { SMALL, viewOf } from '../../testing/view';
import { CloseUpDrawer } from './close-up-drawer';

const [melody] = SMALL.score.parts;
const drums = SMALL.score.parts.find(({ role }) => role === 'drums')!;

function opened(part = melody!.id) {
  const touch = { strike: jest.fn(() => Promise.resolve()) };
  const view = viewOf(CloseUpDrawer, {
    keys: true,
    providers: [{ provide: Touch, useValue: touch }],
    done: [SessionActions.lineFocused({ line: part }), SessionActions.drawerToggled({ drawer: 'close-up' })],
  });
  const notes = () =>
    (view.song.takes[chosenId(view.score.sections[0]!, part) ?? ''] as PartTake).notes
      .toSorted((a, b) => a.start - b.start || a.pitch - b.pitch)
      .map((note) => ({ ...note }));
  const surface = () => view.by.getByRole('application');
  const press = (key: string, more: KeyboardEventInit = {}): void => {
    view.press(surface(), key, more);
  };
  return { view, notes, press, touch, surface };
}

describe('the close-up', () => {
  it('goes from note to note by keys, and moves, stretches and deletes them as takes with parents', () => {
    const { view, notes, press, touch } = opened();
    const before = notes();
    press('ArrowRight');
    expect(touch.strike).toHaveBeenCalledWith(expect.objectContaining({ id: melody!.id }), [
      expect.objectContaining({ pitch: before[0]!.pitch }),
    ]);
    press('ArrowUp', { shiftKey: true });
    press('ArrowUp', { shiftKey: true });
    expect(notes().find(({ id }) => id === before[0]!.id)!.pitch).toBe(before[0]!.pitch + 2);
    // Two steps of one kind are one step of undo and one take.
    expect(view.song.past.map(({ name }) => name)).toEqual(['move notes by semitones']);
    expect(Object.keys(view.song.takes)).toHaveLength(Object.keys(SMALL.takes).length + 1);
    press('ArrowRight', { altKey: true, shiftKey: true });
    press('Delete');
    expect(notes()).toHaveLength(before.length - 1);
    for (const step of ['delete a note', 'make notes longer', 'move notes by semitones']) {
      expect(view.song.past.at(-1)!.name).toBe(step);
      view.act(() => {
        view.store.dispatch(SongActions.undone());
      });
    }
    expect(notes()).toEqual(before);
  });

  it('says what becomes of its notes before they sound', () => {
    const { view } = opened();
    const bass = view.score.parts.find(({ role }) => role === 'bass')!;
    expect(view.by.getByText('Melody, take 1')).toBeTruthy();
    const treated = treatPart(view.score, melody!.id, [[FIRST.octave]]);
    const score = dealPart(treated, melody!.id, { way: 'up', to: [bass.id] });
    view.act(() => {
      view.store.dispatch(ScoreActions.revised({ name: 'deal', score, takes: [], released: [] }));
    });
    expect(view.by.getByText('Melody, take 1, before it is treated and dealt out')).toBeTruthy();
  });

  it('makes no take of an edit that comes to nothing', () => {
    const { view, press } = opened();
    press('ArrowRight');
    view.act(() => {
      TestBed.inject(CloseUpDesk).commit({ name: 'nothing' }, (notes) => notes.map((note) => ({ ...note })));
    });
    expect(view.song.past).toEqual([]);
  });

  it('goes on meaning the same notes after undo and redo', () => {
    const { view, press } = opened();
    press('ArrowRight');
    press('ArrowUp');
    const ids = TestBed.inject(NotesDesk).ids();
    view.act(() => {
      view.store.dispatch(SongActions.undone());
    });
    expect(TestBed.inject(NotesDesk).ids()).toEqual(ids);
    view.act(() => {
      view.store.dispatch(SongActions.redone());
    });
    expect(TestBed.inject(NotesDesk).ids()).toEqual(ids);
  });

  it('takes a tune by keys: a note after the last, moved by steps', () => {
    const { notes, press } = opened();
    press('a', { ctrlKey: true });
    press('Delete');
    expect(notes()).toEqual([]);
    press('Enter');
    press('Enter');
    press('ArrowUp');
    press('Enter');
    press('ArrowDown');
    const [one, two, three] = notes();
    expect([two!.start, three!.start]).toEqual([one!.start + one!.duration, two!.start + two!.duration]);
    expect(two!.pitch).toBeGreaterThan(one!.pitch);
    expect(three!.pitch).toBe(one!.pitch);
  });

  it('copies notes into another bar, fitted to its chords, and into no drums', () => {
    const { view, notes, press } = opened();
    press('b', { altKey: true });
    const picked = TestBed.inject(NotesDesk).ids().length;
    expect(picked).toBeGreaterThan(0);
    press('c', { ctrlKey: true });
    view.act(() => {
      view.store.dispatch(SessionActions.cursorMoved({ bar: 1 }));
    });
    press('v', { ctrlKey: true });
    const starts = (bar: number) =>
      notes()
        .filter(({ start }) => start >= bar * 1920 && start < (bar + 1) * 1920)
        .map(({ start }) => start - bar * 1920);
    for (const start of starts(0)) expect(starts(1)).toContain(start);
    view.act(() => {
      view.store.dispatch(SessionActions.lineFocused({ line: drums.id }));
    });
    const before = view.score;
    view.act(() => {
      TestBed.inject(ClipDesk).paste(true);
    });
    expect(view.score).toBe(before);
  });

  it('gives chances, strokes and expression, and says them in its fields', () => {
    const { view, notes, press } = opened();
    press('ArrowRight');
    press('c', { altKey: true, shiftKey: true });
    press('c', { altKey: true, shiftKey: true });
    press('s', { altKey: true });
    view.act(() => {
      TestBed.inject(ExpressionDesk).give('scoop into');
    });
    const [first] = notes();
    expect(first).toMatchObject({ chance: 80, strikes: 2, bend: [{ at: 0, value: -200 }, { value: 0 }] });
    expect(view.by.getByRole<HTMLSelectElement>('combobox', { name: 'Under the notes' }).value).toBe('bend');
    view.set('combobox', 'Under the notes', 'chance');
    expect(view.by.getByRole<HTMLInputElement>('spinbutton', { name: /Chance of the picked/ }).value).toBe('80');
    press('0', { altKey: true });
    expect(notes()[0]!.bend).toBeUndefined();
  });

  it('folds steps on the way in the list of takes', () => {
    const { press } = opened();
    const listed = () => TestBed.inject(TakeView).shown().length;
    const before = listed();
    press('ArrowRight');
    press('ArrowUp');
    press('ArrowRight', { altKey: true });
    press('+');
    expect(listed()).toBe(before + 1);
  });

  it('shows drums by name, without what bends, and other drums behind them only', () => {
    const { view } = opened(drums.id);
    expect(view.page.querySelector('.names')!.textContent).toContain('kick');
    expect(view.by.queryByRole('button', { name: 'Express' })).toBeNull();
    const strips = view.by.getByRole<HTMLSelectElement>('combobox', { name: 'Under the notes' });
    expect([...strips.options].map(({ text }) => text)).toEqual(['loudness', 'chance']);
  });

  it('moves single notes of chords, keeps them with their chord, and lets it strike in its rhythm again', () => {
    const { view, press } = opened(HARMONY);
    const section = () => view.score.sections[0]!;
    const chords = () => (view.song.takes[section().harmony!] as HarmonyTake).chords;
    const before = chords();
    press('ArrowRight');
    press('ArrowUp', { shiftKey: true });
    press('ArrowUp', { shiftKey: true });
    expect(view.song.past).toHaveLength(1);
    const notes = chords()[0]!.voicing!.notes!;
    const [low] = TestBed.inject(NotesDesk).ids();
    expect(low).toBeDefined();
    expect(notes.length).toBeGreaterThan(2);
    press('Delete');
    expect(chords()[0]!.voicing!.notes).toHaveLength(notes.length - 1);
    expect(chords().slice(1)).toEqual(before.slice(1));
    view.click('button', 'In their rhythm again');
    expect(chords().map(({ chord, voicing }) => [chord, voicing?.notes])).toEqual(
      before.map(({ chord }) => [chord, undefined]),
    );
    for (let step = 0; step < 3; step++)
      view.act(() => {
        view.store.dispatch(SongActions.undone());
      });
    expect(chords()).toEqual(before);
  });

  it('goes closer and along, and back to the whole in another section', () => {
    const { view, press } = opened();
    const shown = TestBed.inject(CloseUpView);
    const whole = shown.stretch();
    press('+', { altKey: true });
    expect(shown.stretch().to - shown.stretch().from).toBeLessThan(whole.to - whole.from);
    shown.pan(-100_000);
    expect(shown.stretch().from).toBe(whole.from);
    view.act(() => {
      view.store.dispatch(SessionActions.occurrenceViewed({ occurrence: view.score.order[1]!.id }));
    });
    expect(shown.stretch()).toEqual(shown.whole());
  });
});
