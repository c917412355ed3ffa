import { Injectable } from '@angular/core';
import localforage from 'localforage';
import '@fendro/core/song/validation';
import * as z from 'zod';
import { openSong, type OpenedSong } from '@fendro/core/song/song-file';
import { SONG_VERSION, type Song } from '@fendro/core/song/schema';
import { prunedTakes } from '@fendro/core/song/prune';

/** What the Songs page shows of a song without opening it. */
const entrySchema = z.object({ id: z.string(), title: z.string(), changed: z.number(), bars: z.number(), tempo: z.number() });
export type SongEntry = z.infer<typeof entrySchema>;

const bodySchema = z.object({ format: z.unknown(), version: z.unknown(), id: z.string(), seed: z.unknown(), score: z.unknown(), heard: z.unknown(), takes: z.array(z.string()) });

const entryKey = (id: string): string => `song/${id}/entry`;
const currentKey = (id: string): string => `song/${id}/current`;
const bodyKey = (id: string, slot: number): string => `song/${id}/body/${slot}`;
const takeKey = (id: string, take: string): string => `song/${id}/take/${take}`;

/**
 * Songs in the browser's own database. Takes are written once, each under its own key, before the score that names
 * them; the score goes to the other of two places and then a switch is turned, so a crash at any moment leaves the last
 * state or the one before.
 */
@Injectable({ providedIn: 'root' })
export class SongStorage {
  private readonly store = localforage.createInstance({ name: 'fendro', storeName: 'songs' });
  /** Takes known to be written, by song. */
  private readonly written = new Map<string, Set<string>>();

  async list(): Promise<SongEntry[]> {
    const keys = await this.store.keys();
    const entries = await Promise.all(keys.filter((key) => key.endsWith('/entry')).map((key) => this.store.getItem(key)));
    return entries
      .map((entry) => entrySchema.safeParse(entry))
      .flatMap((entry) => (entry.success ? [entry.data] : []))
      .sort((a, b) => b.changed - a.changed);
  }

  /** Saves a song: first its new takes, then the score, then the switch. */
  async save(song: Song, changed: number): Promise<void> {
    const { id, seed, score, ledger } = song;
    const known = this.written.get(id) ?? new Set<string>();
    this.written.set(id, known);
    for (const take of Object.values(ledger.takes)) {
      if (known.has(take.id)) continue;
      await this.store.setItem(takeKey(id, take.id), take);
      known.add(take.id);
    }
    const slot = (await this.currentSlot(id)) === 0 ? 1 : 0;
    const body = { format: song.format, version: SONG_VERSION, id, seed, score, heard: ledger.heard, takes: Object.keys(ledger.takes) };
    await this.store.setItem(bodyKey(id, slot), body);
    await this.store.setItem(currentKey(id), slot);
    const bars = score.order.reduce((total, { section }) => total + (score.sections.find((other) => other.id === section)?.bars ?? 0), 0);
    await this.store.setItem(entryKey(id), { id, title: score.title, changed, bars, tempo: score.ground.tempo } satisfies SongEntry);
  }

  private async currentSlot(id: string): Promise<number | null> {
    return this.store.getItem<number>(currentKey(id));
  }

  /** Opens a song; if its last state is damaged, the one before is tried. Null when there is no such song. */
  async open(id: string): Promise<OpenedSong | null> {
    const slot = await this.currentSlot(id);
    if (slot === null) return null;
    const last = await this.read(id, slot);
    if (last.ok) return last;
    const before = await this.read(id, slot === 0 ? 1 : 0);
    return before.ok ? { ...before, setAside: [...before.setAside, 'the last change'] } : last;
  }

  private async read(id: string, slot: number): Promise<OpenedSong> {
    const body = bodySchema.safeParse(await this.store.getItem(bodyKey(id, slot)));
    if (!body.success) return { ok: false, reason: 'This song is damaged in the browser’s storage and cannot be opened.' };
    const { takes: ids, heard, ...head } = body.data;
    const stored = await Promise.all(ids.map((take) => this.store.getItem<unknown>(takeKey(id, take))));
    const takes = Object.fromEntries(ids.map((take, index) => [take, stored[index]]));
    const opened = openSong({ ...head, ledger: { takes, heard } });
    if (!opened.ok) return opened;
    this.written.set(id, new Set(Object.keys(opened.song.ledger.takes)));
    return { ...opened, song: await this.prune(opened.song) };
  }

  /** Drafted takes that were never heard, chosen or judged are let go when a song is opened again. */
  private async prune(song: Song): Promise<Song> {
    const takes = prunedTakes(song.score, song.ledger);
    const gone = Object.keys(song.ledger.takes).filter((take) => !(take in takes));
    await Promise.all(gone.map((take) => this.store.removeItem(takeKey(song.id, take))));
    gone.forEach((take) => this.written.get(song.id)?.delete(take));
    return { ...song, ledger: { ...song.ledger, takes } };
  }

  async remove(id: string): Promise<void> {
    const keys = await this.store.keys();
    await Promise.all(keys.filter((key) => key.startsWith(`song/${id}/`)).map((key) => this.store.removeItem(key)));
    this.written.delete(id);
  }

  /** A small setting beside the songs, such as the one that was open last. */
  async remember(name: string, value: string): Promise<void> {
    await this.store.setItem(`setting/${name}`, value);
  }

  async recall(name: string): Promise<string | null> {
    const value = await this.store.getItem<unknown>(`setting/${name}`);
    return typeof value === 'string' ? value : null;
  }
}

