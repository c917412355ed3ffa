import { TestBed } from '@angular/core/testing';
import { provideEffects } from '@ngrx/effects';
import { fireEvent, within } from '@testing-library/dom';
import { chosenId } from '@fendro/core/song/section';
import type { Note, PartTake } from '@fendro/core/song/schema';
import { writtenNotes } from '@fendro/core/sounding/written';
import { CatchDesk } from '../../desks/catch-desk';
import { DealDesk } from '../../desks/deal-desk';
import { LogbookDesk } from '../../desks/logbook-desk';
import { logPasses, logWhatSounds } from '../../store/effects';
import { selectMusic } from '../../store/selectors';
import { SessionActions } from '../../store/session';
import { SongActions } from '../../store/song.actions';
import { SMALL, viewOf } from '../../testing/view';
import { TreatmentSentence } from '../treatments/treatment-sentence';

const partOf = (role: string) => SMALL.score.parts.find((part) => part.role === role)!;
const [melody, bass] = [partOf('melody'), partOf('bass')];
const guitar = SMALL.score.parts[1]!;
const [verse] = SMALL.score.sections;

async function opened() {
  TestBed.resetTestingModule();
  const view = viewOf(TreatmentSentence, {
    keys: true,
    effects: [provideEffects({ logWhatSounds, logPasses })],
    done: [SessionActions.lineFocused({ line: melody.id })],
  });
  const desk = TestBed.inject(DealDesk);
  view.press(document.body, 'G', { shiftKey: true });
  await view.fixture.whenStable();
  view.fixture.detectChanges();
  const deal = () => view.score.parts.find(({ id }) => id === melody.id)!.deals;
  const heard = (part: string, pass = 0): readonly Note[] => {
    const music = view.store.selectSignal(selectMusic)()!;
    return writtenNotes(music, music.score.sections[0]!, part, pass);
  };
  const focus = (line: string): void => {
    view.act(() => {
      view.store.dispatch(SessionActions.lineFocused({ line }));
    });
  };
  const told = (notes: readonly Note[]) => notes.map(({ start, pitch }) => `${start} ${pitch}`).sort();
  const line = () => heard(melody.id);
  const take = (part: string): PartTake => view.song.takes[chosenId(view.score.sections[0]!, part)!] as PartTake;
  return { view, desk, deal, heard, focus, told, line, take };
}

