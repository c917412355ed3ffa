import { Injectable } from '@angular/core';
import '@fendro/core/song/validation';
import * as z from 'zod';
import { own } from '@fendro/core/song/look-up';
import { openingSong, type OpenedSong } from '@fendro/core/song/song-file';
import { SONG_VERSION, type Song } from '@fendro/core/song/schema';
import { inSlices } from '../ui/in-slices';
import { Database } from './database';
import { clearJournal, journalledSongs, keepJournal, readJournal, type JournalEntry } from './journal';

/** What the Songs page shows of a song without opening it. */
const entrySchema = z.object({
  id: z.string(),
  title: z.string(),
  changed: z.number(),
  bars: z.number(),
  tempo: z.number(),
});
export type SongEntry = z.infer<typeof entrySchema>;

const bodySchema = z.object({
  format: z.unknown(),
  version: z.unknown(),
  id: z.string(),
  seed: z.unknown(),
  score: z.unknown(),
  heard: z.unknown(),
  hearing: z.unknown().optional(),
  takes: z.array(z.string()),
  /** Counts the changes of a song, so that what is newer can be told. */
  clock: z.number().default(0),
});
type Body = z.infer<typeof bodySchema>;
/** What tells a song whose line in the list is damaged. */
const titledSchema = z.object({ score: z.object({ title: z.string(), ground: z.object({ tempo: z.number() }) }) });

/** What of a state names the sounds of guides. */
const soundsSchema = z.object({ score: z.object({ guides: z.array(z.object({ sound: z.string() })).optional() }) });

/** A song from storage. */
export type StoredSong =
  /**
   * `older`: the last state could not be read, this is the one before; `clock`: its count of changes; `journalled`: the
   * database does not have all of it yet.
   */
  | (Extract<OpenedSong, { ok: true }> & {
      readonly older: boolean;
      readonly clock: number;
      readonly journalled: boolean;
    })
  | Extract<OpenedSong, { ok: false }>;

/** What is known of a song's records in the database. */
interface Written {
  /** Whether a whole state of it was ever there. */
  there: boolean;
  readonly takes: Set<string>;
  /** Takes that the states in the two places name, the newer first. */
  named: readonly [ReadonlySet<string>, ReadonlySet<string>];
  heard: number;
}

const PLACES = [0, 1] as const;
const entryKey = (id: string): string => `song/${id}/entry`;
const currentKey = (id: string): string => `song/${id}/current`;
const bodyKey = (id: string, place: number): string => `song/${id}/body/${place}`;
const takeKey = (id: string, take: string): string => `song/${id}/take/${take}`;

const DAMAGED = 'This song is damaged in the browser’s storage and cannot be opened.';
const NOTHING: ReadonlySet<string> = new Set();

/** Takes that are read or written side by side: more at once would hold the page up. */
const TAKES_AT_ONCE = 40;

const inGroups = <T>(list: readonly T[], size: number): readonly (readonly T[])[] =>
  Array.from({ length: Math.ceil(list.length / size) }, (_, group) => list.slice(group * size, (group + 1) * size));

/**
 * Songs in the browser's own database. Takes are written once, each under its own key, before the score that names
 * them; the score goes to the other of two places and then a switch is turned, so a crash at any moment leaves the last
 * state or the one before. What was done since is in the journal. Opening writes nothing.
 */
@Injectable({ providedIn: 'root' })
export class SongStorage {
  private readonly store = new Database('songs');
  private readonly written = new Map<string, Written>();

  /**
   * Every song of which anything is stored, the last changed first; one whose line is damaged is named by its state.
   */
  async list(): Promise<SongEntry[]> {
    const keys = await this.store.keys();
    const stored = keys.flatMap((key) => /^song\/([^/]+)\/(?:entry|current|body\/\d)$/.exec(key)?.[1] ?? []);
    const ids = new Set([...stored, ...journalledSongs()]);
    const entries = await Promise.all(
      [...ids].map(async (id) => {
        const entry = entrySchema.safeParse(await this.store.get(entryKey(id)));
        return entry.success && entry.data.id === id ? entry.data : this.entryOf(id);
      }),
    );
    return entries.sort((a, b) => b.changed - a.changed);
  }

  private async entryOf(id: string): Promise<SongEntry> {
    const bodies = await Promise.all(PLACES.map((at) => this.store.get(bodyKey(id, at))));
    const named = [readJournal(id), ...bodies].map((body) => titledSchema.safeParse(body)).find((body) => body.success);
    return {
      id,
      title: named?.data.score.title ?? 'A damaged song',
      changed: 0,
      bars: 0,
      tempo: named?.data.score.ground.tempo ?? 0,
    };
  }

