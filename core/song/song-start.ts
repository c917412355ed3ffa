import { NO_PLAN } from './plan';
import type { Score, Section, SectionId } from './schema';
import { emptied } from './section';

/** A section as a song is begun with it: how long, in which key and for what it is asked, and nothing that plays. */
const bare = (section: Section): Section => ({ ...emptied(section), version: null, plan: NO_PLAN, solos: [] });

/**
 * What a song is begun with again: its parts, sounds, sections, running order, keys, tempos, energy and moves, without a
 * note, a motif or a recording. Of several versions of a section those stay that have a place.
 */
export function songStart(score: Score): Score {
  const { title, ground, master, parts, sections, order, energy, styles } = score;
  const placed = new Set<SectionId>(order.map(({ section }) => section));
  return {
    title,
    ground,
    ...(master === undefined ? {} : { master }),
    parts,
    sections: sections.filter(({ id }) => placed.has(id)).map(bare),
    order,
    motifs: [],
    energy,
    remarks: {},
    styles,
  };
}