describe('dealing', () => {
  it('gives a line to the parts that are chosen, in their order, and says so in the sentence', async () => {
    const { view, deal, heard, told, line } = await opened();
    const whole = line();
    const [own, beside] = [heard(guitar.id), heard(bass.id)];
    view.click('checkbox', guitar.name);
    expect(deal()).toEqual({ way: 'in turn', to: [guitar.id] });
    expect(line()).toEqual([]);
    expect(heard(guitar.id).length).toBeGreaterThan(own.length);
    view.click('checkbox', `${melody.name} itself`);
    expect(deal()).toEqual({ way: 'in turn', to: [guitar.id, melody.id] });
    const word = view.by.getByRole('spinbutton', { name: 'Dealing' });
    expect(word.textContent).toBe(`dealt in turn to ${guitar.name} and ${melody.name} itself`);
    // Every second stroke stays.
    const starts = [...new Set(whole.map(({ start }) => start))];
    const kept = starts.filter((_, index) => index % 2 === 1);
    expect(told(line())).toEqual(told(whole.filter(({ start }) => kept.includes(start))));
    view.click('button', `${melody.name} itself earlier`);
    expect(deal()!.to).toEqual([melody.id, guitar.id]);
    view.click('button', `${melody.name} itself earlier`);
    expect(deal()!.to).toEqual([melody.id, guitar.id]);
    expect(heard(bass.id)).toBe(beside);
    view.click('checkbox', guitar.name);
    view.click('checkbox', `${melody.name} itself`);
    expect(deal()).toBeUndefined();
    expect(line()).toEqual(whole);
  });

  it('offers no drums to a melody, and steps, is struck out and taken away by keys', async () => {
    const { view, desk, deal, line, heard } = await opened();
    const whole = line();
    const names = within(view.by.getByRole('list', { name: 'Dealt to' })).getAllByRole('checkbox');
    expect(names).toHaveLength(SMALL.score.parts.filter(({ role }) => role !== 'drums').length);
    view.click('checkbox', guitar.name);
    view.click('checkbox', bass.name);
    view.set('combobox', 'How it is dealt', 'by height');
    expect(deal()!.way).toBe('by height');
    const word = view.by.getByRole('spinbutton', { name: 'Dealing' });
    view.act(() => [0, 1].forEach(() => fireEvent.keyDown(word, { key: 'ArrowUp' })));
    expect(deal()!.way).toBe('to all');
    view.press(word, 'Delete');
    expect(deal()!.off).toBe(true);
    expect(line()).toEqual(whole);
    expect(view.by.getByRole('spinbutton', { name: 'Dealing' }).getAttribute('aria-valuetext')).toMatch(/struck out$/);
    view.press(view.by.getByRole('spinbutton', { name: 'Dealing' }), 'Delete');
    expect(deal()).toEqual({ way: 'to all', to: [guitar.id, bass.id] });
    expect(heard(bass.id).length).toBeGreaterThan(0);
    view.press(view.by.getByRole('spinbutton', { name: 'Dealing' }), 'Delete', { shiftKey: true });
    expect([deal(), desk.open()]).toEqual([undefined, false]);
    view.act(() => {
      view.store.dispatch(SongActions.undone());
    });
    expect(deal()).toEqual({ way: 'to all', to: [guitar.id, bass.id] });
  });

  it('is told where a part is dealt to, and written into takes of all that play, which are dealt no further', async () => {
    const { view, desk, focus, heard, told, take } = await opened();
    view.click('checkbox', guitar.name);
    view.click('checkbox', `${melody.name} itself`);
    const before = [melody, guitar].map(({ id }) => told(heard(id)));
    focus(guitar.id);
    expect(view.by.getByText(`, with what ${melody.name} deals to it`)).toBeTruthy();
    expect(desk.open()).toBe(false);
    view.act(() => {
      TestBed.inject(CatchDesk).write();
    });
    expect([melody, guitar].map(({ id }) => told(heard(id)))).toEqual(before);
    for (const { id } of [melody, guitar]) {
      expect(take(id)).toMatchObject({ part: id, treated: true, dealt: true, origin: { how: 'caught' } });
      expect(told(take(id).notes)).toEqual(told(heard(id)));
    }
    expect(view.song.past.at(-1)!.name).toBe('write treatments into notes');
    // Undone in one step, it is dealt again.
    view.act(() => {
      view.store.dispatch(SongActions.undone());
    });
    expect(take(melody.id).dealt).toBeUndefined();
    expect([melody, guitar].map(({ id }) => told(heard(id)))).toEqual(before);
  });

  it('is caught as it sounded, a take for each part, from the last pass and from the logbook', async () => {
    const { view, heard, told } = await opened();
    view.click('checkbox', guitar.name);
    view.click('checkbox', bass.name);
    view.set('combobox', 'How it is dealt', 'by chance');
    const pass = [1, 2, 3, 4].find((which) => told(heard(bass.id, which)).join() !== told(heard(bass.id)).join())!;
    view.act(() => {
      view.store.dispatch(SessionActions.passBegun({ section: verse!.id, pass }));
    });
    const sounded = [guitar, bass].map(({ id }) => told(heard(id, pass)));
    view.act(() => {
      TestBed.inject(CatchDesk).catchLast();
    });
    const caught = Object.values(view.song.takes).filter(
      (take): take is PartTake => take.of === 'part' && take.dealt === true,
    );
    expect(caught.map(({ part }) => part)).toEqual([melody.id, guitar.id, bass.id]);
    expect(caught.slice(1).map(({ notes }) => told(notes))).toEqual(sounded);
    expect(caught[0]!.notes).toEqual([]);
    expect(caught.map(({ id }) => view.score.remarks[id]!.verdict)).toEqual(['kept', 'kept', 'kept']);
    const logbook = TestBed.inject(LogbookDesk);
    const entry = logbook.found().find((one) => one.pass === pass)!;
    expect(logbook.canCatch(entry)).toBe(true);
    view.act(() => {
      logbook.hear(entry);
    });
    // Whatever pass comes, that one sounds.
    expect([guitar, bass].map(({ id }) => told(heard(id, 0)))).toEqual(sounded);
    expect(heard(melody.id, 0)).toEqual([]);
    const count = Object.keys(view.song.takes).length;
    view.act(() => {
      logbook.catch(entry);
    });
    expect(Object.keys(view.song.takes)).toHaveLength(count);
  });
});
