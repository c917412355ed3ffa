import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { scoreWith } from '@fendro/core/testing/scores';
import { Library } from '../desks/library';
import { SongFiles } from '../desks/song-files';
import { memory, openMemory } from '../testing/memory-database';
import { Saving } from './saving';
import { selectHeard, selectSong } from './selectors';
import { ScoreActions, TakeActions } from './song.actions';
import { provideSongEffects } from './effects';
import { provideSong } from './provide-song';

const database = { broken: null as Error | null, silent: false };

const { song } = scoreWith(3, 0);
const titled = (title: string) => ScoreActions.titleSet({ title });

/** A page with Fendro in it; the one before is gone without a word. */
function page() {
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({ providers: [provideSong(), provideSongEffects()] });
  return { store: TestBed.inject(Store) as Store, saving: TestBed.inject(Saving), library: TestBed.inject(Library) };
}
const later = (ms: number): Promise<void> => jest.advanceTimersByTimeAsync(ms);
const titleIn = ({ store }: ReturnType<typeof page>): string | undefined =>
  store.selectSignal(selectSong)().score?.title;
const savings = (): number =>
  [...memory.values]
    .filter(([key]) => key.includes('/body/'))
    .reduce((most, [, body]) => Math.max(most, (body as { clock: number }).clock), 0);

/** Locks of the browser, of which this page wants those that another tab has. */
function withLocks() {
  const waiting: (() => void)[] = [];
  let elsewhere = true;
  const request = (_name: string, options: { ifAvailable?: boolean }, work: (lock: object | null) => unknown) => {
    if (!elsewhere) return Promise.resolve(work({}));
    if (options.ifAvailable) return Promise.resolve(work(null));
    return new Promise<void>((resolve) => {
      waiting.push(() => {
        work({});
        resolve();
      });
    });
  };
  Object.assign(navigator, { locks: { request } });
  return {
    /** The other tab is closed. */
    release() {
      elsewhere = false;
      for (const next of waiting.splice(0)) next();
    },
  };
}

beforeEach(() => {
  Reflect.deleteProperty(navigator, 'locks');
  jest.useFakeTimers();
  localStorage.clear();
  sessionStorage.clear();
  Object.assign(database, { broken: null, silent: false });
  openMemory();
  memory.trouble = () =>
    database.silent ? new Promise(() => undefined) : database.broken && Promise.reject(database.broken);
  globalThis.fetch = jest.fn(() =>
    Promise.resolve({ ok: true, json: () => Promise.resolve(JSON.parse(JSON.stringify(song))) } as Response),
  );
});
afterEach(() => {
  jest.useRealTimers();
});

async function started() {
  const first = page();
  await first.library.openLast();
  await later(0);
  return first;
}

