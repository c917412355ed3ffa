import { Router } from '@angular/router';
import { fireEvent } from '@testing-library/dom';
import { signal } from '@angular/core';
import { styleOf } from '@fendro/core/styles/styles';
import { Library, type Result, type SongEntry } from '../desks/library';
import { SongFiles } from '../desks/song-files';
import { Notices } from '../store/notices';
import { Shelf } from '../store/shelf';
import { SMALL, viewOf } from '../testing/view';
import { Songs } from './songs';

const entry = (id: string, title: string): SongEntry => ({ id, title, changed: 1_700_000_000_000 }) as SongEntry;
const FINE: Result = { ok: true, remark: null };

async function songs(more: Partial<Record<keyof Library, unknown>> = {}) {
  const list = jest.fn(() => Promise.resolve([entry('a', 'Fog Log'), entry('b', 'Low Tide')]));
  const library = {
    list,
    start: jest.fn(() => Promise.resolve(FINE)),
    open: jest.fn(() => Promise.resolve(FINE)),
    duplicate: jest.fn(() => Promise.resolve(FINE)),
    rename: jest.fn(() => Promise.resolve(FINE)),
    remove: jest.fn(() => Promise.resolve({ ...FINE, gone: SMALL.song })),
    putBack: jest.fn(() => Promise.resolve()),
    ...more,
  };
  const files = { open: jest.fn(() => Promise.resolve({ ok: false, reason: 'this is not a Fendro song file.' })) };
  const notices = { say: jest.fn(), sayUntilRead: jest.fn() };
  const own = { ...styleOf('folk'), id: 'own-1', name: 'Harbour folk' };
  const view = viewOf(Songs, {
    providers: [
      { provide: Library, useValue: library },
      { provide: SongFiles, useValue: files },
      { provide: Notices, useValue: notices },
      { provide: Shelf, useValue: { contents: signal({ styles: [own] }) } },
    ],
  });
  const went = jest.spyOn(view.fixture.debugElement.injector.get(Router), 'navigateByUrl').mockResolvedValue(true);
  const settle = async (): Promise<void> => {
    // Whatever was promised is there once the page has had its turn.
    await new Promise((resolve) => setTimeout(resolve));
    await view.fixture.whenStable();
    view.fixture.detectChanges();
  };
  await settle();
  const row = (title: string): HTMLElement => view.by.getByRole('row', { name: new RegExp(title) });
  const inRow = async (title: string, button: RegExp): Promise<void> => {
    const found = [...row(title).querySelectorAll('button')].find((one) =>
      button.test(one.getAttribute('aria-label') ?? one.textContent),
    );
    view.act(() => fireEvent.click(found!));
    await settle();
  };
  return { view, library, files, list, notices, went, settle, row, inRow };
}

describe('the page of songs', () => {
  it('lists what is on this machine, and opens it', async () => {
    const { library, row, inRow, went } = await songs();
    expect(row('Low Tide')).toBeTruthy();
    await inRow('Low Tide', /^\s*Low Tide\s*$/);
    expect(library.open).toHaveBeenCalledWith('b');
    expect(went).toHaveBeenCalledWith('/');
  });

  it('says what is wrong with a song that does not open, and stays', async () => {
    const { notices, went, inRow } = await songs({
      open: () => Promise.resolve({ ok: false, reason: 'its score is missing', song: 'a' }),
    });
    await inRow('Fog Log', /^\s*Fog Log\s*$/);
    expect(notices.say).toHaveBeenCalledWith(
      expect.stringContaining('“Fog Log” could not be opened: its score is missing'),
      expect.objectContaining({ label: 'Save its stored data' }),
    );
    expect(went).not.toHaveBeenCalled();
  });

  it('shows what stands below the list once that is there, so that nothing moves under the pointer', async () => {
    let come: (songs: readonly SongEntry[]) => void = () => undefined;
    const list = (): Promise<readonly SongEntry[]> => new Promise((resolve) => (come = resolve));
    const { view, settle } = await songs({ list });
    const demo = (): HTMLElement | null => view.by.queryByRole('button', { name: 'Open the demo song anew' });
    expect(demo()).toBeNull();
    come([]);
    await settle();
    expect(demo()).toBeTruthy();
  });

  it('says so where the songs cannot be listed', async () => {
    const { view } = await songs({ list: () => Promise.reject(new Error('the database does not answer')) });
    expect(view.by.getByText(/cannot be listed: the database does not answer/)).toBeTruthy();
  });

  it('duplicates, deletes and puts back', async () => {
    const { library, list, notices, inRow } = await songs();
    await inRow('Fog Log', /Duplicate/);
    expect(library.duplicate).toHaveBeenCalledWith('a');
    await inRow('Fog Log', /Delete/);
    expect(library.remove).toHaveBeenCalledWith('a');
    const [said, action] = notices.say.mock.calls.at(-1) as [string, { label: string; run: () => void }];
    expect([said, action.label]).toEqual(['“Fog Log” was deleted.', 'Put it back']);
    action.run();
    expect(library.putBack).toHaveBeenCalledWith(SMALL.song);
    // The list is read anew after each.
    expect(list.mock.calls.length).toBeGreaterThanOrEqual(3);
  });

  it('tells what could not be done, and reads the list anew', async () => {
    const { list, notices, inRow } = await songs({ duplicate: () => Promise.reject(new Error('there is no room')) });
    await inRow('Fog Log', /Duplicate/);
    expect(notices.say).toHaveBeenCalledWith('“Fog Log” could not be duplicated: there is no room');
    expect(list).toHaveBeenCalledTimes(2);
  });

  it('starts a song on the ground that is set, in styles of the writer’s own too', async () => {
    const { view, library, went, settle } = await songs();
    view.set('textbox', 'Title', 'Sea Fret', 'input');
    view.find('Style', 'harbour');
    const folk = styleOf('folk');
    const tempo = view.by.getByRole<HTMLInputElement>('textbox', { name: /Tempo/ });
    expect(Number(tempo.value)).toBeGreaterThanOrEqual(folk.tempo.low);
    view.set('textbox', /Tempo/, '77');
    view.act(() => fireEvent.submit(tempo.form!));
    await settle();
    expect(library.start).toHaveBeenCalledWith(
      'Sea Fret',
      expect.objectContaining({ tempo: 77 }),
      expect.objectContaining({ id: 'own-1' }),
    );
    expect(went).toHaveBeenCalledWith('/');
  });

  it('starts nothing at a tempo that is none, and says why at its place', async () => {
    const { view, library, settle } = await songs();
    view.set('textbox', /Tempo/, '9999');
    expect(view.by.getByRole('alert').textContent).toMatch(/20 to 300/);
    view.act(() => fireEvent.submit(view.by.getByRole<HTMLInputElement>('textbox', { name: /Tempo/ }).form!));
    await settle();
    expect(library.start).not.toHaveBeenCalled();
  });

  it('says what is wrong with a file at its place', async () => {
    const { view, files, settle } = await songs();
    const file = new File(['Fog until noon.'], 'weather.txt');
    // The test's browser cannot read files.
    file.arrayBuffer = () => Promise.resolve(new ArrayBuffer(3));
    view.act(() => fireEvent.change(view.by.getByLabelText('Open a song file'), { target: { files: [file] } }));
    await settle();
    expect(files.open).toHaveBeenCalled();
    expect(view.by.getByRole('alert').textContent).toContain('weather.txt: this is not a Fendro song file.');
  });
});
