import { TestBed } from '@angular/core/testing';
import { fireEvent } from '@testing-library/dom';
import { briefMovers } from '@fendro/core/lean/brief-movers';
import { leant } from '@fendro/core/lean/moving';
import { LEANINGS } from '@fendro/core/lean/words';
import { partTake, soundingId } from '@fendro/core/song/resolve';
import { HARMONY, type Part } from '@fendro/core/song/schema';
import { instrumentOf } from '@fendro/core/sounding/instruments';
import { LeanDesk, type LeanTarget } from '../../desks/lean-desk';
import { PatternDesk } from '../../desks/pattern-desk';
import { selectHeard } from '../../store/selectors';
import { SessionActions } from '../../store/session';
import { Shelf } from '../../store/shelf';
import { SongActions } from '../../store/song.actions';
import { SMALL, viewOf } from '../../testing/view';
import { LeanPanel } from './lean-panel';
import { LeanWords } from './lean-words';

const melody = SMALL.score.parts.find(({ role }) => role === 'melody')!;
const word = (name: string) => LEANINGS.find((own) => own.name === name)!;

function opened<T extends typeof LeanPanel | typeof LeanWords>(component: T, of: LeanTarget) {
  TestBed.resetTestingModule();
  const view = viewOf<InstanceType<T>>(component as never, {
    keys: true,
    inputs: { of },
    done: [SessionActions.lineFocused({ line: melody.id })],
  });
  const desk = TestBed.inject(LeanDesk);
  const part = (): Part => view.score.parts.find(({ id }) => id === melody.id)!;
  const pattern = () => {
    const [section] = view.score.sections;
    return partTake(view.song.takes, soundingId(section!, melody.id, view.store.selectSignal(selectHeard)()))?.pattern;
  };
  const steps = () => view.song.past.map(({ name }) => name);
  return { view, desk, part, pattern, steps };
}

