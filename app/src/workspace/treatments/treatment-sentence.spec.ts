import { TestBed } from '@angular/core/testing';
import { provideEffects } from '@ngrx/effects';
import { fireEvent } from '@testing-library/dom';
import { soundingId, partTake } from '@fendro/core/song/resolve';
import { chosenId } from '@fendro/core/song/section';
import type { PartTake } from '@fendro/core/song/schema';
import { writtenNotes } from '@fendro/core/sounding/written';
import { sounds } from '@fendro/core/sounding/strokes';
import { FIRST } from '@fendro/core/treat/first-treatment';
import { CatchDesk } from '../../desks/catch-desk';
import { LogbookDesk } from '../../desks/logbook-desk';
import { TakeEdits } from '../../desks/take-edits';
import { TreatDesk } from '../../desks/treat-desk';
import { logPasses, logWhatSounds } from '../../store/effects';
import { selectHeard, selectMusic } from '../../store/selectors';
import { SessionActions } from '../../store/session';
import { Shelf } from '../../store/shelf';
import { SongActions } from '../../store/song.actions';
import { SMALL, viewOf, type View } from '../../testing/view';
import { TreatmentSentence } from './treatment-sentence';

const melody = SMALL.score.parts.find(({ role }) => role === 'melody')!;
const [verse] = SMALL.score.sections;

function opened() {
  TestBed.resetTestingModule();
  const view = viewOf(TreatmentSentence, {
    keys: true,
    effects: [provideEffects({ logWhatSounds, logPasses })],
    done: [SessionActions.lineFocused({ line: melody.id })],
  });
  const desk = TestBed.inject(TreatDesk);
  const add = (does: keyof typeof FIRST, meanwhile = false): void => {
    view.act(() => {
      desk.add(does, meanwhile);
    });
  };
  const words = () => view.by.getAllByRole('spinbutton');
  const said = (): string =>
    view.by.getByText('Sounds as written').parentElement!.textContent.replace(/\s+/g, ' ').trim();
  const chain = () => view.score.parts.find(({ id }) => id === melody.id)!.treatments;
  const heard = () => {
    const music = view.store.selectSignal(selectMusic)()!;
    return writtenNotes(music, music.score.sections[0]!, melody.id);
  };
  const take = (): PartTake => {
    const [section] = view.score.sections;
    return partTake(view.song.takes, soundingId(section!, melody.id, view.store.selectSignal(selectHeard)()))!;
  };
  const steps = () => view.song.past.map(({ name }) => name);
  return { view, desk, add, words, said, chain, heard, take, steps };
}

/** What is exact is loaded when it is asked for. */
async function loaded({ fixture }: View<TreatmentSentence>): Promise<void> {
  await fixture.whenStable();
  fixture.detectChanges();
}