describe('saving', () => {
  it('loses nothing of an edit that comes just before the page is closed', async () => {
    const first = await started();
    first.store.dispatch(titled('Gale'));
    dispatchEvent(new Event('pagehide'));
    const again = page();
    await again.library.openLast();
    expect(titleIn(again)).toBe('Gale');
  });

  it('keeps a song that was begun a moment ago and never reached the database, and lists it', async () => {
    const first = page();
    const opening = first.library.openLast();
    while (!first.store.selectSignal(selectSong)().open) await later(1);
    database.broken = new Error('killed');
    first.store.dispatch(titled('Gale'));
    dispatchEvent(new Event('pagehide'));
    await later(100);
    memory.values.clear();
    database.broken = null;
    await opening;
    const next = page();
    sessionStorage.clear();
    expect((await next.library.list()).map(({ title }) => title)).toEqual(['Gale']);
    await next.library.openLast();
    expect(titleIn(next)).toBe('Gale');
    await later(500);
    expect(savings()).toBeGreaterThan(0);
  });

  it('has every change within 50 ms where a killed page leaves it', async () => {
    const first = await started();
    first.store.dispatch(titled('Gale'));
    await later(10);
    first.store.dispatch(titled('Squall'));
    database.broken = new Error('killed');
    await later(50);
    database.broken = null;
    const again = page();
    await again.library.openLast();
    expect(titleIn(again)).toBe('Squall');
  });

  it('takes a song over that was read while the other tab still wrote it', async () => {
    const first = page();
    const opening = first.library.openLast();
    while (!localStorage.length || !first.store.selectSignal(selectSong)().open) await later(1);
    const others = withLocks();
    const second = page();
    await second.library.openLast();
    expect(second.saving.elsewhere()).toBe(true);
    await opening;
    second.store.dispatch(titled('Gale'));
    others.release();
    await later(12_000);
    expect(second.saving.elsewhere()).toBe(false);
    const third = page();
    await third.library.openLast();
    expect(titleIn(third)).toBe('Gale');
  });

  it('never takes a song over that was changed in the other tab', async () => {
    const first = await started();
    const others = withLocks();
    const second = page();
    await second.library.openLast();
    Reflect.deleteProperty(navigator, 'locks');
    const changed = page();
    await changed.library.openLast();
    changed.store.dispatch(titled('Squall'));
    await later(1000);
    second.store.dispatch(titled('Gale'));
    others.release();
    await later(12_000);
    expect(second.saving.elsewhere()).toBe(true);
    expect(titleIn(first)).not.toBe('Gale');
  });

  it('does not say that a new song is saved before it is', async () => {
    const { fetch } = globalThis;
    globalThis.fetch = jest.fn((...asked: Parameters<typeof fetch>) => {
      database.silent = true;
      return fetch(...asked);
    });
    const first = page();
    void first.library.openLast();
    await later(100);
    expect(first.store.selectSignal(selectSong)()).toMatchObject({ saving: 'changed', open: { seed: song.seed } });
  });

  it('waits no longer than a second however often something changes', async () => {
    const first = await started();
    const saved: number[] = [];
    for (let edit = 0; edit < 110; edit++) {
      first.store.dispatch(titled(`Gust ${edit}`));
      await later(150);
      saved.push(savings());
    }
    expect(new Set(saved).size).toBeGreaterThan(12);
  });

  it('tells when it fails, tries again, and says when it is mended', async () => {
    const first = await started();
    database.broken = new Error('QuotaExceededError: quota');
    first.store.dispatch(titled('Gale'));
    await later(400);
    expect(first.saving.failure()).toBe('the browser’s storage is full');
    expect(first.store.selectSignal(selectSong)().saving).toBe('failed');
    first.store.dispatch(titled('Squall'));
    await later(10_000);
    expect(first.store.selectSignal(selectSong)().saving).toBe('failed');
    database.broken = null;
    await later(5000);
    expect(first.saving.failure()).toBeNull();
    expect(first.store.selectSignal(selectSong)().saving).toBe('saved');
    expect(Object.keys(localStorage).filter((name) => name.includes('journal'))).toEqual([]);
    expect(await again()).toBe('Squall');
  });

  const again = async (): Promise<string | undefined> => {
    const next = page();
    await next.library.openLast();
    return titleIn(next);
  };

  it('tells when the database never answers, and the page goes on', async () => {
    const first = await started();
    database.silent = true;
    first.store.dispatch(titled('Gale'));
    await later(7000);
    expect(first.saving.failure()).toBe('the browser’s storage does not answer');
    const next = page();
    const opening = next.library.openLast();
    await later(7000);
    expect(await opening).toMatchObject({ ok: false, reason: expect.stringContaining('does not answer') as string });
  });

  it('writes a song whole again when its database was cleared, and tells', async () => {
    const first = await started();
    memory.values.clear();
    first.store.dispatch(titled('Gale'));
    await later(400);
    expect(first.saving.rescued()).toBe(true);
    const next = page();
    await next.library.openLast();
    expect(Object.keys(next.store.selectSignal(selectSong)().takes)).toHaveLength(
      Object.keys(song.ledger.takes).length,
    );
  });

  it('writes nothing when a song is only opened and looked at', async () => {
    await started();
    const before = JSON.stringify([...memory.values]);
    await again();
    await later(5000);
    expect(JSON.stringify([...memory.values])).toBe(before);
  });

  it('brings back what was heard, with every take that was not', async () => {
    const first = await started();
    const take = Object.values(first.store.selectSignal(selectSong)().takes).find(({ id }) => id.endsWith('part-1-1'))!;
    first.store.dispatch(TakeActions.heard({ take: take.id, section: take.section, line: 'part-1' }));
    await later(2000);
    const next = page();
    await next.library.openLast();
    expect(next.store.selectSignal(selectHeard)()).toEqual({ [take.section]: { 'part-1': take.id } });
    expect(Object.keys(next.store.selectSignal(selectSong)().takes)).toHaveLength(
      Object.keys(song.ledger.takes).length,
    );
  });
});

