import { ApplicationRef } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { within } from '@testing-library/dom';
import { Store } from '@ngrx/store';
import { chartText } from '@fendro/core/files/outgoing/chart-text';
import { chosenMusic } from '@fendro/core/files/outgoing/hand-over';
import { printedSheet } from '@fendro/core/files/outgoing/printed-sheet';
import { chordChart } from '@fendro/core/notation/chord-chart';
import type { PartTake, Score } from '@fendro/core/song/schema';
import { editedTake } from '@fendro/core/song/take';
import { scoreWith } from '@fendro/core/testing/scores';
import { musicOf, storedSong } from '@fendro/core/testing/sounding';
import { SongFiles } from '../../desks/song-files';
import { SessionActions } from '../../store/session';
import { SongActions } from '../../store/song.actions';
import { downloads } from '../../ui/download.mock';
import { provideIcons } from '../../ui/icons';
import { Guide } from '../../desks/guide';
import { Deliver } from './deliver';
import { chosenId, withChoice } from '@fendro/core/song/section';
import { provideSong } from '../../store/provide-song';

const { score, takes } = scoreWith(1, 0);
const melody = score.parts[0]!;
const verse = score.sections[0]!;

async function shown(of: Score, more: Record<string, PartTake> = {}): Promise<HTMLElement> {
  TestBed.configureTestingModule({
    providers: [
      provideSong(),
      provideRouter([]),
      provideIcons(),
      { provide: SongFiles, useValue: { write: () => Promise.resolve('{}') } },
      { provide: Guide, useValue: { finish: () => undefined } },
    ],
  });
  TestBed.inject(Store).dispatch(SongActions.opened({ song: storedSong(musicOf(of, { ...takes, ...more })) }));
  const fixture = TestBed.createComponent(Deliver);
  await fixture.whenStable();
  return fixture.nativeElement as HTMLElement;
}

const texts = (page: HTMLElement, selector: string): string[] =>
  [...page.querySelectorAll(selector)].map((element) => element.textContent.trim().replace(/\s+/g, ' '));

describe('the Deliver page', () => {
  it('lists the song, its lines, its chords and its sections, and says nothing where nothing surprises', async () => {
    const page = await shown(score);
    expect(texts(page, 'tbody td:first-child')).toEqual([
      'The song, a track for each part',
      'The song in one track',
      ...score.parts.map(({ name }) => `${name} alone`),
      'The chords, as voiced and struck',
      ...score.sections.map(({ name }) => `${name}, all parts`),
    ]);
    expect(texts(page, 'p.quiet')).toEqual([]);
  });

  it('leaves out what is quiet, and says so', async () => {
    const page = await shown({ ...score, parts: score.parts.map((part) => ({ ...part, muted: part === melody })) });
    expect(texts(page, 'p.quiet')).toEqual([`Left out because quiet: ${melody.name}.`]);
    expect(texts(page, 'tbody td:first-child')).not.toContain(`${melody.name} alone`);
  });

  it('says once of the song what holds of it, and of a section what holds of that alone', async () => {
    const led = editedTake('led', takes[chosenId(score.sections[1]!, melody.id)!] as PartTake, [
      { start: -480, duration: 400, pitch: 70, velocity: 80 },
    ]);
    const chorus = withChoice(score.sections[1]!, melody.id, 'led');
    const page = await shown({ ...score, sections: [verse, chorus] }, { led });
    expect(texts(page, 'p.quiet')).toEqual([]);
    expect(texts(page, '.remark')).toEqual(['A bar stands before bar 1, since the music begins with a pick-up.']);
    TestBed.resetTestingModule();
    const first = withChoice(verse, melody.id, 'led');
    const begun = await shown({ ...score, sections: [first, score.sections[1]!] }, { led });
    expect(texts(begun, 'p.quiet')).toEqual(['A bar stands before bar 1, since the music begins with a pick-up.']);
    expect(texts(begun, '.remark')).toEqual([]);
  });

  it('offers no file of one track for more pitches than a port has channels, and names the further port', async () => {
    const lines = Array.from({ length: 12 }, (_, index) => ({ ...melody, id: `more-${index}`, name: `Line ${index}` }));
    const page = await shown({ ...score, parts: [...score.parts, ...lines] });
    expect(texts(page, 'tbody td:first-child')).not.toContain('The song in one track');
    const [port, track] = texts(page, 'p.quiet');
    expect(port).toContain('On a further MIDI port');
    expect(track).toContain('One track has 15 channels for pitches, and 16 pitched lines sound');
  });
});

