import '@fendro/core/song/validation';
import * as z from 'zod';
import type { Song } from '@fendro/core/song/schema';
import { pageMemory } from '../ui/page-memory';
import { choicesOf } from '@fendro/core/song/section';

/** What a journal may hold, in letters: the browser gives a page a few million, for all its songs. */
const MOST_LETTERS = 2_000_000;

const PREFIX = 'fendro journal ';
const key = (id: string): string => PREFIX + id;

/**
 * What the database does not have yet: the whole score and what is heard, the end of the logbook, and takes that are
 * not
 * written. It is kept at once, so that a page that is closed in the next moment loses nothing.
 */
const entrySchema = z.object({
  format: z.unknown(),
  version: z.number(),
  seed: z.unknown(),
  clock: z.number(),
  score: z.unknown(),
  hearing: z.unknown(),
  /** Place in the logbook from which on it is here. */
  heardFrom: z.number().int().min(0),
  heard: z.array(z.unknown()),
  /** Every take of the song, and those of them that are written here. */
  takes: z.array(z.string()),
  made: z.record(z.string(), z.unknown()),
});
export type JournalEntry = z.infer<typeof entrySchema>;

/** What of a song is not in the database. */
export interface Unwritten {
  readonly clock: number;
  readonly takes: readonly string[];
  readonly heardFrom: number;
}

/** Keeps what is not in the database yet; the takes that matter least are left out where there is no room. */
export function keepJournal(
  { id, format, version, seed, score, ledger, hearing }: Song,
  { clock, takes, heardFrom }: Unwritten,
): void {
  const chosen = new Set([
    ...score.sections.flatMap(choicesOf),
    ...ledger.heard.slice(heardFrom).map(({ take }) => take),
    ...Object.keys(score.remarks),
  ]);
  const write = (ids: readonly string[]): boolean => {
    const made = Object.fromEntries(ids.flatMap((take) => (ledger.takes[take] ? [[take, ledger.takes[take]]] : [])));
    const entry: JournalEntry = {
      format,
      version,
      seed,
      clock,
      score,
      hearing,
      heardFrom,
      heard: ledger.heard.slice(heardFrom),
      takes: Object.keys(ledger.takes),
      made,
    };
    const text = JSON.stringify(entry);
    return text.length <= MOST_LETTERS && pageMemory.set(key(id), text);
  };
  if (!write(takes)) write(takes.filter((take) => chosen.has(take)));
}

/** The journal of a song, or null where there is none that can be read. */
export function readJournal(id: string): JournalEntry | null {
  const text = pageMemory.get(key(id));
  if (text === null) return null;
  try {
    const entry = entrySchema.safeParse(JSON.parse(text));
    return entry.success ? entry.data : null;
  } catch {
    return null;
  }
}

export const clearJournal = (id: string): void => {
  pageMemory.remove(key(id));
};

/** Songs that have a journal. */
export const journalledSongs = (): string[] =>
  pageMemory.names().flatMap((name) => (name.startsWith(PREFIX) ? [name.slice(PREFIX.length)] : []));
