import * as fc from 'fast-check';
import { choose, remark, setTitle } from '@fendro/core/song/edit';
import { scoreWith } from '@fendro/core/testing/scores';
import type { Song } from '@fendro/core/song/schema';
import { SongStorage } from './song-storage';

/** A database in memory that can be killed: from a given write on nothing is written any more. */
const database = { values: new Map<string, unknown>(), left: Number.POSITIVE_INFINITY };
jest.mock('localforage', () => ({
  __esModule: true,
  default: {
    createInstance: () => ({
      getItem: (key: string) => Promise.resolve(JSON.parse(JSON.stringify(database.values.get(key) ?? null)) as unknown),
      setItem: (key: string, value: unknown) => {
        if (database.left-- <= 0) return Promise.reject(new Error('killed'));
        database.values.set(key, JSON.parse(JSON.stringify(value)));
        return Promise.resolve(value);
      },
      removeItem: (key: string) => { database.values.delete(key); return Promise.resolve(); },
      keys: () => Promise.resolve([...database.values.keys()]),
    }),
  },
}));

const { song } = scoreWith(2, 0);
const takes = Object.values(song.ledger.takes);
const parts = song.score.parts.map(({ id }) => id);

/** One of the things that a writer does: a new title, another take chosen, a verdict, a take that came to be. */
function changed(now: Song, step: number): Song {
  const section = now.score.sections[step % now.score.sections.length]!;
  const part = parts[step % parts.length]!;
  const heard = [...now.ledger.heard, { take: takes[step % takes.length]!.id, at: step }];
  switch (step % 4) {
    case 0:
      return { ...now, score: setTitle(now.score, `Title ${step}`) };
    case 1:
      return { ...now, score: choose(now.score, section.id, part, `${section.id}-${part}-1`), ledger: { ...now.ledger, heard } };
    case 2:
      return { ...now, score: remark(now.score, takes[step % takes.length]!.id, { verdict: 'kept' }) };
    default: {
      const made = { ...takes[step % takes.length]!, id: `made-${step}` };
      return { ...now, score: remark(now.score, made.id, { verdict: 'kept' }), ledger: { takes: { ...now.ledger.takes, [made.id]: made }, heard } };
    }
  }
}

/** All that the changes above can change. */
const stateOf = ({ score }: Song): string => JSON.stringify([score.title, score.sections.map(({ chosen }) => parts.map((part) => chosen[part])), Object.keys(score.remarks).sort()]);

beforeEach(() => {
  database.values.clear();
  database.left = Number.POSITIVE_INFINITY;
});

describe('songs in storage', () => {
  it('come back as they were, listed by their last change', async () => {
    const storage = new SongStorage();
    await storage.save(song, 1);
    await storage.save({ ...song, id: 'other', score: setTitle(song.score, 'Other') }, 2);
    expect((await storage.list()).map(({ title, bars }) => [title, bars])).toEqual([['Other', 6], ['Fair weather', 6]]);
    const opened = await new SongStorage().open('song');
    expect(opened?.ok && opened.song.score).toEqual(song.score);
    await storage.remove('song');
    expect(await storage.open('song')).toBeNull();
    expect((await storage.list()).map(({ id }) => id)).toEqual(['other']);
  });

  it('open in the last state or the one before, whenever they are killed', async () => {
    await fc.assert(fc.asyncProperty(fc.array(fc.integer({ min: 0, max: 999 }), { minLength: 1, maxLength: 8 }), fc.integer({ min: 0, max: 40 }), async (steps, kill) => {
      database.values.clear();
      database.left = Number.POSITIVE_INFINITY;
      const storage = new SongStorage();
      await storage.save(song, 0);
      const states = [song];
      database.left = kill;
      let survived = 0;
      for (const step of steps) {
        const next = changed(states.at(-1)!, step);
        states.push(next);
        try {
          await storage.save(next, states.length);
          survived = states.length - 1;
        } catch {
          break;
        }
      }
      database.left = Number.POSITIVE_INFINITY;
      const opened = await new SongStorage().open('song');
      if (!opened?.ok) throw new Error(opened ? opened.reason : 'gone');
      const possible = [states[survived]!, states[Math.min(states.length - 1, survived + 1)]!].map(stateOf);
      expect(possible).toContain(stateOf(opened.song));
      // Whatever the score has chosen or judged is there.
      const chosen = opened.song.score.sections.flatMap(({ harmony, chosen: lines }) => [harmony, ...Object.values(lines)]).filter((id) => id !== null);
      for (const id of [...chosen, ...Object.keys(opened.song.score.remarks)]) expect(opened.song.ledger.takes[id]).toBeDefined();
    }), { numRuns: 200 });
  });

  it('fall back to the state before a damaged one, and say so', async () => {
    const storage = new SongStorage();
    await storage.save(song, 1);
    await storage.save({ ...song, score: setTitle(song.score, 'Second') }, 2);
    const slot = database.values.get('song/song/current') as number;
    database.values.set(`song/song/body/${slot}`, { nonsense: true });
    const opened = await new SongStorage().open('song');
    expect(opened?.ok && opened.song.score.title).toBe('Fair weather');
    expect(opened?.ok && opened.setAside).toContain('the last change');
    database.values.set(`song/song/body/${1 - slot}`, null);
    expect((await new SongStorage().open('song'))?.ok).toBe(false);
  });

  it('let go of drafts that nobody heard, and keep the rest', async () => {
    const storage = new SongStorage();
    const kept = takes.find(({ id }) => id.endsWith('-1'))!.id;
    await storage.save({ ...song, ledger: { ...song.ledger, heard: [{ take: kept, at: 1 }] } }, 1);
    const opened = await new SongStorage().open('song');
    if (!opened?.ok) throw new Error('not opened');
    expect(opened.song.ledger.takes[kept]).toBeDefined();
    expect(Object.keys(opened.song.ledger.takes).length).toBeLessThan(takes.length);
    expect([...database.values.keys()].filter((key) => key.includes('/take/'))).toHaveLength(Object.keys(opened.song.ledger.takes).length);
  });

  it('remember small settings', async () => {
    const storage = new SongStorage();
    await storage.remember('last', 'song');
    expect(await storage.recall('last')).toBe('song');
    expect(await storage.recall('nothing')).toBeNull();
  });
});
