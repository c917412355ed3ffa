import { choicesOf } from '@fendro/core/song/section';
import * as fc from 'fast-check';
import { choose, remark, setTitle } from '@fendro/core/song/edit';
import old from '@fendro/core/song/samples/version-2.json';
import { scoreWith } from '@fendro/core/testing/scores';
import type { Guide, Song } from '@fendro/core/song/schema';
import { memory, openMemory } from '../testing/memory-database';
import { SongStorage, type StoredSong } from './song-storage';

/** A database that can be killed: from a given write on nothing is written any more. */
let writesLeft = Number.POSITIVE_INFINITY;

const { song } = scoreWith(2, 0);
const takes = Object.values(song.ledger.takes);
const parts = song.score.parts.map(({ id }) => id);

/** One of the things that a writer does: a new title, another take chosen, a verdict, a take that came to be. */
function changed(now: Song, step: number): Song {
  const section = now.score.sections[step % now.score.sections.length]!;
  const part = parts[step % parts.length]!;
  const heard = [
    ...now.ledger.heard,
    { take: takes[step % takes.length]!.id, section: takes[step % takes.length]!.section, at: step },
  ];
  switch (step % 4) {
    case 0:
      return { ...now, score: setTitle(now.score, `Title ${step}`) };
    case 1:
      return {
        ...now,
        score: choose(now.score, section.id, part, `${section.id}-${part}-1`),
        ledger: { ...now.ledger, heard },
      };
    case 2:
      return { ...now, score: remark(now.score, takes[step % takes.length]!.id, { verdict: 'kept' }) };
    default: {
      const made = { ...takes[step % takes.length]!, id: `made-${step}` };
      return {
        ...now,
        score: remark(now.score, made.id, { verdict: 'kept' }),
        ledger: { takes: { ...now.ledger.takes, [made.id]: made }, heard },
      };
    }
  }
}

/** All that the changes above can change. */
const stateOf = ({ score }: Song): string =>
  JSON.stringify([
    score.title,
    score.sections.map(({ chosen }) => parts.map((part) => chosen[part])),
    Object.keys(score.remarks).sort(),
  ]);

beforeEach(() => {
  localStorage.clear();
  openMemory();
  writesLeft = Number.POSITIVE_INFINITY;
  memory.trouble = (act) => (act === 'write' && writesLeft-- <= 0 ? Promise.reject(new Error('killed')) : null);
});

