import { inject, Injectable } from '@angular/core';
import { fileNameOf } from '@fendro/core/files/outgoing/file-names';
import { listed } from '@fendro/core/song/limits';
import { openingSong } from '@fendro/core/song/song-file';
import { allOf, readShelfFile, shelfFileText } from '../storage/shelf-file';
import { Shelf } from '../store/shelf';
import { inSlices } from '../ui/in-slices';
import { inWords } from '../ui/in-words';
import { FilesClient } from '../work/files-client';
import { Library, type Result } from './library';
import { SongFiles } from './song-files';

const SHELF_NAME = 'shelf.json';
const FOLDER = 'songs/';

/** A backup that was written. */
export interface WrittenBackup {
  readonly name: string;
  readonly bytes: Uint8Array<ArrayBuffer>;
  /** What is in it, in a sentence. */
  readonly said: string;
}

const count = (number: number, one: string, many: string): string => `${number} ${number === 1 ? one : many}`;

/** Everything of this machine in one file, and back: each song as a song file with the sounds of its guides, and the shelf. */
@Injectable({ providedIn: 'root' })
export class Backup {
  private readonly library = inject(Library);
  private readonly songFiles = inject(SongFiles);
  private readonly files = inject(FilesClient);
  private readonly shelf = inject(Shelf);

  /** @throws Error where songs cannot be reached */
  async write(now: Date): Promise<WrittenBackup> {
    const entries = await this.library.list();
    const files: { readonly name: string; readonly bytes: Uint8Array<ArrayBuffer> }[] = [];
    const raw: string[] = [];
    const add = (name: string, text: string): void => {
      files.push({ name, bytes: new TextEncoder().encode(text) });
    };
    for (const { id, title } of entries) {
      const opened = await this.library.stored(id);
      if (opened?.ok) add(FOLDER + fileNameOf([title], '.fendro'), await this.songFiles.textOf(opened.song, true));
      else {
        // What cannot be opened now may be one day.
        raw.push(title);
        add(FOLDER + fileNameOf([title, 'stored data'], '.json'), await this.library.rawFile(id));
      }
    }
    add(SHELF_NAME, shelfFileText(allOf(this.shelf.contents())));
    const day = now.toISOString().slice(0, 10);
    return {
      name: fileNameOf(['Fendro', 'everything', day], '.zip'),
      bytes: await this.files.zip(files),
      said:
        `${count(entries.length, 'song', 'songs')} and the shelf are in one file.` +
        (raw.length > 0 ? ` ${listed(raw)} cannot be opened now: what is stored of it goes along as it is.` : ''),
    };
  }

  /**
   * Brings a backup back beside what is here: songs that are here already, and things that lie on the shelf already, stay
   * as they are.
   */
  async read(bytes: Uint8Array): Promise<Result> {
    let files: readonly { readonly name: string; readonly bytes: Uint8Array }[];
    try {
      files = await this.files.unzip(bytes);
    } catch (problem) {
      return { ok: false, reason: `This file could not be unpacked: ${inWords(problem)}.` };
    }
    const songs = files.filter(({ name }) => name.endsWith('.fendro'));
    const shelf = files.find(({ name }) => name === SHELF_NAME);
    if (songs.length === 0 && !shelf) return { ok: false, reason: 'There is no song of Fendro’s in this file.' };
    const said: string[] = [];
    const [come, here, lost] = await this.readSongs(songs);
    said.push(`${count(come, 'song', 'songs')} came back`);
    if (here > 0)
      said.push(`${count(here, 'was', 'were')} here already and stayed as ${here === 1 ? 'it is' : 'they are'}`);
    if (lost.length > 0) said.push(`${listed(lost)} could not be read`);
    if (shelf) said.push(await this.readShelf(new TextDecoder().decode(shelf.bytes)));
    return { ok: true, remark: `${said.join('; ')}.` };
  }

  private async readSongs(
    files: readonly { readonly name: string; readonly bytes: Uint8Array }[],
  ): Promise<[come: number, here: number, lost: readonly string[]]> {
    const there = new Set((await this.library.list()).map(({ id }) => id));
    let [come, here] = [0, 0];
    const lost: string[] = [];
    for (const { name, bytes } of files) {
      const data = await this.files.readSong(bytes).catch(() => null);
      const opened = data === null ? null : await inSlices(openingSong(data));
      if (!opened?.ok) lost.push(name.slice(name.lastIndexOf('/') + 1));
      else if (there.has(opened.song.id)) here++;
      else {
        const silent = await this.songFiles.bringSounds(data, opened.song.score);
        lost.push(...silent.map((guide) => `the sound of ${guide}`));
        await this.library.putBack(opened.song);
        there.add(opened.song.id);
        come++;
      }
    }
    return [come, here, lost];
  }

  private async readShelf(text: string): Promise<string> {
    const read = readShelfFile(text);
    if (!read.ok) return 'the shelf in it could not be read';
    const brought = await this.shelf.bring(read.items);
    const rest = read.unread.length > 0 ? `, and ${listed(read.unread)} could not be read` : '';
    return `${count(brought, 'thing', 'things')} came back to the shelf${rest}`;
  }
}
