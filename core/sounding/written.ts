import { passNotes } from '../patterns/pass';
import { barOf } from '../song/ground';
import { numberOf, remembering } from '../song/remember';
import { partTake, soundingId, type Music } from '../song/resolve';
import type { Note, Part, PartId, Section } from '../song/schema';
import { aroundSolos } from '../song/solo';
import { throughTreatments, treatedNotes } from '../treat/treated';
import { apart, handsOf, shareOf } from './dealt';

const SILENT: readonly Note[] = [];

/** A part's own line: its take, fitted to the chords or made for the pass, behind its treatments, less what solos take. */
function ownLine(music: Music, section: Section, part: PartId, pass: number): readonly Note[] {
  const take = partTake(music.takes, soundingId(section, part, music.heard));
  if (!take) return SILENT;
  const playing = music.score.parts.find(({ id }) => id === part);
  const notes = treatedNotes(passNotes(music, section, take, pass), take, playing, { music, section, pass });
  return aroundSolos(notes, section, part, barOf(music.score, section));
}

/** What other parts deal to a part, behind its own treatments; what is dealt to it is dealt no further. */
function dealtTo(music: Music, section: Section, part: Part, pass: number): (readonly Note[])[] {
  return music.score.parts.flatMap((from): (readonly Note[])[] => {
    if (from.id === part.id || !handsOf(music, section, from).includes(part)) return [];
    const where = { music, section, pass };
    const given = shareOf(ownLine(music, section, from.id, pass), from, part, where);
    if (given.length === 0) return [];
    return [aroundSolos(throughTreatments(given, part, where), section, part.id, barOf(music.score, section))];
  });
}

/** As many joinings of one line are remembered as a part has passes that are looked at. */
const KEPT = 64;
const joined = remembering(KEPT);

/**
 * What a part plays in a section as it is written: its take over the chords that sound, treated, with room for solos,
 * or its share of that where it deals it out, and what other parts deal to it. Pictures show this, and everything that
 * sounds is made of it.
 *
 * @param pass  how often the section was played before; what goes on by itself differs from pass to pass
 * @returns notes from the section's start, the same list as long as nothing changes
 */
export function writtenNotes(music: Music, section: Section, part: PartId, pass = 0): readonly Note[] {
  const line = ownLine(music, section, part, pass);
  const playing = music.score.parts.find(({ id }) => id === part);
  if (!playing) return line;
  const kept =
    handsOf(music, section, playing).length === 0 ? line : shareOf(line, playing, playing, { music, section, pass });
  const given = dealtTo(music, section, playing, pass);
  if (given.length === 0) return kept;
  const lists = [kept, ...given].filter((notes) => notes.length > 0);
  const [first = SILENT, ...others] = lists;
  if (others.length === 0) return first;
  return joined(first, others.map(numberOf).join(' '), () => apart(lists.flat()));
}