describe('the library', () => {
  it('opens a damaged song as what it is: told, with everything of it to save, and the demo only when asked', async () => {
    const first = await started();
    const id = first.store.selectSignal(selectSong)().open!.id;
    for (const key of memory.values.keys()) if (key.includes('/body/')) memory.values.set(key, { weather: 'fine' });
    const next = page();
    for (let start = 0; start < 2; start++) {
      const result = await next.library.openLast();
      expect(result).toMatchObject({ ok: false, song: id, reason: expect.stringContaining('damaged') as string });
    }
    expect(next.store.selectSignal(selectSong)().open).toBeNull();
    expect(await next.library.rawFile(id)).toContain('fine');
    expect(await next.library.openDemo()).toMatchObject({ ok: true });
  });

  it('says when what is shown is an older state', async () => {
    const first = await started();
    first.store.dispatch(titled('Gale'));
    await later(2000);
    const id = first.store.selectSignal(selectSong)().open!.id;
    memory.values.set(`song/${id}/body/${memory.values.get(`song/${id}/current`) as number}`, null);
    expect(await page().library.openLast()).toMatchObject({
      ok: true,
      remark: expect.stringContaining('the last changes are missing') as string,
    });
  });

  it('says which song is open instead of one that is gone', async () => {
    const first = await started();
    await first.library.adopt({ ...song.score, title: 'Second' }, Object.values(song.ledger.takes));
    const id = first.store.selectSignal(selectSong)().open!.id;
    for (const key of [...memory.values.keys()]) if (key.startsWith(`song/${id}/`)) memory.values.delete(key);
    const next = page();
    expect(await next.library.openLast()).toMatchObject({
      ok: true,
      remark: expect.stringContaining('“Fair weather” is open instead') as string,
    });
  });

  it('copies under a title that fits, with sections and an id of its own, and renames', async () => {
    const first = await started();
    await first.library.adopt({ ...song.score, title: 'x'.repeat(116) }, Object.values(song.ledger.takes));
    const { open, score } = first.store.selectSignal(selectSong)();
    expect(await first.library.duplicate(open!.id)).toMatchObject({ ok: true });
    const copy = (await first.library.list()).find(({ title }) => title.endsWith(' (copy)'))!;
    expect(copy.title).toHaveLength(120);
    expect(await first.library.rename(copy.id, 'Fog Log')).toMatchObject({ ok: true });
    expect(await first.library.open(copy.id)).toMatchObject({ ok: true, remark: null });
    const after = first.store.selectSignal(selectSong)();
    expect(after.score?.title).toBe('Fog Log');
    expect(after.score?.sections.map(({ id }) => id)).not.toEqual(score?.sections.map(({ id }) => id));
  });

  it('leaves a song alone that another tab has open', async () => {
    const first = await started();
    const { id } = (await first.library.list())[0]!;
    const alone = jest.spyOn(first.saving, 'alone').mockResolvedValue(false);
    for (const result of [await first.library.rename(id, 'x'), await first.library.remove(id)])
      expect(result).toMatchObject({ ok: false, reason: expect.stringContaining('open in another tab') as string });
    expect(alone).toHaveBeenCalledTimes(2);
    expect((await first.library.list())[0]?.title).toBe('Fair weather');
  });

  it('refuses what cannot be a song before anything happens', async () => {
    const first = await started();
    const { open } = first.store.selectSignal(selectSong)();
    expect(await first.library.adopt({ ...song.score, title: '' }, [])).toMatchObject({ ok: false });
    for (const text of ['{', '{}', '{"format":"fendro-song","version":-9007199254740991}', 'MThd']) {
      expect(await TestBed.inject(SongFiles).open(new TextEncoder().encode(text))).toMatchObject({ ok: false });
    }
    expect(first.store.selectSignal(selectSong)().open).toBe(open);
  });
});
