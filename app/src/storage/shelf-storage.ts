import '@fendro/core/song/validation';
import { Injectable } from '@angular/core';
import * as z from 'zod';
import {
  briefSchema,
  chainSchema,
  chordSpanSchema,
  id,
  leanMovesSchema,
  patternSchema,
  ROLES,
} from '@fendro/core/song/schema';
import { LIMITS } from '@fendro/core/song/limits';
import { ownPhraseSchema } from '@fendro/core/song/own-phrase';
import { styleSchema } from '@fendro/core/song/style';
import { isScaleId } from '@fendro/core/theory/scale';
import { inSlices } from '../ui/in-slices';
import { Database } from './database';
import { deviceSchema, learnedSchema, routeSchema } from './device-schema';

/**
 * The version that this build writes. From 1 to 2: shelf-1-to-2.ts. Version 3 knows keys as well; in version 4 styles may
 * have cells for melodies, loops and forms; version 5 knows chains of treatments and patterns; version 6 knows leanings,
 * and briefs and patterns that lean by themselves; version 7 knows devices, what was learned of their controls, and where
 * parts go out; version 8 knows band set-ups, song starts and labels, and phrases may say where they come from. Nothing
 * of what lay on the shelf before means anything else.
 */
export const SHELF_VERSION = 8;
/** The first version with one record an item. */
const ITEMS_SINCE = 2;

/** Letters of a tag and of a folder's name, and tags of one thing, at most. */
export const LABELS = { tag: 30, folder: 60, tags: 12 } as const;

/** What is kept as a song file: it is opened like one when it is taken, whatever version it has by then. */
const keptSongSchema = z.looseObject({ format: z.literal('fendro-song'), version: z.number().int().min(1) });
const name = z.string().trim().min(1).max(LIMITS.name);

/** What can be used again in any song, by kind. Rhythms and scales are written out in their ids. */
export const SHELF_ITEMS = {
  progressions: z.object({
    id,
    name: z.string().trim().min(1).max(LIMITS.title),
    tonic: z.number().int().min(-30).max(30),
    scale: z.string().max(160).refine(isScaleId, 'no such scale'),
    length: z.number().int().min(1),
    bars: z.number().int().min(1),
    chords: z.array(chordSpanSchema).max(LIMITS.chords),
  }),
  rhythms: z.string().min(1).max(160),
  scales: z.string().max(160).refine(isScaleId, 'no such scale'),
  favourites: z.string().min(1).max(200),
  phrases: ownPhraseSchema,
  styles: styleSchema,
  briefs: z.object({ id, name, role: z.enum(ROLES), brief: briefSchema }),
  chains: z.object({ id, name, chain: chainSchema }),
  patterns: z.object({ id, name, role: z.enum(ROLES), pattern: patternSchema }),
  leanings: z.object({ id, name, moves: leanMovesSchema }),
  /** Who plays, with which sounds and briefs. */
  bands: z.object({ id, name, song: keptSongSchema }),
  /** Songs without their notes. */
  starts: z.object({ id, name, song: keptSongSchema }),
  /** Tags and the folder of a thing, by its place on the shelf: see itemKey. */
  labels: z.object({
    id: z.string().min(1).max(240),
    tags: z.array(z.string().trim().min(1).max(LABELS.tag)).max(LABELS.tags),
    folder: z.string().trim().min(1).max(LABELS.folder).nullable(),
  }),
  /** The keys of a command as the writer wants them; none where it is switched off. */
  keys: z.object({ id, keys: z.array(z.string().min(1).max(40)).max(4) }),
  /** What a device does here, by its name. */
  devices: deviceSchema,
  controls: learnedSchema,
  routes: routeSchema,
} as const;
export type ShelfKind = keyof typeof SHELF_ITEMS;
export type ShelfItem<K extends ShelfKind> = z.infer<(typeof SHELF_ITEMS)[K]>;
export type ShelfContents = { readonly [K in ShelfKind]: readonly ShelfItem<K>[] };

export const SHELF_KINDS = Object.keys(SHELF_ITEMS) as ShelfKind[];
export const EMPTY_SHELF: ShelfContents = {
  progressions: [],
  rhythms: [],
  scales: [],
  favourites: [],
  phrases: [],
  styles: [],
  briefs: [],
  chains: [],
  patterns: [],
  leanings: [],
  bands: [],
  starts: [],
  labels: [],
  keys: [],
  devices: [],
  controls: [],
  routes: [],
};

/** What is called what in words. */
export const KIND_NAMES: Readonly<Record<ShelfKind, string>> = {
  progressions: 'progression',
  rhythms: 'rhythm',
  scales: 'scale',
  favourites: 'favourite',
  phrases: 'phrase',
  styles: 'style',
  briefs: 'brief',
  chains: 'chain of treatments',
  patterns: 'pattern',
  leanings: 'leaning',
  bands: 'band set-up',
  starts: 'song start',
  labels: 'label',
  keys: 'key',
  devices: 'device',
  controls: 'learned control',
  routes: 'way out of a part',
};

