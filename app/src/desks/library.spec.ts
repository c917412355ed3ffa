import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { LIMITS } from '@fendro/core/song/limits';
import type { Song } from '@fendro/core/song/schema';
import { scoreWith } from '@fendro/core/testing/scores';
import { musicOf, storedSong } from '@fendro/core/testing/sounding';
import { SongStorage } from '../storage/song-storage';
import { Library } from './library';
import { Saving } from '../store/saving';
import { selectSong } from '../store/selectors';
import { provideSong } from '../store/provide-song';

const { score, takes } = scoreWith(1, 0);
const music = musicOf(score, takes);

/** Storage and saving as the library sees them. */
const kept = { songs: new Map<string, Song>(), last: null as string | null, elsewhere: false, broken: false };
const storage = {
  open: (id: string) => {
    if (kept.broken) return Promise.reject(new Error('the disk is gone'));
    const song = kept.songs.get(id);
    return Promise.resolve(song ? { ok: true, song, setAside: [], clock: 3 } : null);
  },
  save: (song: Song) => Promise.resolve(void kept.songs.set(song.id, song)),
  remove: (id: string) => Promise.resolve(void kept.songs.delete(id)),
  list: () => Promise.resolve([...kept.songs.values()].map(({ id, score: own }) => ({ id, title: own.title }))),
  recall: () => Promise.resolve(kept.last),
  remember: (_key: string, id: string) => Promise.resolve(void (kept.last = id)),
  settled: () => undefined,
};
const saving = {
  now: () => Promise.resolve(),
  nowNew: () => Promise.resolve(),
  claim: () => Promise.resolve(),
  startFrom: () => undefined,
  alone: async (_id: string, change: () => Promise<void>) => {
    if (!kept.elsewhere) await change();
  },
};

describe('the library', () => {
  let store: Store;
  let library: Library;
  const open = () => store.selectSignal(selectSong)();

  beforeEach(() => {
    sessionStorage.clear();
    localStorage.clear();
    Object.assign(kept, { songs: new Map(), last: null, elsewhere: false, broken: false });
    globalThis.fetch = jest.fn(() =>
      Promise.resolve({ ok: true, json: () => Promise.resolve(storedSong(music, 'demo')) } as Response),
    );
    TestBed.configureTestingModule({
      providers: [provideSong(), { provide: SongStorage, useValue: storage }, { provide: Saving, useValue: saving }],
    });
    store = TestBed.inject(Store) as Store;
    library = TestBed.inject(Library);
  });

  it('opens the demo at the very first start, under ids of its own, and what was open last after that', async () => {
    expect(await library.openLast()).toEqual({ ok: true, remark: null });
    expect(open().open!.id).not.toBe('demo');
    expect(open().score!.sections.map(({ id }) => id)).not.toContain('section-1');
    expect(kept.last).toBe(open().open!.id);
  });

  it('says so where the song that was open last is gone, and opens another', async () => {
    kept.last = 'lost';
    kept.songs.set('other', storedSong(music, 'other'));
    const result = await library.openLast();
    expect(result).toMatchObject({
      ok: true,
      remark: expect.stringContaining('“Fair weather” is open instead') as string,
    });
    expect(open().open!.id).toBe('other');
  });

  it('names the song that could not be read, and leaves the open one as it is', async () => {
    kept.broken = true;
    expect(await library.open('a')).toEqual({
      ok: false,
      reason: expect.stringContaining('the disk is gone') as string,
      song: 'a',
    });
    kept.broken = false;
    expect(await library.open('nowhere')).toMatchObject({ ok: false });
    expect(open().open).toBeNull();
  });

  it('copies a song with a name and sections of its own', async () => {
    const long = { ...music, score: { ...score, title: 'x'.repeat(LIMITS.title) } };
    kept.songs.set('a', storedSong(long, 'a'));
    expect(await library.duplicate('a')).toMatchObject({ ok: true });
    const copy = [...kept.songs.values()].find(({ id }) => id !== 'a')!;
    expect(copy.score.title).toHaveLength(LIMITS.title);
    expect(copy.score.title).toMatch(/ \(copy\)$/);
    const sections = new Set(kept.songs.get('a')!.score.sections.map(({ id }) => id));
    expect(copy.score.sections.some(({ id }) => sections.has(id))).toBe(false);
    expect(await library.duplicate('nowhere')).toMatchObject({ ok: false });
  });

  it('renames and removes songs that are open nowhere else, and puts a removed one back', async () => {
    kept.songs.set('a', storedSong(music, 'a'));
    await library.rename('a', 'y'.repeat(500));
    expect(kept.songs.get('a')!.score.title).toHaveLength(LIMITS.title);
    const removed = await library.remove('a');
    expect(kept.songs.size).toBe(0);
    await library.putBack(removed.gone!);
    expect(kept.songs.get('a')).toBe(removed.gone);
    kept.elsewhere = true;
    expect(await library.remove('a')).toMatchObject({
      ok: false,
      reason: expect.stringContaining('another tab') as string,
    });
    expect(await library.rename('a', 'no')).toMatchObject({ ok: false });
    expect(kept.songs.size).toBe(1);
  });

  it('refuses music that could not be opened again', async () => {
    expect(await library.adopt({ ...score, title: '' }, [])).toEqual({ ok: false, reason: 'A song needs a title.' });
    expect(open().open).toBeNull();
  });
});
