import '@fendro/core/song/validation';
import * as z from 'zod';
import { KIND_NAMES, nameOf, SHELF_ITEMS, SHELF_KINDS, SHELF_VERSION, type ShelfContents } from './shelf-storage';
import type { ShelfItem, ShelfKind } from './shelf-storage';

/** Things of the shelf as a file: each with its kind, those on top first. */

const fileSchema = z.object({
  format: z.literal('fendro-shelf'),
  version: z.number().int().min(1),
  items: z.array(z.object({ kind: z.string(), item: z.unknown() })),
});

/** A thing of the shelf with its kind. */
export interface KindedItem {
  readonly kind: ShelfKind;
  readonly item: ShelfItem<ShelfKind>;
}

export type ReadShelfFile =
  /** `unread`: what could not be understood, by kind and name. */
  | { readonly ok: true; readonly items: readonly KindedItem[]; readonly unread: readonly string[] }
  | { readonly ok: false; readonly reason: string };

/** Everything on the shelf. */
export const allOf = (contents: ShelfContents): readonly KindedItem[] =>
  SHELF_KINDS.flatMap((kind) => contents[kind].map((item: ShelfItem<ShelfKind>): KindedItem => ({ kind, item })));

export const shelfFileText = (items: readonly KindedItem[]): string =>
  JSON.stringify({ format: 'fendro-shelf', version: SHELF_VERSION, items });

/** Reads what claims to be a file of the shelf; what of it cannot be understood is named. */
export function readShelfFile(text: string): ReadShelfFile {
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    return { ok: false, reason: 'This is no file of the shelf: its text cannot be read.' };
  }
  const file = fileSchema.safeParse(data);
  if (!file.success) return { ok: false, reason: 'This is no file of Fendro’s shelf.' };
  if (file.data.version > SHELF_VERSION)
    return { ok: false, reason: 'This shelf was saved by a newer Fendro. Update Fendro to take it.' };
  const items: KindedItem[] = [];
  const unread: string[] = [];
  for (const { kind: said, item } of file.data.items) {
    const kind = SHELF_KINDS.find((known) => known === said);
    const read = kind ? SHELF_ITEMS[kind].safeParse(item) : null;
    if (kind && read?.success) items.push({ kind, item: read.data });
    else unread.push(`${kind ? KIND_NAMES[kind] : said} ${nameOf(item)}`);
  }
  return { ok: true, items, unread };
}