describe('what went out before', () => {
  const zip = jest.fn();

  beforeEach(() => {
    localStorage.clear();
    zip.mockClear();
    jest.spyOn(downloads, 'download').mockImplementation((name) => void zip(name));
  });
  afterEach(() => {
    jest.restoreAllMocks();
  });

  it('need not go again: only what changed does, and nothing where nothing did', async () => {
    const page = await shown(score);
    const button = (name: string | RegExp) => within(page).getByRole<HTMLButtonElement>('button', { name });
    const settled = async (): Promise<void> => {
      for (let turns = 0; turns < 5; turns++) await TestBed.inject(ApplicationRef).whenStable();
    };
    expect(within(page).queryByRole('button', { name: /^Only what changed/ })).toBeNull();
    button('Everything in one zip').click();
    await settled();
    expect(zip).toHaveBeenLastCalledWith(`${score.title}.zip`);
    expect(button('Only what changed (0)').disabled).toBe(true);
    expect(page.textContent).toContain('Nothing has changed since.');
    expect(texts(page, '.since')).toEqual([]);

    // Another melody in one section: the song, that line and that section, and no other.
    const take = takes[chosenId(verse, melody.id)!] as PartTake;
    const other = editedTake('other', take, [{ start: 0, duration: 480, pitch: 70, velocity: 80 }]);
    const changed = { ...score, sections: [withChoice(verse, melody.id, 'other'), ...score.sections.slice(1)] };
    TestBed.inject(Store).dispatch(SongActions.opened({ song: storedSong(musicOf(changed, { ...takes, other })) }));
    await settled();
    expect(texts(page, 'tbody tr:has(.since) td:first-child')).toEqual([
      'The song, a track for each part changed',
      'The song in one track changed',
      `${melody.name} alone changed`,
      `${verse.name}, all parts changed`,
    ]);
    button('Only what changed (4)').click();
    await settled();
    expect(zip).toHaveBeenLastCalledWith(`${score.title} - changed.zip`);
    expect(button('Only what changed (0)').disabled).toBe(true);
  });

  it('is remembered over a reload, and one file alone goes as it is', async () => {
    const page = await shown(score);
    within(page)
      .getByRole('button', { name: `Download ${score.title}.mid` })
      .click();
    TestBed.resetTestingModule();
    const again = await shown(score);
    expect(texts(again, 'tbody tr:not(:has(.since)) td:first-child')).toEqual(['The song, a track for each part']);
    localStorage.setItem('fendro handed over', '{"x":');
    TestBed.resetTestingModule();
    const spoiled = await shown(score);
    expect(within(spoiled).queryByRole('button', { name: /^Only what changed/ })).toBeNull();
  });
});

/** A folder on a disk, by the names of what is in it. */
class Folder {
  readonly files = new Map<string, Uint8Array>();
  readonly folders = new Map<string, Folder>();
  full = false;
  constructor(readonly name: string) {}
  getDirectoryHandle(name: string): Promise<Folder> {
    const own = this.folders.get(name) ?? new Folder(name);
    own.full = this.full;
    this.folders.set(name, own);
    return Promise.resolve(own);
  }
  getFileHandle(name: string): Promise<unknown> {
    const write = (bytes: Uint8Array): Promise<void> =>
      this.full
        ? Promise.reject(new DOMException('there is no room left', 'QuotaExceededError'))
        : Promise.resolve(void this.files.set(name, bytes));
    return Promise.resolve({ createWritable: () => Promise.resolve({ write, close: () => Promise.resolve() }) });
  }
}