  /**
   * Saves a song: first its new takes, then the score, then the switch.
   *
   * @param clock    its count of changes
   * @param changed  when it was changed, in ms
   * @returns true where the database had lost the song and it was written whole again
   */
  async save(song: Song, clock: number, changed: number): Promise<boolean> {
    const { id, seed, score, ledger, hearing } = song;
    const place = await this.place(id);
    const lost = place === null && this.written.get(id)?.there === true;
    if (lost) this.written.delete(id);
    const known = this.written.get(id) ?? {
      there: false,
      takes: new Set<string>(),
      named: [NOTHING, NOTHING],
      heard: 0,
    };
    this.written.set(id, known);
    const fresh = Object.values(ledger.takes).filter((take) => !known.takes.has(take.id));
    for (const some of inGroups(fresh, TAKES_AT_ONCE))
      await Promise.all(
        some.map(async (take) => {
          await this.store.set(takeKey(id, take.id), take);
          known.takes.add(take.id);
        }),
      );
    const next = place === 0 ? 1 : 0;
    const body: Body = {
      format: song.format,
      version: SONG_VERSION,
      id,
      seed,
      score,
      heard: ledger.heard,
      hearing,
      takes: Object.keys(ledger.takes),
      clock,
    };
    await this.store.set(bodyKey(id, next), body);
    await this.store.set(currentKey(id), next);
    known.there = true;
    known.heard = ledger.heard.length;
    const bars = score.order.reduce(
      (total, { section }) => total + (score.sections.find((other) => other.id === section)?.bars ?? 0),
      0,
    );
    await this.store.set(entryKey(id), {
      id,
      title: score.title,
      changed,
      bars,
      tempo: score.ground.tempo,
    } satisfies SongEntry);
    await this.forgetTakes(id, known, new Set(body.takes));
    return lost;
  }

  /** Takes that neither of the two states names any more are let go. */
  private async forgetTakes(id: string, known: Written, named: ReadonlySet<string>): Promise<void> {
    const [newer, older] = known.named;
    known.named = [named, newer];
    const gone = [...older].filter((take) => !newer.has(take) && !named.has(take));
    gone.forEach((take) => known.takes.delete(take));
    await Promise.all(gone.map((take) => this.store.remove(takeKey(id, take))));
  }

  /** Keeps, at once, what the database does not have of a song yet. */
  keep(song: Song, clock: number): void {
    const known = this.written.get(song.id);
    const takes = Object.keys(song.ledger.takes).filter((take) => !known?.takes.has(take));
    keepJournal(song, { clock, takes, heardFrom: Math.min(known?.heard ?? 0, song.ledger.heard.length) });
  }

  /** Lets go of what was kept at once: the database has it. */
  settled(id: string): void {
    clearJournal(id);
  }

  /** How many changes of a song are kept here; null where there is none of it. */
  async clockOf(id: string): Promise<number | null> {
    const place = await this.place(id);
    const body = place === null ? null : bodySchema.safeParse(await this.store.get(bodyKey(id, place)));
    return body?.success ? Math.max(body.data.clock, readJournal(id)?.clock ?? 0) : null;
  }

  /** True while the database still has a song that was saved from here. */
  async has(id: string): Promise<boolean> {
    return (await this.place(id)) !== null;
  }

  private async place(id: string): Promise<number | null> {
    const place = await this.store.get(currentKey(id));
    return place === 0 || place === 1 ? place : null;
  }

  /** Opens a song; if its last state is damaged, the one before is tried. Null when there is no such song. */
  async open(id: string): Promise<StoredSong | null> {
    const place = await this.place(id);
    const journal = readJournal(id);
    const bodies = await Promise.all(PLACES.map((at) => this.store.get(bodyKey(id, at))));
    if (place === null && !journal && bodies.every((body) => body === null)) return null;
    const read = bodies.map((body) => bodySchema.safeParse(body)).map((body) => (body.success ? body.data : null));
    // Without the switch the state with more changes is the newer one.
    const newer = place ?? ((read[1]?.clock ?? -1) > (read[0]?.clock ?? -1) ? 1 : 0);
    const states: (Body | null | undefined)[] = newer === 1 ? [read[1], read[0]] : [...read];
    // A song that the database has lost, or that it never had, may be in the journal as a whole.
    if (journal) states.push({ ...journal, id, heard: [], takes: [], clock: Number.NEGATIVE_INFINITY });
    let failure: StoredSong | null = null;
    for (const [age, body] of states.entries()) {
      if (!body) continue;
      const song = await this.read(id, body, journal);
      if (song.ok) return { ...song, older: age > 0 && !song.journalled };
      failure ??= song;
    }
    return failure ?? { ok: false, reason: DAMAGED };
  }