describe('songs in storage', () => {
  it('come back as they were, listed by their last change', async () => {
    const storage = new SongStorage();
    await storage.save(song, 1, 1);
    await storage.save({ ...song, id: 'other', score: setTitle(song.score, 'Other') }, 1, 2);
    expect((await storage.list()).map(({ title, bars }) => [title, bars])).toEqual([
      ['Other', 6],
      ['Fair weather', 6],
    ]);
    const opened = await new SongStorage().open('song');
    expect(opened?.ok && opened.song.score).toEqual(song.score);
    await storage.remove('song');
    expect(await storage.open('song')).toBeNull();
    expect((await storage.list()).map(({ id }) => id)).toEqual(['other']);
  });

  /** Makes random changes, each kept at once where it is asked, and is killed at some write. */
  async function killed(
    steps: readonly number[],
    kill: number,
    journal: boolean,
  ): Promise<{ states: Song[]; survived: number; opened: Extract<StoredSong, { ok: true }> }> {
    memory.values.clear();
    localStorage.clear();
    writesLeft = Number.POSITIVE_INFINITY;
    const storage = new SongStorage();
    await storage.save(song, 0, 0);
    const states = [song];
    writesLeft = kill;
    let survived = 0;
    for (const step of steps) {
      const next = changed(states.at(-1)!, step);
      states.push(next);
      if (journal) storage.keep(next, states.length);
      try {
        await storage.save(next, states.length, states.length);
        survived = states.length - 1;
      } catch {
        break;
      }
    }
    writesLeft = Number.POSITIVE_INFINITY;
    const opened = await new SongStorage().open('song');
    if (!opened?.ok) throw new Error(opened ? opened.reason : 'gone');
    // Whatever the score has chosen or judged is there.
    const chosen = opened.song.score.sections.flatMap(choicesOf);
    for (const id of [...chosen, ...Object.keys(opened.song.score.remarks)])
      expect(opened.song.ledger.takes[id]).toBeDefined();
    return { states, survived, opened };
  }
  const runs = [
    fc.array(fc.integer({ min: 0, max: 999 }), { minLength: 1, maxLength: 8 }),
    fc.integer({ min: 0, max: 40 }),
  ] as const;

  it('open in the last state or the one before, whenever they are killed', async () => {
    await fc.assert(
      fc.asyncProperty(...runs, async (steps, kill) => {
        const { states, survived, opened } = await killed(steps, kill, false);
        expect([states[survived]!, states[Math.min(states.length - 1, survived + 1)]!].map(stateOf)).toContain(
          stateOf(opened.song),
        );
      }),
      { numRuns: 200 },
    );
  });

  it('open in the very last state where it was kept at once', async () => {
    await fc.assert(
      fc.asyncProperty(...runs, async (steps, kill) => {
        const { states, opened } = await killed(steps, kill, true);
        expect(stateOf(opened.song)).toBe(stateOf(states.at(-1)!));
        expect(opened.song.ledger.heard).toEqual(states.at(-1)!.ledger.heard);
        expect(Object.keys(opened.song.ledger.takes)).toEqual(Object.keys(states.at(-1)!.ledger.takes));
      }),
      { numRuns: 200 },
    );
  });

  it('that the database never had open from what was kept at once', async () => {
    new SongStorage().keep({ ...song, hearing: { 'section-1': { 'part-1': 'section-1-part-1-1' } } }, 3);
    const opened = await new SongStorage().open('song');
    expect(opened).toMatchObject({
      ok: true,
      clock: 3,
      setAside: [],
      song: { score: song.score, hearing: { 'section-1': { 'part-1': 'section-1-part-1-1' } } },
    });
    // It was never lost there: saving it now is nothing to be told of.
    const storage = new SongStorage();
    await storage.open('song');
    writesLeft = 3;
    await expect(storage.save(song, 4, 4)).rejects.toThrow();
    writesLeft = Number.POSITIVE_INFINITY;
    expect(await storage.save(song, 5, 5)).toBe(false);
  });

  it('are not overtaken by what was kept before they were saved', async () => {
    const storage = new SongStorage();
    storage.keep({ ...song, score: setTitle(song.score, 'Older') }, 1);
    await storage.save({ ...song, score: setTitle(song.score, 'Newer') }, 2, 2);
    expect(await new SongStorage().open('song')).toMatchObject({
      ok: true,
      clock: 2,
      song: { score: { title: 'Newer' } },
    });
  });

  it('keep what matters most where there is little room', async () => {
    const room = jest.spyOn(Storage.prototype, 'setItem').mockImplementationOnce(() => {
      throw new Error('quota');
    });
    new SongStorage().keep(song, 1);
    room.mockRestore();
    const opened = await new SongStorage().open('song');
    if (!opened?.ok) throw new Error('not opened');
    expect(opened.song.score).toEqual(song.score);
    expect(opened.setAside.length).toBeGreaterThan(0);
  });

  it('fall back to the state before a damaged one, and say so', async () => {
    const storage = new SongStorage();
    await storage.save(song, 1, 1);
    await storage.save({ ...song, score: setTitle(song.score, 'Second') }, 2, 2);
    expect(await new SongStorage().open('song')).toMatchObject({ ok: true, older: false });
    const slot = memory.values.get('song/song/current') as number;
    memory.values.set(`song/song/body/${slot}`, { nonsense: true });
    expect(await new SongStorage().open('song')).toMatchObject({
      ok: true,
      older: true,
      setAside: [],
      song: { score: { title: 'Fair weather' } },
    });
    memory.values.set(`song/song/body/${1 - slot}`, null);
    expect((await new SongStorage().open('song'))?.ok).toBe(false);
    expect(await storage.raw('song')).toContain('nonsense');
  });

  it('are only read when they are opened: every take stays, heard or not, and nothing is written', async () => {
    await new SongStorage().save(
      { ...song, ledger: { ...song.ledger, heard: [{ take: takes[0]!.id, section: takes[0]!.section, at: 1 }] } },
      1,
      1,
    );
    const before = JSON.stringify([...memory.values]);
    const opened = await new SongStorage().open('song');
    expect(opened?.ok && Object.keys(opened.song.ledger.takes)).toEqual(takes.map(({ id }) => id));
    expect(JSON.stringify([...memory.values])).toBe(before);
  });

  it('let go of cleared takes once neither of their states names them', async () => {
    const storage = new SongStorage();
    await storage.save(song, 1, 1);
    const gone = takes.at(-1)!.id;
    const { [gone]: _cleared, ...left } = song.ledger.takes;
    const without = { ...song, ledger: { ...song.ledger, takes: left } };
    await storage.save(without, 2, 2);
    expect(memory.values.has(`song/song/take/${gone}`)).toBe(true);
    await storage.save(without, 3, 3);
    expect(memory.values.has(`song/song/take/${gone}`)).toBe(false);
    expect([...memory.values.keys()].filter((key) => key.includes('/take/'))).toHaveLength(takes.length - 1);
    // What is brought back is written again.
    await storage.save(song, 4, 4);
    expect(await new SongStorage().open('song')).toMatchObject({ ok: true, setAside: [] });
  });

  it('are written whole again where the database has lost them, and that is told', async () => {
    const storage = new SongStorage();
    expect(await storage.save(song, 1, 1)).toBe(false);
    memory.values.clear();
    expect(await storage.has('song')).toBe(false);
    expect(await storage.save(song, 2, 2)).toBe(true);
    const opened = await new SongStorage().open('song');
    expect(opened).toMatchObject({ ok: true, setAside: [] });
    expect(opened?.ok && Object.keys(opened.song.ledger.takes)).toHaveLength(takes.length);
  });

  it('of an older version are carried over as a whole when they are saved again', async () => {
    for (const [id, take] of Object.entries(old.ledger.takes)) memory.values.set(`song/${old.id}/take/${id}`, take);
    memory.values.set(`song/${old.id}/body/0`, {
      format: 'fendro-song',
      version: 2,
      id: old.id,
      seed: old.seed,
      score: old.score,
      heard: old.ledger.heard,
      takes: Object.keys(old.ledger.takes),
    });
    memory.values.set(`song/${old.id}/current`, 0);
    const storage = new SongStorage();
    const opened = await storage.open(old.id);
    if (!opened?.ok) throw new Error('not opened');
    // Killed at every write on the way, it opens: takes of both versions may lie side by side.
    for (let kill = 0; kill < 20; kill++) {
      writesLeft = kill;
      await storage.save(opened.song, 1, 1).catch(() => undefined);
      writesLeft = Number.POSITIVE_INFINITY;
      expect(await new SongStorage().open(old.id)).toMatchObject({
        ok: true,
        setAside: [],
        song: { score: opened.song.score },
      });
    }
  });

  it('tell in words what storage cannot do', async () => {
    writesLeft = 0;
    await expect(new SongStorage().save(song, 1, 1)).rejects.toThrow('the browser’s storage does not work (killed)');
  });

  it('remember small settings', async () => {
    const storage = new SongStorage();
    await storage.remember('last', 'song');
    expect(await storage.recall('last')).toBe('song');
    expect(await storage.recall('nothing')).toBeNull();
  });

  it('knows the sounds that any state of any song names, and does not guess where a state is damaged', async () => {
    memory.values.clear();
    writesLeft = Number.POSITIVE_INFINITY;
    const storage = new SongStorage();
    const guide = (sound: string): Guide => ({
      id: sound,
      name: sound,
      place: song.score.order[0]!.id,
      at: 0,
      offset: 0,
      level: 80,
      muted: false,
      seconds: 1,
      sound,
    });
    const sung = (...sounds: string[]): Song => ({ ...song, score: { ...song.score, guides: sounds.map(guide) } });
    await storage.save(sung('a', 'b'), 1, 1);
    await storage.save(sung('b'), 2, 2);
    await storage.save({ ...sung('c'), id: 'other' }, 1, 1);
    expect(await storage.guideSounds()).toEqual(new Set(['a', 'b', 'c']));
    await storage.save(sung('b'), 3, 3);
    expect(await storage.guideSounds()).toEqual(new Set(['b', 'c']));
    const body = [...memory.values.keys()].find((key) => key.includes('other/body'))!;
    memory.values.set(body, 'torn');
    expect(await storage.guideSounds()).toBeNull();
  });
});