describe('a folder of the writer’s own', () => {
  const global = globalThis as { showDirectoryPicker?: () => Promise<Folder> };

  beforeEach(() => {
    localStorage.clear();
  });
  afterEach(() => {
    delete global.showDirectoryPicker;
  });

  it('takes everything, then only what changed, and says why where it cannot', async () => {
    const studio = new Folder('Studio');
    global.showDirectoryPicker = () => Promise.resolve(studio);
    const page = await shown(score);
    const button = (name: string | RegExp) => within(page).getByRole<HTMLButtonElement>('button', { name });
    const settled = async (): Promise<void> => {
      for (let turns = 0; turns < 40; turns++) await Promise.resolve();
      for (let turns = 0; turns < 5; turns++) await TestBed.inject(ApplicationRef).whenStable();
    };
    button('Into a folder …').click();
    await settled();
    const own = studio.folders.get(score.title)!;
    expect(own.files.has(`${score.title}.mid`)).toBe(true);
    expect(own.files.size).toBe(texts(page, 'tbody tr').length);
    expect(texts(page, '[role=status]').at(-1)).toContain(`into the folder “${score.title}” in “Studio”`);

    own.files.clear();
    const take = takes[chosenId(verse, melody.id)!] as PartTake;
    const other = editedTake('other', take, [{ start: 0, duration: 480, pitch: 70, velocity: 80 }]);
    const changed = { ...score, sections: [withChoice(verse, melody.id, 'other'), ...score.sections.slice(1)] };
    TestBed.inject(Store).dispatch(SongActions.opened({ song: storedSong(musicOf(changed, { ...takes, other })) }));
    await settled();
    button('Only what changed (4), into “Studio”').click();
    await settled();
    expect(own.files.size).toBe(4);

    studio.full = true;
    button('Into a folder …').click();
    await settled();
    expect(texts(page, '[role=status]').at(-1)).toContain('cannot be written: there is no room left');
  });

  it('is not offered where the browser has none, and nothing happens where none is chosen', async () => {
    const without = await shown(score);
    expect(within(without).queryByRole('button', { name: 'Into a folder …' })).toBeNull();
    TestBed.resetTestingModule();
    global.showDirectoryPicker = () => Promise.reject(new DOMException('given up', 'AbortError'));
    const page = await shown(score);
    within(page).getByRole('button', { name: 'Into a folder …' }).click();
    await TestBed.inject(ApplicationRef).whenStable();
    expect(texts(page, '[role=status]').at(-1)).toBe('');
  });
});

