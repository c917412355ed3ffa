import { NO_PLAN } from './plan';
import { SONG_VERSION, type Score, type Section, type SectionId, type Song } from './schema';
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

/** Who plays in a song, with which sounds, briefs and treatments: its start with one empty section and nothing besides. */
export function bandSetUp(score: Score): Score {
  const start = songStart(score);
  const order = start.order.slice(0, 1).map(({ id, section }) => ({ id, section }));
  const first = new Set(order.map(({ section }) => section));
  return {
    ...start,
    sections: start.sections.filter(({ id }) => first.has(id)).map((section) => ({ ...section, ground: {} })),
    order,
    energy: [],
  };
}

/** A score as a song file that holds nothing else: that is how starts and set-ups are kept, so that they stay readable. */
export const bareSong = (score: Score, id: string): Song => ({
  format: 'fendro-song',
  version: SONG_VERSION,
  id,
  seed: 0,
  score,
  ledger: { takes: {}, heard: [] },
  hearing: {},
});
