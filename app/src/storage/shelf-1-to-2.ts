/**
 * Frozen: the shelf of version 1, one record of everything, to the items of version 2. It imports nothing of today's
 * code, so that it goes on meaning what it meant. Names that version 1 let grow longer than it could read again are
 * shortened; briefs have all their settings.
 */
type Raw = Record<string, unknown>;

const isRecord = (value: unknown): value is Raw => typeof value === 'object' && value !== null && !Array.isArray(value);

const cut = (text: unknown, most: number, otherwise: string): unknown =>
  typeof text === 'string' ? text.trim().slice(0, most).trim() || otherwise : text;

const style = (item: Raw): Raw => ({
  ...item,
  band: Array.isArray(item['band'])
    ? item['band'].map((part: unknown) =>
        isRecord(part)
          ? { ...part, name: cut(part['name'], 60, 'Part'), instrument: cut(part['instrument'], 64, 'grand-piano') }
          : part,
      )
    : item['band'],
});

const brief = (item: Raw): Raw => ({
  ...item,
  name: cut(item['name'], 60, 'Brief'),
  brief: isRecord(item['brief']) ? { time: null, way: null, pickup: 0, ...item['brief'] } : item['brief'],
});

const KINDS: Readonly<Record<string, (item: unknown) => unknown>> = {
  progressions: (item) => (isRecord(item) ? { ...item, name: cut(item['name'], 120, 'Progression') } : item),
  rhythms: (item) => item,
  scales: (item) => item,
  favourites: (item) => item,
  phrases: (item) => (isRecord(item) ? { ...item, name: cut(item['name'], 80, 'Phrase') } : item),
  styles: (item) => (isRecord(item) ? style(item) : item),
  briefs: (item) => (isRecord(item) ? brief(item) : item),
};

export interface OldItem {
  readonly kind: string;
  readonly item: unknown;
}

/** @returns the items, each list in its order, or null where the record is nothing of the kind */
export function shelfFrom1to2(record: unknown): OldItem[] | null {
  if (!isRecord(record)) return null;
  return Object.entries(KINDS).flatMap(([kind, carry]) => {
    const list = record[kind];
    // What stands in a list's place and is none is carried along as one thing that cannot be read.
    const items: readonly unknown[] = list === undefined ? [] : Array.isArray(list) ? list : [list];
    return items.map((item) => ({ kind, item: carry(item) }));
  });
}