describe('leaning', () => {
  it('moves several settings of a brief by one word, in one step, and says which they were', () => {
    const { view, desk, part, steps } = opened(LeanPanel, 'brief');
    const before = part().brief;
    view.click('button', 'darker');
    const movers = briefMovers('melody', instrumentOf(melody.instrument));
    expect(part().brief).toEqual(leant(before, word('darker').moves, 1, movers));
    expect(part().brief.high).toBeLessThan(before.high);
    expect(part().brief.loudness).toBeLessThan(before.loudness);
    expect([...desk.moved()].sort()).toEqual(['length', 'loudness', 'register']);
    expect(desk.before()).toBeNull();
    expect(steps()).toEqual(['lean darker']);
    view.click('button', 'calmer');
    view.click('button', 'busier');
    expect(part().brief.busyness).toBe(before.busyness);
    // A brief has no pace: nothing would be moved.
    expect(view.by.getByRole<HTMLButtonElement>('button', { name: 'quicker' }).disabled).toBe(true);
  });

  it('goes on by itself, slowly or by chance, set exactly, struck out and taken away', () => {
    const { view, part, steps } = opened(LeanPanel, 'brief');
    const { brief } = part();
    view.click('radio', 'Slowly');
    view.click('button', 'busier');
    expect(part().brief.leans).toEqual([
      { goes: 'slowly', name: 'busier', moves: word('busier').moves, bars: 8, then: 'stays' },
    ]);
    view.set('combobox', 'Over', '4');
    view.set('combobox', 'Then it', 'comes back');
    expect(view.by.getByRole('group', { name: 'busier over 4 bars and back' })).toBeTruthy();
    view.click('radio', 'By chance');
    view.click('button', 'softer');
    view.set('combobox', 'How often', '30');
    expect(part().brief.leans!.map(({ name, bars, goes }) => [name, bars, goes])).toEqual([
      ['busier', 4, 'slowly'],
      ['softer', 2, 'by chance'],
    ]);
    expect(part().brief.leans![1]).toMatchObject({ chance: 30 });
    view.act(() => fireEvent.click(view.by.getAllByRole('button', { name: 'Strike out' })[0]!));
    expect(part().brief.leans![0]!.off).toBe(true);
    view.click('button', 'Let it work again');
    expect(part().brief.leans![0]).not.toHaveProperty('off');
    for (const _ of [0, 1]) view.act(() => fireEvent.click(view.by.getAllByRole('button', { name: 'Take away' })[0]!));
    expect(part().brief).toEqual(brief);
    expect(steps().slice(-2)).toEqual(['take a leaning away', 'take a leaning away']);
    view.act(() => {
      view.store.dispatch(SongActions.undone());
    });
    expect(part().brief.leans).toHaveLength(1);
  });

  it('has room for so many at once, and offers none that would do nothing', () => {
    const { view, part } = opened(LeanPanel, 'brief');
    view.click('radio', 'Slowly');
    for (const name of ['busier', 'bolder', 'smoother', 'softer']) view.click('button', name);
    expect(part().brief.leans).toHaveLength(4);
    expect(view.by.getByText('4 at once are the most: take one away first.')).toBeTruthy();
    expect(view.by.getByRole<HTMLButtonElement>('button', { name: 'calmer' }).disabled).toBe(true);
  });

  it('steps by keys, and loses none that comes before the page was drawn', () => {
    const { view, desk, part, steps } = opened(LeanWords, 'brief');
    view.act(() => {
      desk.lean('brief', word('busier'), 'slowly');
      desk.lean('brief', word('darker'), 'by chance');
    });
    const words = () => view.by.getAllByRole('spinbutton');
    expect(words().map((own) => own.textContent)).toEqual([
      'busier over 8 bars',
      'darker by chance, every 2 bars in 50 %',
    ]);
    const [first, second] = words();
    view.act(() => [0, 1].forEach(() => fireEvent.keyDown(first!, { key: 'ArrowUp' })));
    view.act(() => [0, 1, 2].forEach(() => fireEvent.keyDown(second!, { key: 'ArrowDown' })));
    expect(part().brief.leans).toMatchObject([{ bars: 16 }, { chance: 35 }]);
    // Keys of one kind are one step.
    expect(steps().filter((name) => name === 'set a leaning')).toHaveLength(2);
    view.press(words()[0]!, 'Delete');
    expect(words()[0]!.getAttribute('aria-valuetext')).toBe('busier over 16 bars, struck out');
    view.press(words()[0]!, 'Delete', { shiftKey: true });
    expect(part().brief.leans).toHaveLength(1);
  });

  it('leans a pattern as well, by hand and by itself, and takes what was drawn along', () => {
    const { view, desk, part, pattern } = opened(LeanPanel, 'pattern');
    view.act(() => {
      TestBed.inject(PatternDesk).begin('drawn');
    });
    expect(desk.target()).toBe('pattern');
    const { brief } = part();
    const before = pattern()!;
    view.click('button', 'quicker');
    expect(pattern()).toMatchObject({ of: 'drawn', rate: before.of === 'drawn' ? before.rate / 2 : 0 });
    expect([desk.before(), desk.moved().size]).toEqual([before, 0]);
    view.click('radio', 'By chance');
    view.click('button', 'softer');
    expect(pattern()!.leans).toMatchObject([{ name: 'softer', goes: 'by chance', bars: 2, chance: 50 }]);
    view.set('combobox', 'How often', '0');
    view.set('combobox', 'Decided anew every', '1');
    expect(pattern()!.leans).toMatchObject([{ bars: 1, chance: 0 }]);
    view.click('button', 'Take away');
    expect(pattern()).not.toHaveProperty('leans');
    expect(part().brief).toEqual(brief);
  });

  it('leans what the chords are asked for, at once', () => {
    const { view, desk, steps } = opened(LeanPanel, 'chords');
    view.act(() => {
      view.store.dispatch(SessionActions.lineFocused({ line: HARMONY }));
    });
    expect(desk.target()).toBe('chords');
    const brief = () => view.score.sections[0]!.harmonyBrief;
    const before = brief();
    view.click('button', 'bolder');
    expect(brief().adventure).toBe(before.adventure + 30);
    expect([...desk.moved()]).toEqual(expect.arrayContaining(['adventure', 'colouring']));
    expect(steps()).toEqual(['lean bolder']);
    expect(view.by.queryByRole('radio', { name: 'Slowly' })).toBeNull();
    expect(view.by.getByRole<HTMLButtonElement>('button', { name: 'darker' }).disabled).toBe(true);
  });

  it('knows words of the writer’s own, made of any settings and kept on the shelf', () => {
    const { view, part } = opened(LeanPanel, 'brief');
    view.click('button', 'A word of your own …');
    view.set('combobox', 'Breath', '3');
    view.set('combobox', 'Recall', '-2');
    const before = part().brief;
    view.click('button', 'Lean by it now');
    expect(part().brief).toMatchObject({
      breath: Math.min(100, before.breath + 45),
      recall: Math.max(0, before.recall - 30),
    });
    view.click('button', /^Save to the shelf/);
    view.set('textbox', 'Name of the leaning', 'airier');
    view.act(() =>
      fireEvent.submit(view.by.getByRole<HTMLInputElement>('textbox', { name: 'Name of the leaning' }).form!),
    );
    expect(TestBed.inject(Shelf).contents().leanings).toMatchObject([
      {
        name: 'airier',
        moves: expect.arrayContaining([
          { setting: 'breath', by: 3 },
          { setting: 'recall', by: -2 },
        ]) as unknown,
      },
    ]);
    view.click('radio', 'Slowly');
    view.click('button', 'airier');
    expect(part().brief.leans).toMatchObject([{ name: 'airier' }]);
    view.click('button', 'Remove airier from the shelf');
    expect(view.by.queryByRole('button', { name: 'airier' })).toBeNull();
    // What is at work has its moves with it.
    expect(part().brief.leans).toHaveLength(1);
  });
});