describe('treatments of a part', () => {
  it('read as a sentence, with branches that sound meanwhile', () => {
    const { add, said, chain, heard } = opened();
    expect(said()).toBe('Sounds as written.Treat');
    const before = heard();
    add('octave');
    expect(heard().map(({ pitch }) => pitch)).toEqual(before.map(({ pitch }) => pitch + 12));
    add('strum');
    add('transpose', true);
    add('thin');
    expect(said()).toBe(
      'Sounds as written, an octave up, then strummed; meanwhile a fifth up, then thinned to 70 %.Treat',
    );
    expect(chain()).toEqual([
      [FIRST.octave, FIRST.strum],
      [FIRST.transpose, FIRST.thin],
    ]);
    expect(heard().length).toBeGreaterThan(before.length);
  });

  it('step, are struck out and taken away by keys; keys held down are one step, and none is lost', () => {
    const { view, add, words, said, chain, steps, heard } = opened();
    const before = heard();
    add('transpose');
    const [word] = words();
    view.act(() => [0, 1, 2].forEach(() => fireEvent.keyDown(word!, { key: 'ArrowUp' })));
    expect(chain()).toEqual([[{ does: 'transpose', by: 10 }]]);
    expect(word!.getAttribute('aria-valuetext')).toBe('a minor seventh up');
    expect(steps()).toEqual(['treat a part', 'set a treatment']);
    view.press(word!, 'Delete');
    expect(chain()).toEqual([[{ does: 'transpose', by: 10, off: true }]]);
    expect(words()[0]!.getAttribute('aria-valuetext')).toBe('a minor seventh up, struck out');
    expect(heard()).toBe(before);
    view.press(words()[0]!, 'Backspace');
    expect(chain()).toEqual([[{ does: 'transpose', by: 10 }]]);
    view.press(words()[0]!, 'Delete', { shiftKey: true });
    expect(chain()).toBeUndefined();
    expect(said()).toBe('Sounds as written.Treat');
    view.act(() => {
      view.store.dispatch(SongActions.undone());
    });
    expect(words()).toHaveLength(1);
  });

  it('move by keys and by the pointer, from branch to branch, without being lost', () => {
    const { view, desk, add, words, said, chain } = opened();
    add('octave');
    add('echo');
    add('reverse', true);
    view.press(words()[0]!, 'ArrowRight', { shiftKey: true });
    expect(chain()).toEqual([[FIRST.echo, FIRST.octave], [FIRST.reverse]]);
    view.press(words()[1]!, 'ArrowRight', { shiftKey: true });
    expect(chain()).toEqual([[FIRST.echo], [FIRST.octave, FIRST.reverse]]);
    view.act(() => {
      desk.drag(0, 2);
    });
    expect(chain()).toEqual([[], [FIRST.octave, FIRST.reverse, FIRST.echo]]);
    expect(said()).toBe(
      'Sounds as written; meanwhile an octave up, then backwards, then echoed twice, a dotted eighth apart.Treat',
    );
  });

  it('open all their settings, for some notes only too', async () => {
    const { view, add, words, chain, heard } = opened();
    const before = heard();
    add('octave');
    view.press(words()[0]!, 'Enter');
    await loaded(view);
    view.set('combobox', 'Octaves', '-1');
    view.set('combobox', 'For', 'pitch');
    view.set('combobox', 'From', '67');
    expect(chain()).toEqual([[{ does: 'octave', by: -1, only: { by: 'pitch', low: 67, high: 127 } }]]);
    const pitches = before.map(({ pitch }) => (pitch >= 67 ? pitch - 12 : pitch)).sort();
    expect(
      heard()
        .map(({ pitch }) => pitch)
        .sort(),
    ).toEqual(pitches);
    expect(words()[0]!.textContent).toBe('an octave down, for notes from G4 to G9 only');
    view.click('button', 'Strike out');
    expect(heard()).toBe(before);
    view.click('button', 'Take away');
    expect(chain()).toBeUndefined();
  });

  it('are offered in a list, of which each is heard at once, until there is no more room', async () => {
    const { view, chain } = opened();
    view.click('button', 'Treat');
    await loaded(view);
    const echo = view.by.getByRole<HTMLButtonElement>('button', { name: 'Echo' });
    expect(echo.disabled).toBe(false);
    view.click('button', 'Echo');
    view.click('radio', 'Meanwhile');
    for (const name of ['Backwards', 'Strum', 'Arpeggio']) view.click('button', name);
    expect(chain()).toEqual([[FIRST.echo], [FIRST.reverse], [FIRST.strum], [FIRST.arpeggiate]]);
    expect(view.by.getByText('At most 4 sound together.')).toBeTruthy();
    expect(echo.disabled).toBe(true);
  });

  it('are saved to the shelf as one, and taken from there and from other parts', async () => {
    const { view, desk, add, chain } = opened();
    add('octave');
    add('echo', true);
    const whole = chain();
    view.click('button', 'Treat');
    await loaded(view);
    view.click('button', /^Save to the shelf/);
    const name = view.by.getByRole<HTMLInputElement>('textbox', { name: 'Name of the treatments' });
    expect(name.value).toBe('an octave up');
    view.set('textbox', 'Name of the treatments', 'High echo');
    view.act(() => fireEvent.submit(name.form!));
    expect(TestBed.inject(Shelf).contents().chains).toMatchObject([{ name: 'High echo', chain: whole }]);
    view.act(() => {
      view.store.dispatch(
        SessionActions.lineFocused({ line: SMALL.score.parts.find(({ role }) => role === 'bass')!.id }),
      );
    });
    expect(desk.any()).toBe(false);
    view.set('combobox', 'Take treatments of', melody.id);
    expect(desk.chain()).toEqual(whole);
    view.act(() => {
      desk.strikeAll();
    });
    view.set('combobox', 'Take treatments of', TestBed.inject(Shelf).contents().chains[0]!.id);
    expect(desk.chain()).toEqual(whole);
    view.click('button', 'Remove High echo from the shelf');
    expect(TestBed.inject(Shelf).contents().chains).toEqual([]);
  });

  it('are struck out and let work again all at once', () => {
    const { view, desk, add, heard, steps } = opened();
    const before = heard();
    add('octave');
    add('reverse', true);
    const treated = heard();
    view.act(() => {
      desk.strikeAll();
    });
    // Two branches as they are written sound as one.
    expect(heard()).toEqual([...before]);
    view.act(() => {
      desk.strikeAll();
    });
    expect(heard()).toEqual(treated);
    expect(steps().slice(-2)).toEqual(['strike treatments out', 'let treatments work']);
  });

  it('are caught with what chance left of the notes that they made', () => {
    const { view, add, heard } = opened();
    view.act(() => {
      TestBed.inject(TakeEdits).edit({ name: 'leave to chance' }, (notes) => ({
        notes: notes.map((note) => ({ ...note, chance: 50 })),
        picked: new Set(),
      }));
    });
    add('echo');
    view.act(() => {
      TestBed.inject(CatchDesk).catchLast();
    });
    const caught = Object.values(view.song.takes).at(-1) as PartTake;
    const sounding = heard().filter((note) => sounds(note, melody.id, 0));
    expect(sounding.length).toBeLessThan(heard().length);
    expect(caught.notes.map(({ start, pitch }) => [start, pitch])).toEqual(
      sounding.map(({ start, pitch }) => [start, pitch]),
    );
  });

  it('are written down in the logbook pass by pass where chance has a hand in them, and caught from there', () => {
    const { view, add, heard, take } = opened();
    const pass = (which: number): void => {
      view.act(() => {
        view.store.dispatch(SessionActions.passBegun({ section: verse!.id, pass: which }));
      });
    };
    add('octave');
    pass(1);
    expect(view.song.heard.some((line) => line.pass !== undefined)).toBe(false);
    add('thin');
    const first = heard();
    for (const which of [1, 2]) pass(which);
    const log = TestBed.inject(LogbookDesk);
    const [, entry] = log.found().filter((line) => log.canCatch(line));
    expect(entry!.pass).toBe(1);
    view.act(() => {
      log.hear(entry!);
    });
    expect(take()).toMatchObject({ treated: true, origin: { from: 'pass 2' } });
    expect(heard()).not.toEqual(first);
  });

  it('are written into notes on request, and caught with what sounded: both sound the same then', () => {
    const { view, add, heard, take } = opened();
    const [before, source] = [heard(), take()];
    add('octave');
    add('thin');
    const sounded = heard();
    view.act(() => {
      TestBed.inject(CatchDesk).write();
    });
    expect(take().treated).toBe(true);
    expect(take().id).toBe(chosenId(view.score.sections[0]!, melody.id));
    expect(heard().map(({ start, pitch }) => [start, pitch])).toEqual(
      sounded.map(({ start, pitch }) => [start, pitch]),
    );
    view.act(() => {
      view.store.dispatch(SongActions.undone());
    });
    expect(take()).toBe(source);
    view.act(() => {
      view.store.dispatch(SessionActions.passBegun({ section: verse!.id, pass: 3 }));
    });
    view.act(() => {
      TestBed.inject(CatchDesk).catchLast();
    });
    const caught = Object.values(view.song.takes).at(-1) as PartTake;
    expect(caught).toMatchObject({ treated: true, origin: { how: 'caught', from: 'pass 4' } });
    expect(caught.notes.length).toBeLessThan(before.length);
    // What the close-up shows and edits is what the treatments start from.
    expect(TestBed.inject(TakeEdits).notes()).toHaveLength(source.notes.length);
  });
});
