import { TestBed } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import { within } from '@testing-library/dom';
import { Store } from '@ngrx/store';
import { chordsOfFile } from '@fendro/core/files/incoming/imported-song';
import type { ImportFile } from '@fendro/core/files/incoming/file-model';
import { guidesOf } from '@fendro/core/song/guides';
import { LIMITS } from '@fendro/core/song/limits';
import type { Score, Take } from '@fendro/core/song/schema';
import { scoreWith } from '@fendro/core/testing/scores';
import { musicOf, storedSong } from '@fendro/core/testing/sounding';
import type { Key } from '@fendro/core/theory/key';
import { Drafting } from '../../desks/drafting';
import { GuideSounds } from '../../desks/guides/guide-sounds';
import { Library } from '../../desks/library';
import { EMPTY_SHELF } from '../../storage/shelf-storage';
import { Notices } from '../../store/notices';
import { provideSong } from '../../store/provide-song';
import { selectOwnScore } from '../../store/selectors';
import { Shelf } from '../../store/shelf';
import { SongActions } from '../../store/song.actions';
import { provideIcons } from '../../ui/icons';
import { ImportClient } from '../../work/import-client';
import { MidiFile } from './midi-file';
import { MidiFileDesk } from './midi-file-desk';
import { RecordingDesk, SoundReader } from './recording-desk';

const { score, takes } = scoreWith(1, 0);
const WAV = new TextEncoder().encode('RIFF....WAVEfmt ').buffer;

async function shown(of: Score = score) {
  const adopt = jest.fn<Promise<{ ok: true; remark: null }>, [Score, readonly Take[]]>(() =>
    Promise.resolve({ ok: true, remark: null }),
  );
  const add = jest.fn((_wave: { readonly samples: Int16Array }) => Promise.resolve('sound-1'));
  const reader = {
    mono: jest.fn(() => Promise.resolve(new Float32Array(22_050))),
    wave: jest.fn(() => Promise.resolve({ rate: 48_000, samples: new Int16Array(48_000 * 20) })),
  };
  const client = {
    read: () => Promise.resolve({ ok: false, reason: 'no MIDI file' }),
    chords: (file: ImportFile, picked: readonly string[], key: Key) => Promise.resolve(chordsOfFile(file, picked, key)),
  };
  TestBed.configureTestingModule({
    providers: [
      provideSong(),
      provideRouter([]),
      provideIcons(),
      MidiFileDesk,
      RecordingDesk,
      { provide: Library, useValue: { adopt } },
      { provide: Drafting, useValue: { draftParts: jest.fn() } },
      { provide: GuideSounds, useValue: { add } },
      { provide: ImportClient, useValue: client },
      { provide: SoundReader, useValue: reader },
      { provide: Shelf, useValue: { contents: () => EMPTY_SHELF } },
    ],
  });
  const store = TestBed.inject(Store) as Store;
  store.dispatch(SongActions.opened({ song: storedSong(musicOf(of, takes)) }));
  jest.spyOn(TestBed.inject(Router), 'navigateByUrl').mockResolvedValue(true);
  const fixture = TestBed.createComponent(MidiFile);
  await fixture.whenStable();
  const page = fixture.nativeElement as HTMLElement;
  const settle = async (): Promise<void> => {
    for (let turn = 0; turn < 8; turn++) {
      await new Promise((resolve) => setTimeout(resolve));
      await fixture.whenStable();
    }
  };
  const open = async (name: string, bytes: ArrayBuffer): Promise<void> => {
    const picked = Object.assign(new File([], name), { arrayBuffer: () => Promise.resolve(bytes) });
    void TestBed.inject(RecordingDesk).open(picked);
    await settle();
  };
  const by = within(page);
  const click = async (name: string): Promise<void> => {
    by.getByRole('button', { name }).click();
    await settle();
  };
  const heard = (): string[] =>
    [...page.querySelectorAll('[aria-label="Chords that were heard"] fd-chord-symbol')].map(({ textContent }) =>
      textContent.trim(),
    );
  return { adopt, add, by, click, heard, open, reader, settle, own: () => store.selectSignal(selectOwnScore)()! };
}

