import { inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { readMidi } from '@fendro/core/files/midi-read';
import { openSong, type OpenedSong } from '@fendro/core/song/song-file';
import { SONG_VERSION, type Ground, type Score, type Song, type Take } from '@fendro/core/song/schema';
import { startScore } from '@fendro/core/styles/band';
import type { Style } from '@fendro/core/song/style';
import { withStyle } from '@fendro/core/styles/styles';
import { newId, newSeed } from './ids';
import { Saving, songOf } from './saving';
import { selectSong } from './selectors';
import { SongActions } from './song.actions';
import { SongStorage, type SongEntry } from './song-storage';

const DEMO_ADDRESS = 'demo/barometer-falling.json';
const LAST_OPEN = 'last open';

export type Result = { readonly ok: true; readonly setAside: readonly string[] } | { readonly ok: false; readonly reason: string };

const looksLikeMidi = (bytes: Uint8Array): boolean => String.fromCharCode(...bytes.subarray(0, 4)) === 'MThd';

/** MIDI files are no songs of Fendro's; what is said depends on whether the file is sound. */
function midiInstead(bytes: Uint8Array): Result {
  const reading = readMidi(bytes);
  if (!reading.ok) return reading;
  const { tracks, tempo } = reading.file;
  const notes = tracks.reduce((total, track) => total + track.notes.length, 0);
  return { ok: false, reason: `This is a MIDI file (${tracks.length} tracks, ${notes} notes${tempo === null ? '' : `, ${Math.round(tempo)} beats a minute`}), not a song of Fendro’s. Bring it in on the page “Bring in a MIDI file”.` };
}

/** Starting, opening, copying and removing songs. */
@Injectable({ providedIn: 'root' })
export class Library {
  private readonly store = inject(Store);
  private readonly storage = inject(SongStorage);
  private readonly saving = inject(Saving);
  private readonly state = this.store.selectSignal(selectSong);

  /** Opens what was open last; on the very first start, the demo. */
  async openLast(): Promise<Result> {
    if (this.state().open) return { ok: true, setAside: [] };
    const last = await this.storage.recall(LAST_OPEN).catch(() => null);
    if (last !== null) {
      const result = await this.open(last);
      if (result.ok) return result;
      const demo = await this.openDemo();
      return demo.ok ? { ok: false, reason: `${result.reason} The demo song is open instead; the damaged song is untouched.` } : demo;
    }
    return this.openDemo();
  }

  async open(id: string): Promise<Result> {
    if (id === this.state().open?.id) return { ok: true, setAside: [] };
    const opened = await this.storage.open(id);
    return opened === null ? { ok: false, reason: 'This song is not in the browser’s storage any more.' } : this.show(opened);
  }

  /** Opens the demo anew, as a song of its own that can be changed freely. */
  async openDemo(): Promise<Result> {
    const response = await fetch(DEMO_ADDRESS);
    if (!response.ok) return { ok: false, reason: `The demo song could not be loaded (${response.status}). Reload the page to try again.` };
    const opened = openSong(await response.json());
    if (!opened.ok) return opened;
    return this.show({ ...opened, song: { ...opened.song, id: newId('song') } }, true);
  }

  async start(title: string, ground: Ground, style: Style): Promise<void> {
    const score = withStyle(startScore(title, ground, style), style);
    const song: Song = { format: 'fendro-song', version: SONG_VERSION, id: newId('song'), seed: newSeed(), score, ledger: { takes: {}, heard: [] } };
    await this.show({ ok: true, song, setAside: [] }, true);
  }

  /** Makes a song of music that came from elsewhere, and opens it. */
  async adopt(score: Score, takes: readonly Take[]): Promise<void> {
    const song: Song = { format: 'fendro-song', version: SONG_VERSION, id: newId('song'), seed: newSeed(), score, ledger: { takes: Object.fromEntries(takes.map((take) => [take.id, take])), heard: [] } };
    await this.show({ ok: true, song, setAside: [] }, true);
  }

  private async show(opened: OpenedSong, isNew = false): Promise<Result> {
    if (!opened.ok) return opened;
    await this.saving.now();
    await this.saving.claim(opened.song.id);
    this.store.dispatch(SongActions.opened({ song: opened.song }));
    if (isNew) await this.saving.now();
    await this.storage.remember(LAST_OPEN, opened.song.id).catch(() => undefined);
    return { ok: true, setAside: opened.setAside };
  }

  list(): Promise<SongEntry[]> {
    return this.storage.list();
  }

  async duplicate(id: string): Promise<void> {
    // The song that is open may have changes on their way to storage.
    await this.saving.now();
    const opened = await this.storage.open(id);
    if (!opened?.ok) return;
    const { song } = opened;
    await this.storage.save({ ...song, id: newId('song'), score: { ...song.score, title: `${song.score.title} (copy)` } }, Date.now());
  }

  async rename(id: string, title: string): Promise<void> {
    const opened = await this.storage.open(id);
    if (opened?.ok) await this.storage.save({ ...opened.song, score: { ...opened.song.score, title } }, Date.now());
  }

  /** Takes a song away and hands it back, so that this can be undone. */
  async remove(id: string): Promise<Song | null> {
    const opened = await this.storage.open(id);
    await this.storage.remove(id);
    return opened?.ok ? opened.song : null;
  }

  async putBack(song: Song): Promise<void> {
    await this.storage.save(song, Date.now());
  }

  /** The open song as one file's text. */
  songFile(): string | null {
    const song = songOf(this.state());
    return song ? JSON.stringify(song) : null;
  }

  /** Opens a song file as a song of its own; a file that is none changes nothing. */
  async openFile(bytes: Uint8Array): Promise<Result> {
    if (looksLikeMidi(bytes)) return midiInstead(bytes);
    let data: unknown;
    try {
      data = JSON.parse(new TextDecoder().decode(bytes));
    } catch {
      return { ok: false, reason: 'This is not a Fendro song file: its text cannot be read.' };
    }
    const opened = openSong(data);
    return opened.ok ? this.show({ ...opened, song: { ...opened.song, id: newId('song') } }, true) : opened;
  }
}
