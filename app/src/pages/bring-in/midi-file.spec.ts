import { TestBed } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import { within } from '@testing-library/dom';
import { Store } from '@ngrx/store';
import { keysOfFile } from '@fendro/core/files/incoming/imported-song';
import { readImport } from '@fendro/core/files/incoming/midi-import';
import { deliverSong } from '@fendro/core/files/outgoing/deliver';
import type { PartId, Score, Take } from '@fendro/core/song/schema';
import { scoreWith } from '@fendro/core/testing/scores';
import { musicOf, storedSong } from '@fendro/core/testing/sounding';
import { Drafting } from '../../desks/drafting';
import { Library } from '../../desks/library';
import { provideSong } from '../../store/provide-song';
import { Shelf } from '../../store/shelf';
import { SongActions } from '../../store/song.actions';
import { provideIcons } from '../../ui/icons';
import { EMPTY_SHELF } from '../../storage/shelf-storage';
import { ImportClient } from '../../work/import-client';
import { MidiFile } from './midi-file';
import { MidiFileDesk } from './midi-file-desk';
import { RecordingDesk } from './recording-desk';

const { score, takes } = scoreWith(1, 0);
const swinging = musicOf({ ...score, ground: { ...score.ground, swing: 62, feel: 0 } }, takes);

async function shown() {
  const adopt = jest.fn<Promise<{ ok: true; remark: null }>, [Score, readonly Take[]]>(() =>
    Promise.resolve({ ok: true, remark: null }),
  );
  const draftParts = jest.fn<Promise<boolean>, [ReadonlySet<PartId>]>(() => Promise.resolve(true));
  const reading = readImport(deliverSong(swinging).bytes);
  if (!reading.ok) throw new Error(reading.reason);
  const client = {
    read: () => Promise.resolve({ ok: true, found: { file: reading.file, keys: keysOfFile(reading.file) } }),
    chords: () => Promise.resolve(reading.file.sections.map(() => [])),
  };
  TestBed.configureTestingModule({
    providers: [
      provideSong(),
      provideRouter([]),
      provideIcons(),
      MidiFileDesk,
      RecordingDesk,
      { provide: Library, useValue: { adopt } },
      { provide: Drafting, useValue: { draftParts } },
      { provide: ImportClient, useValue: client },
      { provide: Shelf, useValue: { contents: () => EMPTY_SHELF } },
    ],
  });
  TestBed.inject(Store).dispatch(SongActions.opened({ song: storedSong(musicOf(score, takes)) }));
  const went = jest.spyOn(TestBed.inject(Router), 'navigateByUrl').mockResolvedValue(true);
  const fixture = TestBed.createComponent(MidiFile);
  await fixture.whenStable();
  const page = fixture.nativeElement as HTMLElement;
  const settle = async (): Promise<void> => {
    for (let turn = 0; turn < 4; turn++) {
      await new Promise((resolve) => setTimeout(resolve));
      await fixture.whenStable();
    }
  };
  const file = page.querySelector<HTMLInputElement>('input[type=file]')!;
  const bytes = deliverSong(swinging).bytes;
  const picked = Object.assign(new File([], 'rain.mid'), { arrayBuffer: () => Promise.resolve(bytes.buffer) });
  Object.defineProperty(file, 'files', { value: [picked] });
  file.dispatchEvent(new Event('change'));
  await settle();
  return { adopt, draftParts, by: within(page), settle, went };
}

describe('a MIDI file that comes in', () => {
  it('becomes a song of its own as it is, and nothing is drafted unasked', async () => {
    const { adopt, draftParts, by, settle, went } = await shown();
    by.getByRole('button', { name: 'Make it a song of its own' }).click();
    await settle();
    const [song] = adopt.mock.lastCall!;
    expect(song.title).toBe('rain');
    expect(song.ground.swing).toBe(0);
    expect(song.parts.map(({ name }) => name)).toEqual(score.parts.map(({ name }) => name));
    expect(draftParts).not.toHaveBeenCalled();
    expect(went).toHaveBeenCalledWith('/');
  });

  it('gets a band where that is asked for: what the style plays and the file lacks, in the file’s swing', async () => {
    const { adopt, draftParts, by, settle } = await shown();
    const bass = score.parts.find(({ role }) => role === 'bass')!;
    by.getByRole('checkbox', { name: `Bring in ${bass.name}` }).click();
    by.getByRole('checkbox', { name: 'Fit a band to it' }).click();
    await settle();
    expect(by.getByText(/drafted to its tempo, key, chords and swing \(\d\d %\)\./).textContent).toContain('Bass');
    by.getByRole('button', { name: 'Make it a song of its own' }).click();
    await settle();
    const [song] = adopt.mock.lastCall!;
    expect(Math.abs(song.ground.swing - 62)).toBeLessThan(8);
    const added = song.parts.slice(score.parts.length - 1);
    expect(added.map(({ role }) => role)).toContain('bass');
    expect(draftParts).toHaveBeenCalledWith(new Set(added.map(({ id }) => id)));
  });
});
