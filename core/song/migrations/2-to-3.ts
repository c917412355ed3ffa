/**
 * Frozen: from version 2 to version 3. It imports nothing of today's code, so that it goes on meaning what it meant.
 *
 * Version 2 gained solos, swapped drums, own styles, drum time, bass ways and pick-ups without saying so; version 3 has
 * them in every song. It remembers what is heard. Sections have ids that no other song has. Names that version 2 let
 * grow longer than it could read again are shortened, so that those songs open.
 */
type Raw = Record<string, unknown>;

const TITLE = 120;
const NAME = 60;
const ID = 64;

const cut = (text: unknown, most: number, otherwise: string): unknown =>
  typeof text === 'string' ? text.trim().slice(0, most).trim() || otherwise : text;

const withBrief = (owner: Raw): Raw => ({
  ...owner,
  brief: { time: null, way: null, pickup: 0, ...(owner['brief'] as Raw) },
});

/** “section-1” was in every song; now the song's own id is in it. */
const sectionId = (id: unknown, song: unknown): unknown =>
  typeof id === 'string' && /^section-\d+$/.test(id) ? `${id}-of-${String(song).slice(-24)}` : id;

function take(old: Raw, song: unknown): Raw {
  const moved = { ...old, section: sectionId(old['section'], song) };
  const origin = old['origin'] as Raw | undefined;
  const asking = origin?.['asking'] as Raw | null | undefined;
  return asking?.['brief'] ? { ...moved, origin: { ...origin, asking: withBrief(asking) } } : moved;
}

const style = (old: Raw): Raw => ({
  ...old,
  band: (old['band'] as Raw[]).map((part) => ({
    ...part,
    name: cut(part['name'], NAME, 'Part'),
    instrument: cut(part['instrument'], ID, 'grand-piano'),
  })),
});

const styles = (list: readonly Raw[] | undefined): Raw[] => (list ?? []).map(style);

const part = (old: Raw): Raw => ({ swaps: {}, ...withBrief(old), name: cut(old['name'], NAME, 'Part') });

const section = (old: Raw, song: unknown): Raw => ({
  solos: [],
  ...old,
  id: sectionId(old['id'], song),
  name: cut(old['name'], NAME, 'Section'),
});

export function from2to3(song: Raw): Raw {
  const score = song['score'] as Raw;
  const ledger = song['ledger'] as Raw;
  const id = song['id'];
  return {
    ...song,
    version: 3,
    score: {
      ...score,
      title: cut(score['title'], TITLE, 'Untitled song'),
      parts: (score['parts'] as Raw[]).map(part),
      sections: (score['sections'] as Raw[]).map((old) => section(old, id)),
      order: (score['order'] as Raw[]).map((place) => ({ ...place, section: sectionId(place['section'], id) })),
      styles: styles(score['styles'] as Raw[] | undefined),
    },
    ledger: {
      ...ledger,
      takes: Object.fromEntries(
        Object.entries(ledger['takes'] as Record<string, Raw>).map(([key, old]) => [key, take(old, id)]),
      ),
    },
    hearing: {},
  };
}