  /** One state with its takes, and with what the journal has beyond it. */
  private async read(id: string, body: Body, journal: JournalEntry | null): Promise<StoredSong> {
    const newer = journal !== null && journal.clock > body.clock ? journal : null;
    const ids = [...new Set([...body.takes, ...(newer?.takes ?? [])])];
    const stored = new Map<string, unknown>();
    for (const some of inGroups(ids, TAKES_AT_ONCE)) {
      const takes = await Promise.all(some.map((take) => this.store.get(takeKey(id, take))));
      some.forEach((take, index) => stored.set(take, takes[index]));
    }
    const { clock, takes: named, heard, hearing = {}, ...head } = body;
    if (newer) {
      const log = Array.isArray(heard) ? (heard as unknown[]) : [];
      const takes = Object.fromEntries(newer.takes.map((take) => [take, own(newer.made, take) ?? stored.get(take)]));
      const opened = await inSlices(
        openingSong({
          ...head,
          version: newer.version,
          score: newer.score,
          hearing: newer.hearing,
          ledger: { takes, heard: [...log.slice(0, newer.heardFrom), ...newer.heard] },
        }),
      );
      if (opened.ok) {
        this.noteWritten(id, body, stored, opened.song);
        return { ...opened, older: false, clock: newer.clock, journalled: true };
      }
    }
    const opened = await inSlices(
      openingSong({
        ...head,
        hearing,
        ledger: { takes: Object.fromEntries(named.map((take) => [take, stored.get(take)])), heard },
      }),
    );
    if (!opened.ok) return opened;
    this.noteWritten(id, body, stored, opened.song);
    return { ...opened, older: false, clock, journalled: false };
  }

  /** What need not be written again; takes of an older version are, so that all of a song is of one. */
  private noteWritten(id: string, body: Body, stored: ReadonlyMap<string, unknown>, song: Song): void {
    const there =
      body.version === SONG_VERSION ? Object.keys(song.ledger.takes).filter((take) => stored.get(take) !== null) : [];
    this.written.set(id, {
      // A body made of the journal alone was never in the database.
      there: Number.isFinite(body.clock),
      takes: new Set(there),
      named: [new Set(body.takes), NOTHING],
      heard: Array.isArray(body.heard) ? body.heard.length : 0,
    });
  }

  /** Everything that storage holds of a song, as text, for keeping what cannot be opened. */
  async raw(id: string): Promise<string> {
    const keys = (await this.store.keys()).filter((key) => key.startsWith(`song/${id}/`));
    const records = await Promise.all(keys.map(async (key) => [key, await this.store.get(key)] as const));
    return JSON.stringify({
      format: 'fendro-raw-song',
      records: Object.fromEntries(records),
      journal: readJournal(id),
    });
  }

  /**
   * The sounds of guides that any state of any song here names.
   *
   * @returns null where a state cannot be read: nobody knows what it names
   */
  async guideSounds(): Promise<ReadonlySet<string> | null> {
    const keys = (await this.store.keys()).filter((key) => /^song\/[^/]+\/body\/\d$/.test(key));
    const states = await Promise.all(keys.map((key) => this.store.get(key)));
    const read = [...states, ...journalledSongs().map(readJournal)]
      .filter((state) => state !== null)
      .map((state) => soundsSchema.safeParse(state));
    if (read.some(({ success }) => !success)) return null;
    return new Set(read.flatMap(({ data }) => (data?.score.guides ?? []).map(({ sound }) => sound)));
  }

  async remove(id: string): Promise<void> {
    const keys = await this.store.keys();
    await Promise.all(keys.filter((key) => key.startsWith(`song/${id}/`)).map((key) => this.store.remove(key)));
    clearJournal(id);
    this.written.delete(id);
  }

  /** A small setting beside the songs, such as the one that was open last. */
  async remember(name: string, value: string): Promise<void> {
    await this.store.set(`setting/${name}`, value);
  }

  async recall(name: string): Promise<string | null> {
    const value = await this.store.get(`setting/${name}`);
    return typeof value === 'string' ? value : null;
  }
}