/** One record of the database: later ones stand first. */
const recordSchema = z.object({ version: z.number().int(), at: z.number(), item: z.unknown() });

export const idOf = (item: ShelfItem<ShelfKind>): string => (typeof item === 'string' ? item : item.id);
export const itemKey = (kind: ShelfKind, name: string): string => `item/${kind}/${name}`;

const OLD_KEY = 'shelf';
const VERSION_KEY = 'version';
const ASIDE_KEY = 'set aside';

/** What was read, and what could not be, by name. */
export interface ReadShelf {
  readonly contents: ShelfContents;
  readonly setAside: readonly string[];
  /** Places in the order, by record. */
  readonly places: ReadonlyMap<string, number>;
}

/** What a thing is called whose kind or shape is not known. */
export const nameOf = (item: unknown): string => {
  const name = z.object({ name: z.string() }).safeParse(item);
  return name.success ? `“${name.data.name}”` : 'one without a name';
};

/** One record as it lies in the database, with its key. */
interface StoredRecord {
  readonly key: string;
  readonly record: z.ZodSafeParseResult<z.infer<typeof recordSchema>>;
}

/** Reads records in steps of one each: a shelf with a bank of phrases holds thousands. */
function* understood(records: readonly StoredRecord[], aside: readonly string[]): Generator<void, ReadShelf> {
  const lists = new Map(SHELF_KINDS.map((kind) => [kind, [] as { at: number; item: ShelfItem<ShelfKind> }[]]));
  const setAside = [...aside];
  const places = new Map<string, number>();
  for (const { key, record } of records) {
    const kind = SHELF_KINDS.find((candidate) => key.startsWith(itemKey(candidate, '')));
    const item = kind && record.success ? SHELF_ITEMS[kind].safeParse(record.data.item) : null;
    if (!kind || !record.success || !item?.success)
      setAside.push(`${kind ? KIND_NAMES[kind] : 'item'} ${nameOf(record.success ? record.data.item : null)}`);
    else {
      places.set(key, record.data.at);
      lists.get(kind)?.push({ at: record.data.at, item: item.data });
    }
    yield;
  }
  const inOrder = SHELF_KINDS.map((kind): readonly [ShelfKind, readonly ShelfItem<ShelfKind>[]] => [
    kind,
    (lists.get(kind) ?? []).sort((a, b) => b.at - a.at).map(({ item }) => item),
  ]);
  return { contents: Object.fromEntries(inOrder) as unknown as ShelfContents, setAside, places };
}

/**
 * The shelf in the browser's own database: one record an item, so that two tabs can both put something on it and damage
 * to one leaves the others. What cannot be read is left where it is, never overwritten.
 */
@Injectable({ providedIn: 'root' })
export class ShelfStorage {
  private readonly store = new Database('shelf');

  /** @throws StorageProblem where the database does not work; TypeError in words where a newer build wrote the shelf */
  async read(): Promise<ReadShelf> {
    const version = await this.store.get(VERSION_KEY);
    if (typeof version === 'number' && version > SHELF_VERSION)
      throw new TypeError('it was saved by a newer Fendro; update Fendro to see it');
    if (typeof version !== 'number' || version < ITEMS_SINCE) await this.carryOver();
    else if (version !== SHELF_VERSION) await this.store.set(VERSION_KEY, SHELF_VERSION);
    const aside = z
      .array(z.string())
      .catch([])
      .parse(await this.store.get(ASIDE_KEY));
    const keys = (await this.store.keys()).filter((key) => key.startsWith('item/'));
    const records = await Promise.all(
      keys.map(async (key) => ({ key, record: recordSchema.safeParse(await this.store.get(key)) })),
    );
    return inSlices(understood(records, aside));
  }

  /** Makes records of the one that version 1 kept, which itself stays as it is; what of it cannot be read is noted. */
  private async carryOver(): Promise<void> {
    const old = await this.store.get(OLD_KEY);
    // Hardly anybody has one: what reads it is not fetched before.
    const items = old === null ? [] : (await import('./shelf-1-to-2')).shelfFrom1to2(old);
    const aside: string[] = items === null ? ['everything that an older Fendro kept there'] : [];
    for (const [place, { kind, item }] of (items ?? []).entries()) {
      const known = SHELF_KINDS.find((candidate) => candidate === kind);
      const read = known ? SHELF_ITEMS[known].safeParse(item) : null;
      // Earlier in a list was later put on the shelf.
      if (known && read?.success) await this.put(known, read.data, (items?.length ?? 0) - place);
      else aside.push(`${known ? KIND_NAMES[known] : kind} ${nameOf(item)}`);
    }
    await this.store.set(ASIDE_KEY, aside);
    await this.store.set(VERSION_KEY, SHELF_VERSION);
  }

  async put(kind: ShelfKind, item: ShelfItem<ShelfKind>, at: number): Promise<void> {
    await this.store.set(itemKey(kind, idOf(item)), { version: SHELF_VERSION, at, item });
  }

  remove(kind: ShelfKind, name: string): Promise<void> {
    return this.store.remove(itemKey(kind, name));
  }
}
