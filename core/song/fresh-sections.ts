import { own } from './look-up';
import type { Song } from './schema';

/** The same song with section ids of its own: a copy's drafts must never be taken for the original's. */
export function withFreshSections(song: Song, newId: (kind: string) => string): Song {
  const { score, ledger, hearing } = song;
  const fresh: Readonly<Record<string, string>> = Object.fromEntries(
    score.sections.map(({ id }) => [id, newId('section')]),
  );
  const named = (id: string): string => own(fresh, id) ?? id;
  return {
    ...song,
    score: {
      ...score,
      sections: score.sections.map((section) => ({
        ...section,
        id: named(section.id),
        version: section.version && { ...section.version, of: named(section.version.of) },
      })),
      order: score.order.map((place) => ({ ...place, section: named(place.section) })),
    },
    ledger: {
      heard: ledger.heard.map((line) => ({ ...line, section: named(line.section) })),
      takes: Object.fromEntries(
        Object.entries(ledger.takes).map(([id, take]) => [id, { ...take, section: named(take.section) }]),
      ),
    },
    hearing: Object.fromEntries(Object.entries(hearing).map(([section, lines]) => [named(section), lines])),
  };
}
