import { TestBed } from '@angular/core/testing';
import { unzipSync, zipSync } from 'fflate';
import { addGuides } from '@fendro/core/song/guides';
import type { Song } from '@fendro/core/song/schema';
import { openSong } from '@fendro/core/song/song-file';
import { scoreWith } from '@fendro/core/testing/scores';
import { musicOf, storedSong } from '@fendro/core/testing/sounding';
import { shelfFileText, type KindedItem } from '../storage/shelf-file';
import { EMPTY_SHELF } from '../storage/shelf-storage';
import { Shelf } from '../store/shelf';
import { provideSong } from '../store/provide-song';
import { Backup } from './backup';
import { GuideSounds } from './guides/guide-sounds';
import { Library } from './library';
import type { Wave } from '@fendro/core/live/wave';

const { score, takes } = scoreWith(1, 0);
const song = (id: string, title: string): Song => {
  const stored = storedSong(musicOf({ ...score, title }, takes), id);
  const guide = {
    id: 'voice',
    name: 'Voice',
    place: score.order[0]!.id,
    at: 0,
    offset: 0,
    level: 80,
    muted: false,
    seconds: 1,
    sound: `sound-${id}`,
  };
  return { ...stored, score: addGuides(stored.score, [guide]) };
};
const DAY = new Date('2026-11-28T12:00:00Z');
const text = (bytes: Uint8Array): string => new TextDecoder().decode(bytes);

/** A machine with some songs, sounds of guides and a shelf. */
function machine(...songs: Song[]) {
  const stored = new Map(songs.map((one) => [one.id, one]));
  const sounds = new Map<string, Wave>(
    songs.map(({ id }) => [`sound-${id}`, { rate: 48_000, samples: Int16Array.of(1, -2, 3) }]),
  );
  const damaged = new Set<string>();
  const brought: KindedItem[] = [];
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({
    providers: [
      provideSong(),
      {
        provide: Library,
        useValue: {
          list: () => Promise.resolve([...stored.values()].map(({ id, score: { title } }) => ({ id, title }))),
          stored: (id: string) =>
            Promise.resolve(damaged.has(id) ? { ok: false, reason: 'damaged' } : openSong(stored.get(id))),
          rawFile: (id: string) => Promise.resolve(`{"raw":"${id}"}`),
          putBack: (one: Song) => Promise.resolve(void stored.set(one.id, one)),
        },
      },
      {
        provide: GuideSounds,
        useValue: {
          of: (name: string) => Promise.resolve(sounds.get(name) ?? null),
          bring: (name: string, wave: Wave) => Promise.resolve(void sounds.set(name, wave)),
        },
      },
      {
        provide: Shelf,
        useValue: {
          contents: () => ({ ...EMPTY_SHELF, rhythms: ['own:x'] }),
          bring: (items: readonly KindedItem[]) => brought.push(...items),
        },
      },
    ],
  });
  return { backup: TestBed.inject(Backup), stored, sounds, damaged, brought };
}

describe('everything in one file', () => {
  it('comes back on another machine: every song with all its takes and sounds, and the shelf', async () => {
    const here = machine(song('a', 'Fog Log'), song('b', 'Low Tide'), song('c', 'Low Tide'));
    const { name, bytes, said } = await here.backup.write(DAY);
    expect(name).toBe('Fendro - everything - 2026-11-28.zip');
    expect(said).toBe('3 songs and the shelf are in one file.');
    expect(Object.keys(unzipSync(bytes))).toEqual([
      'songs/Fog Log.fendro',
      'songs/Low Tide.fendro',
      'songs/Low Tide (2).fendro',
      'shelf.json',
    ]);
    const there = machine();
    const result = await there.backup.read(bytes);
    expect(result).toEqual({ ok: true, remark: '3 songs came back; 1 thing came back to the shelf.' });
    expect([...there.stored.values()]).toEqual([...here.stored.values()]);
    expect(there.sounds).toEqual(here.sounds);
    expect(there.brought).toEqual([{ kind: 'rhythms', item: 'own:x' }]);
  });

  it('changes nothing that is here already', async () => {
    const { backup, stored } = machine(song('a', 'Fog Log'), song('b', 'Low Tide'));
    const { bytes } = await backup.write(DAY);
    stored.set('a', song('a', 'Fog Log, further on'));
    stored.delete('b');
    expect(await backup.read(bytes)).toMatchObject({
      ok: true,
      remark: expect.stringMatching(/^1 song came back; 1 was here already and stayed as it is;/) as string,
    });
    expect(stored.get('a')!.score.title).toBe('Fog Log, further on');
    expect(stored.get('b')!.score.title).toBe('Low Tide');
  });

  it('takes along what is stored of a song that cannot be opened, and says so', async () => {
    const { backup, damaged } = machine(song('a', 'Fog Log'), song('b', 'Low Tide'));
    damaged.add('b');
    const { bytes, said } = await backup.write(DAY);
    expect(said).toContain('Low Tide cannot be opened now');
    expect(text(unzipSync(bytes)['songs/Low Tide - stored data.json']!)).toBe('{"raw":"b"}');
  });

  it('says what of it cannot be read, and what is no such file', async () => {
    const { backup, stored } = machine();
    const sound = JSON.stringify(storedSong(musicOf(score, takes), 'sound'));
    const zip = zipSync({
      'songs/Good.fendro': new TextEncoder().encode(sound),
      'songs/Bad.fendro': new TextEncoder().encode('{"format":'),
      'shelf.json': new TextEncoder().encode(shelfFileText([]).replace('fendro-shelf', 'else')),
    });
    expect(await backup.read(zip)).toEqual({
      ok: true,
      remark: '1 song came back; Bad.fendro could not be read; the shelf in it could not be read.',
    });
    expect([...stored.keys()]).toEqual(['sound']);
    expect(await backup.read(zipSync({ 'notes.txt': Uint8Array.of(65) }))).toEqual({
      ok: false,
      reason: 'There is no song of Fendro’s in this file.',
    });
    expect(await backup.read(Uint8Array.of(0x50, 0x4b, 3, 4, 9, 9))).toMatchObject({
      ok: false,
      reason: expect.stringContaining('could not be unpacked') as string,
    });
  });
});
