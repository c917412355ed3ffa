import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { deliverSong } from '@fendro/core/files/outgoing/deliver';
import type { Wave } from '@fendro/core/live/wave';
import { addGuides } from '@fendro/core/song/guides';
import type { Song } from '@fendro/core/song/schema';
import { scoreWith } from '@fendro/core/testing/scores';
import { musicOf, storedSong } from '@fendro/core/testing/sounding';
import { SongStorage } from '../storage/song-storage';
import { provideSong } from '../store/provide-song';
import { Saving } from '../store/saving';
import { selectSong } from '../store/selectors';
import { SongActions } from '../store/song.actions';
import { GuideSounds } from './guides/guide-sounds';
import { SongFiles } from './song-files';

const { score, takes } = scoreWith(1, 0);
const music = musicOf(score, takes);
const bytesOf = (text: string): Uint8Array => new TextEncoder().encode(text);

describe('song files', () => {
  const sounds = new Map<string, Wave>();
  let files: SongFiles;
  let store: Store;
  const open = () => store.selectSignal(selectSong)();

  beforeEach(() => {
    sounds.clear();
    TestBed.configureTestingModule({
      providers: [
        provideSong(),
        {
          provide: SongStorage,
          useValue: { save: () => Promise.resolve(), remember: () => Promise.resolve(), settled: () => undefined },
        },
        {
          provide: Saving,
          useValue: {
            now: () => Promise.resolve(),
            nowNew: () => Promise.resolve(),
            claim: () => Promise.resolve(),
            startFrom: () => undefined,
          },
        },
        {
          provide: GuideSounds,
          useValue: {
            of: (name: string) => Promise.resolve(sounds.get(name) ?? null),
            bring: (name: string, wave: Wave) => Promise.resolve(void sounds.set(name, wave)),
          },
        },
      ],
    });
    store = TestBed.inject(Store) as Store;
    files = TestBed.inject(SongFiles);
  });

  it('are opened as songs of their own, and tell what else a file is', async () => {
    expect(await files.write(false)).toBeNull();
    const text = JSON.stringify(storedSong(music, 'from elsewhere'));
    expect(await files.open(bytesOf(text))).toEqual({ ok: true, remark: null });
    expect(open().open!.id).not.toBe('from elsewhere');
    expect(JSON.parse((await files.write(false))!)).toMatchObject({ format: 'fendro-song', id: open().open!.id });
    const before = open().open;
    const { bytes } = deliverSong(music);
    expect(await files.open(bytes)).toMatchObject({
      ok: false,
      reason: expect.stringMatching(/MIDI file \(6 tracks, \d+ notes, 96 beats a minute\)/) as string,
    });
    for (const other of ['no json', '{}', '{"format":"fendro-song","version":99}'])
      expect((await files.open(bytesOf(other))).ok).toBe(false);
    expect(open().open).toEqual(before);
  });

  it('have the sounds of guides where that is wished, sample by sample, and tell of those that are damaged', async () => {
    const guide = (id: string, sound: string) => ({
      id,
      name: id,
      place: score.order[0]!.id,
      at: 0,
      offset: 0,
      level: 80,
      muted: false,
      seconds: 1,
      sound,
    });
    const withGuides: Song = {
      ...storedSong(music, 'sung'),
      score: addGuides(score, [guide('Hum', 'sound-1'), guide('Lost', 'sound-2')]),
    };
    store.dispatch(SongActions.opened({ song: withGuides }));
    // Longer than what is written at once, and of an odd length.
    const samples = Int16Array.from({ length: 120_001 }, (_, at) => ((at * 7919) % 65_536) - 32_768);
    sounds.set('sound-1', { rate: 44_100, samples });
    const plain = (await files.write(false))!;
    const whole = (await files.write(true))!;
    expect(plain.length).toBeLessThan(whole.length / 2);

    sounds.clear();
    expect(await files.open(bytesOf(plain))).toEqual({ ok: true, remark: null });
    expect(sounds.size).toBe(0);
    expect(await files.open(bytesOf(whole))).toEqual({ ok: true, remark: null });
    expect([...sounds.keys()]).toEqual(['sound-1']);
    expect(sounds.get('sound-1')!.rate).toBe(44_100);
    expect(sounds.get('sound-1')!.samples).toEqual(samples);

    const damaged = JSON.stringify({ ...withGuides, sounds: { 'sound-1': { rate: 1, samples: '§' }, 'sound-2': 7 } });
    expect(await files.open(bytesOf(damaged))).toMatchObject({
      ok: true,
      remark: expect.stringMatching(/The sound of Hum, Lost in this file could not be read/) as string,
    });
    expect(open().score!.guides).toHaveLength(2);
  });
});