describe('a recording that comes in', () => {
  it('is listened to: its tempo, bars and chords are told, and how sure they are', async () => {
    const { by, open, heard } = await shown();
    await open('rehearsal.wav', WAV);
    expect(by.getByText(/8 bars of 4\/4, 120 beats a minute/).textContent).toContain('C major');
    expect(heard().join(' ')).toBe('C Am F G C Am F G');
    expect(by.getByText('8 sure')).toBeTruthy();
    expect(by.getByText(/The first bar begins at 0\.25 s\. The beats come evenly\./)).toBeTruthy();
  });

  it('is set right by hand, one thing after the other', async () => {
    const { by, click, open } = await shown();
    await open('rehearsal.wav', WAV);
    await click('Half as fast');
    expect(by.getByText(/4 bars of 4\/4, 60 beats a minute/)).toBeTruthy();
    await click('A beat later');
    expect(by.getByText(/5 bars of 4\/4, 60 beats/)).toBeTruthy();
    await click('A beat earlier');
    await click('Twice as fast');
    expect(by.getByText(/8 bars of 4\/4, 120 beats a minute/)).toBeTruthy();
    const metre = by.getByRole<HTMLSelectElement>('combobox', { name: 'Metre of the recording' });
    metre.value = [...metre.options].find(({ text }) => text === '2/4')!.value;
    metre.dispatchEvent(new Event('change'));
    await click('A beat later');
    await click('A beat earlier');
    expect(by.getByText(/16 bars of 2\/4, 120 beats/)).toBeTruthy();
  });

  it('becomes a song with the recording under its first bar', async () => {
    const { adopt, add, click, open } = await shown();
    await open('rehearsal.wav', WAV);
    await click('Make it a song of its own');
    const [song] = adopt.mock.lastCall!;
    expect([song.title, song.ground.tempo, song.parts.length]).toEqual(['rehearsal', 120, 2]);
    expect(guidesOf(song)).toMatchObject([
      { name: 'rehearsal', place: song.order[0]!.id, at: 0, offset: 0, sound: 'sound-1' },
    ]);
    expect(add.mock.lastCall![0].samples.length / 48_000).toBeCloseTo(20 - 0.25, 2);
  });

  it('comes into the open song without its sound where that is not wanted', async () => {
    const { add, by, click, open, own, settle } = await shown();
    await open('rehearsal.wav', WAV);
    by.getByRole('checkbox', { name: /Lay the recording/ }).click();
    await settle();
    await click('Bring it into this song');
    expect([own().sections.length, guidesOf(own()).length, add.mock.calls.length]).toEqual([
      score.sections.length + 1,
      0,
      0,
    ]);
  });

  it('is left out of a song that has no room for more of them, which is told', async () => {
    const [place] = score.order;
    const guides = Array.from({ length: LIMITS.guides }, (_, index) => ({
      id: `guide-${index}`,
      name: `Voice ${index}`,
      place: place!.id,
      at: 0,
      offset: 0,
      level: 80,
      muted: true,
      seconds: 4,
      sound: `sound-${index}`,
    }));
    const { add, click, open, own } = await shown({ ...score, guides });
    await open('rehearsal.wav', WAV);
    await click('Bring it into this song');
    expect([own().sections.length, guidesOf(own()).length, add.mock.calls.length]).toEqual([
      score.sections.length + 1,
      LIMITS.guides,
      0,
    ]);
    expect(
      TestBed.inject(Notices)
        .open()
        .map(({ text }) => text),
    ).toContain('rehearsal.wav does not lie under the song: a song holds 16 recordings.');
  });

  it('that was given up on its way is no longer listened to, and the next file is only read', async () => {
    const { by, click, open, reader, settle } = await shown();
    reader.mono.mockReturnValueOnce(new Promise(() => undefined));
    await open('rehearsal.wav', WAV);
    expect(by.getByText('Listening …')).toBeTruthy();
    await click('Cancel');
    expect(by.queryByText('Listening …')).toBeNull();
    const late = Object.assign(new File([], 'notes.mid'), { arrayBuffer: () => new Promise<never>(() => undefined) });
    void TestBed.inject(RecordingDesk).open(late);
    await settle();
    expect(by.getByText('Reading …')).toBeTruthy();
  });

  it('that cannot be read says so, and what was open stays', async () => {
    const { by, heard, open, reader } = await shown();
    await open('rehearsal.wav', WAV);
    reader.mono.mockRejectedValueOnce(new Error('the browser cannot read its sound.'));
    await open('broken.mp3', new TextEncoder().encode('ID3').buffer);
    expect(by.getByRole('alert').textContent).toBe('broken.mp3: the browser cannot read its sound.');
    expect(heard()).toHaveLength(8);
    await open('notes.mid', new TextEncoder().encode('MThd').buffer);
    expect(by.getByRole('alert').textContent).toBe('notes.mid: no MIDI file');
    expect(heard()).toHaveLength(8);
  });
});
