import { inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import * as z from 'zod';
import type { Wave } from '@fendro/core/live/wave';
import { guidesOf } from '@fendro/core/song/guides';
import type { Score, Song } from '@fendro/core/song/schema';
import { openingSong } from '@fendro/core/song/song-file';
import { songOf } from '../store/saving';
import { selectSession, selectSong } from '../store/selectors';
import { inSlices } from '../ui/in-slices';
import { inWords } from '../ui/in-words';
import { FilesClient } from '../work/files-client';
import { GuideSounds } from './guides/guide-sounds';
import { Library, type Result } from './library';

const looksLikeMidi = (bytes: Uint8Array): boolean => String.fromCharCode(...bytes.subarray(0, 4)) === 'MThd';

/** MIDI files are no songs of Fendro's; what is said depends on whether the file is sound. */
async function midiInstead(bytes: Uint8Array): Promise<Extract<Result, { ok: false }>> {
  const { readMidi } = await import('@fendro/core/files/midi/midi-read');
  const reading = readMidi(bytes);
  if (!reading.ok) return { ok: false, reason: reading.reason };
  const { tracks, tempo } = reading.file;
  const notes = tracks.reduce((total, track) => total + track.notes.length, 0);
  const speed = tempo === null ? '' : `, ${Math.round(tempo)} beats a minute`;
  return {
    ok: false,
    reason:
      `This is a MIDI file (${tracks.length} tracks, ${notes} notes${speed}), not a song of Fendro’s. ` +
      'Bring it in on the page “Bring in”.',
  };
}

/** Sounds of guides as a song file has them: by their names, 16 bits as text of 64 signs, the lower byte first. */
const soundsSchema = z.record(z.string(), z.object({ rate: z.number().positive(), samples: z.string() }));

/** Bytes that are written or read at once, before others have their turn; a multiple of 3 and of 2. */
const STEP = 96_000;
/** No function takes more arguments than this at once. */
const AT_ONCE = 8_000;

function* writing({ samples }: Wave): Generator<void, string> {
  const bytes = new Uint8Array(samples.buffer, samples.byteOffset, samples.byteLength);
  let text = '';
  for (let from = 0; from < bytes.length; from += STEP) {
    let piece = '';
    for (let at = from; at < Math.min(bytes.length, from + STEP); at += AT_ONCE)
      piece += String.fromCharCode(...bytes.subarray(at, Math.min(at + AT_ONCE, from + STEP)));
    text += btoa(piece);
    yield;
  }
  return text;
}

/** Four signs are three bytes. */
const SIGNS = (STEP / 3) * 4;

/** @throws DOMException where it is no such text */
function* reading(text: string): Generator<void, Int16Array> {
  const pieces: Uint8Array[] = [];
  for (let from = 0; from < text.length; from += SIGNS) {
    const piece = atob(text.slice(from, from + SIGNS));
    pieces.push(Uint8Array.from(piece, (sign) => sign.charCodeAt(0)));
    yield;
  }
  const length = pieces.reduce((sum, piece) => sum + piece.length, 0);
  const bytes = new Uint8Array(length - (length % 2));
  let at = 0;
  for (const piece of pieces) {
    bytes.set(piece.subarray(0, bytes.length - at), at);
    at += piece.length;
  }
  return new Int16Array(bytes.buffer);
}

/** Songs as files, out and in, with the sounds of their guides where that is wished. */
@Injectable({ providedIn: 'root' })
export class SongFiles {
  private readonly store = inject(Store);
  private readonly library = inject(Library);
  private readonly files = inject(FilesClient);
  private readonly sounds = inject(GuideSounds);
  private readonly state = this.store.selectSignal(selectSong);
  private readonly session = this.store.selectSignal(selectSession);

  /**
   * The open song as one file's text; null where none is open.
   *
   * @param withSounds  whether the sounds of its guides go along
   */
  async write(withSounds: boolean): Promise<string | null> {
    const song = songOf(this.state(), this.session());
    return song && this.textOf(song, withSounds);
  }

  /** Any song as one file's text. */
  async textOf(song: Song, withSounds: boolean): Promise<string> {
    return JSON.stringify(withSounds ? { ...song, sounds: await this.soundsOf(song.score) } : song);
  }

  private async soundsOf(score: Score): Promise<z.infer<typeof soundsSchema>> {
    const sounds: z.infer<typeof soundsSchema> = {};
    for (const { sound } of guidesOf(score)) {
      const wave = await this.sounds.of(sound);
      if (wave) sounds[sound] = { rate: wave.rate, samples: await inSlices(writing(wave)) };
    }
    return sounds;
  }

  /** Opens a song file as a song of its own; a file that is none changes nothing. */
  async open(bytes: Uint8Array): Promise<Result> {
    if (looksLikeMidi(bytes)) return midiInstead(bytes);
    let data: unknown;
    try {
      data = await this.files.readSong(bytes);
    } catch (problem) {
      return { ok: false, reason: `This file could not be read: ${inWords(problem)}. Try again.` };
    }
    if (data === null) return { ok: false, reason: 'This is not a Fendro song file: its text cannot be read.' };
    const opened = await inSlices(openingSong(data));
    const lost = opened.ok ? await this.bringSounds(data, opened.song.score) : [];
    const result = await this.library.openAsNew(opened);
    if (!result.ok || lost.length === 0) return result;
    const remark = `The sound of ${lost.join(', ')} in this file could not be read.`;
    return { ok: true, remark: [result.remark, remark].filter((text) => text !== null).join(' ') };
  }

  /** Stores the sounds that came with a song. @returns the guides whose sound could not be read */
  async bringSounds(data: unknown, score: Score): Promise<readonly string[]> {
    const there = z.object({ sounds: z.record(z.string(), z.unknown()) }).safeParse(data);
    if (!there.success) return [];
    const lost: string[] = [];
    for (const { name, sound } of guidesOf(score)) {
      const read = soundsSchema.valueType.safeParse(there.data.sounds[sound]);
      if (there.data.sounds[sound] === undefined) continue;
      try {
        if (!read.success) throw new TypeError('no sound');
        const samples = await inSlices(reading(read.data.samples));
        await this.sounds.bring(sound, { rate: read.data.rate, samples });
      } catch {
        lost.push(name);
      }
    }
    return lost;
  }
}