describe('what of a song is handed over', () => {
  const choose = async (page: HTMLElement, text: RegExp): Promise<void> => {
    await TestBed.inject(ApplicationRef).whenStable();
    const field = within(page).getByRole<HTMLSelectElement>('combobox', { name: 'What is handed over' });
    field.value = [...field.options].find((option) => text.test(option.text))!.value;
    field.dispatchEvent(new Event('change'));
    for (let turns = 0; turns < 5; turns++) await TestBed.inject(ApplicationRef).whenStable();
  };

  it('is the parts alone, the sections or the chord line, known again when all of the song goes out', async () => {
    localStorage.clear();
    const download = jest.spyOn(downloads, 'download').mockImplementation(() => undefined);
    const page = await shown(score);
    const rows = (): string[] => texts(page, 'tbody td:first-child');
    const zip = async (): Promise<string | undefined> => {
      within(page).getByRole('button', { name: 'Everything in one zip' }).click();
      for (let turns = 0; turns < 5; turns++) await TestBed.inject(ApplicationRef).whenStable();
      return download.mock.lastCall?.[0];
    };
    await choose(page, /^Each part$/);
    expect(rows()).toEqual(score.parts.map(({ name }) => `${name} alone`));
    expect(await zip()).toBe(`${score.title} - Parts.zip`);
    await choose(page, /^The chord line$/);
    expect(rows()).toEqual(['The chords, as voiced and struck new']);
    expect(await zip()).toBe(`${score.title} - Chords.zip`);
    await choose(page, /^Each section$/);
    expect(rows()).toEqual(score.sections.map(({ name }) => `${name}, all parts new`));
    await choose(page, /^The song, each part/);
    expect(texts(page, 'tbody tr:has(.since) td:first-child')).toEqual([
      'The song, a track for each part new',
      'The song in one track new',
      ...score.sections.map(({ name }) => `${name}, all parts new`),
    ]);
    jest.restoreAllMocks();
  });

  it('says so where nothing of it is there', async () => {
    const page = await shown({ ...score, order: [] });
    await choose(page, /^Each section$/);
    expect(texts(page, 'tbody tr')).toEqual([]);
    expect(page.textContent).toContain('Nothing of this is in the song yet.');
  });

  it('is what is looped, so often round as is asked for, or every take of the part in focus', async () => {
    const page = await shown(score);
    TestBed.inject(Store).dispatch(SessionActions.barsSelected({ bars: { from: 1, to: 3 } }));
    TestBed.inject(Store).dispatch(SessionActions.lineFocused({ line: melody.id }));
    await choose(page, /^What is looped: .*Bars 2–3/);
    expect(texts(page, 'tbody td:nth-child(2)')[0]).toBe(`${score.title} - ${verse.name}, Bars 2–3.mid`);
    expect(texts(page, 'tbody td:first-child').at(-1)).toBe('The chords, as voiced and struck');
    const sizes = (): string[] => texts(page, 'tbody td:nth-child(3)');
    const [once] = sizes();
    const times = within(page).getByRole<HTMLInputElement>('spinbutton', { name: 'Times round' });
    times.value = '4';
    times.dispatchEvent(new Event('input'));
    times.dispatchEvent(new Event('change'));
    for (let turns = 0; turns < 5; turns++) await TestBed.inject(ApplicationRef).whenStable();
    expect(Number(sizes()[0])).toBeGreaterThan(3 * Number(once));
    await choose(page, /^Every take: /);
    expect(texts(page, 'tbody td:first-child').every((text) => /^Take \d+$/.test(text))).toBe(true);
    // What is less than the song is not looked for when the song goes out again.
    expect(texts(page, '.since')).toEqual([]);
  });
});

describe('the keys of drums', () => {
  it('are those of General MIDI, a row of pads, or the writer’s own, which are kept', async () => {
    localStorage.clear();
    const page = await shown(score);
    const settled = async (): Promise<void> => {
      for (let turns = 0; turns < 5; turns++) await TestBed.inject(ApplicationRef).whenStable();
    };
    const choose = async (text: RegExp): Promise<void> => {
      const field = within(page).getByRole<HTMLSelectElement>('combobox', { name: 'Keys of the drums' });
      field.value = [...field.options].find((option) => text.test(option.text))!.value;
      field.dispatchEvent(new Event('change'));
      await settled();
    };
    await choose(/in a row/);
    expect(page.textContent).toMatch(/kick 36, (snare|stick|clap) 37/);
    await choose(/your own/);
    const keys = (): HTMLInputElement[] =>
      within(page).getAllByRole<HTMLInputElement>('spinbutton', { name: /^Key of the/ });
    const [kick, second] = keys();
    expect(kick!.getAttribute('aria-label')).toBe('Key of the kick');
    const [had, taken] = [kick!.value, second!.value];
    expect(had).toBe('36');
    kick!.value = taken;
    kick!.dispatchEvent(new Event('input'));
    kick!.dispatchEvent(new Event('change'));
    await settled();
    // They have changed places.
    expect(
      keys()
        .map(({ value }) => value)
        .slice(0, 2),
    ).toEqual([taken, had]);
    expect(localStorage.getItem('fendro drum keys')).toBe(`[[36,${taken}],[${taken},36]]`);
  });
});

describe('what else goes out', () => {
  const open = async (page: HTMLElement, tab: string): Promise<void> => {
    within(page).getByRole('tab', { name: tab }).click();
    await TestBed.inject(ApplicationRef).whenStable();
  };
  const saved = jest.fn<undefined, [name: string, bytes: string]>();

  beforeEach(() => {
    saved.mockClear();
    jest.spyOn(downloads, 'download').mockImplementation((name, bytes) => saved(name, bytes as string));
  });
  afterEach(() => {
    jest.restoreAllMocks();
  });

  it('is the chord chart: every section, what comes back named only, saved and copied as text, and printed', async () => {
    const print = jest.fn();
    globalThis.print = print;
    const again = { ...score, order: [...score.order, { id: 'again', section: verse.id }] };
    const page = await shown(again);
    await open(page, 'Chord chart');
    const paper = within(page).getByRole('article', { name: 'Chord chart' });
    expect(texts(paper, 'h2')).toEqual([score.title]);
    expect(texts(paper, 'h3').at(-1)).toBe(`${verse.name} 2 times, as before`);
    expect(paper.querySelectorAll('ol')).toHaveLength(score.sections.length);
    expect(paper.querySelectorAll('li')).toHaveLength(score.sections.reduce((sum, { bars }) => sum + bars, 0));
    within(page).getByRole('button', { name: 'Save as text' }).click();
    expect(saved).toHaveBeenCalledWith(`${score.title} - Chords.txt`, chartText(chordChart(chosenMusic(again, takes))));
    within(page).getByRole('button', { name: 'Print' }).click();
    expect(print).toHaveBeenCalledTimes(1);
  });

  it('is no chart where the running order has no place, and no lead sheet of a line that plays nothing', async () => {
    const page = await shown({ ...score, order: [] });
    await open(page, 'Chord chart');
    expect(page.textContent).toContain('There is no chart yet');
    await open(page, 'Lead sheet');
    expect(texts(page, '[role=status]')).toEqual(['This line plays nothing in the running order.']);
    expect(within(page).getByRole<HTMLButtonElement>('button', { name: 'Save as MusicXML' }).disabled).toBe(true);
  });

  it('is the lead sheet of the melody, or of any other line that has pitches', async () => {
    const page = await shown(score);
    await open(page, 'Lead sheet');
    const line = within(page).getByRole<HTMLSelectElement>('combobox', { name: 'Line of the lead sheet' });
    expect(line.selectedOptions[0]!.text).toBe(melody.name);
    expect([...line.options].map(({ text }) => text)).not.toContain('Drums');
    expect(texts(page, '[role=status]')[0]).toMatch(/^\d+ bars on paper/);
    within(page).getByRole('button', { name: 'Save as MusicXML' }).click();
    const [name, xml] = saved.mock.lastCall!;
    expect(name).toBe(`${score.title} - ${melody.name} - Lead sheet.musicxml`);
    expect(xml).toBe(printedSheet(chosenMusic(score, takes), melody.id)!.xml);
    const bass = score.parts.find(({ role }) => role === 'bass')!;
    line.value = [...line.options].find(({ text }) => text === bass.name)!.value;
    line.dispatchEvent(new Event('change'));
    await TestBed.inject(ApplicationRef).whenStable();
    within(page).getByRole('button', { name: 'Save as MusicXML' }).click();
    expect(saved.mock.lastCall![1]).toContain(`<part-name>${bass.name}</part-name>`);
  });

  it('is the song file, with the sound of its guides where it has some', async () => {
    const page = await shown(score);
    await open(page, 'Song file');
    expect(within(page).queryByRole('checkbox')).toBeNull();
    within(page)
      .getByRole('button', { name: /^The song file/ })
      .click();
    await TestBed.inject(ApplicationRef).whenStable();
    expect(saved).toHaveBeenCalledWith(`${score.title}.fendro`, '{}');
  });
});
