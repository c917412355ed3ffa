import type { Part, PartId, Score } from '../../song/schema';
import type { Style } from '../../song/style';
import { inferSwing } from '../../study/infer/swing';
import { partFrom } from '../../styles/band';
import { STYLES } from '../../styles/styles';
import { unswung } from '../../sounding/groove';
import { barTicks, metreName } from '../../theory/metre';
import { TICKS_PER_QUARTER, type Percent, type Ticks } from '../../theory/units';
import { LIMITS } from '../../song/limits';
import type { ImportFile, ImportLine, ImportNote, ImportSection } from './file-model';

/** A band for music that came in: what it lacks is drafted beside it, in its tempo, key, chords and swing. */

/** How far a file swings, by all its lines in its most common metre; 0 where it is straight. */
export function swingOfFile({ lines, sections }: ImportFile): Percent {
  const metre = sections[0]?.metre;
  if (!metre) return 0;
  const alike = sections.filter((section) => metreName(section.metre) === metreName(metre));
  const starts = alike.flatMap(({ start, bars, metre: own }) =>
    lines.flatMap(({ notes }) =>
      notes.flatMap((note) => {
        const at = note.start - start;
        return at >= 0 && at < bars * barTicks(own) ? [at] : [];
      }),
    ),
  );
  return inferSwing(starts, metre);
}

/** The section that a moment of a file lies in: before the first, that one. */
const sectionAt = (sections: readonly ImportSection[], at: Ticks): ImportSection | undefined =>
  sections.findLast(({ start }) => start <= at) ?? sections[0];

/** A note written where it would stand if it did not swing; true triplets stay as they are. */
function straight(note: ImportNote, swing: Percent, section: ImportSection, triplets: ReadonlySet<number>): ImportNote {
  const beat = Math.floor((note.start - section.start) / TICKS_PER_QUARTER);
  if (triplets.has(beat)) return note;
  const written = (at: Ticks): Ticks => section.start + unswung(at - section.start, swing, section.metre);
  const start = written(note.start);
  return { ...note, start, duration: Math.max(1, written(note.start + note.duration) - start) };
}

/** A triplet eighth, and how near to it one is struck. */
const [TRIPLET, NEAR]: readonly [Ticks, Ticks] = [TICKS_PER_QUARTER / 3, 8];

/** Beats of a section in which a line plays the first of three: they do not swing, they are in thirds. */
function beatsInThirds({ notes }: ImportLine, section: ImportSection): ReadonlySet<number> {
  const first = notes.flatMap(({ start }) => {
    const at = start - section.start;
    return Math.abs((at % TICKS_PER_QUARTER) - TRIPLET) <= NEAR ? [Math.floor(at / TICKS_PER_QUARTER)] : [];
  });
  return new Set(first);
}

/** A file as it would be written for a song that swings: it sounds as before when the song does. */
export function unswungFile(file: ImportFile, swing: Percent): ImportFile {
  if (swing === 0) return file;
  const lines = file.lines.map((line): ImportLine => {
    const thirds = new Map(file.sections.map((section) => [section, beatsInThirds(line, section)]));
    const notes = line.notes.map((note) => {
      const section = sectionAt(file.sections, note.start);
      return section ? straight(note, swing, section, thirds.get(section) ?? new Set()) : note;
    });
    return { ...line, notes };
  });
  return { ...file, lines };
}

/** How far a tempo lies outside of what a style is used to, as a share of it. */
const strange = (tempo: number, { tempo: { low, high } }: Style): number =>
  tempo < low ? low / tempo - 1 : tempo > high ? tempo / high - 1 : 0;

/** The style that is nearest to a file by metre, tempo and swing; of equals the first. */
export function styleForFile(file: ImportFile, swing: Percent): Style {
  const [first] = file.sections;
  const metre = first ? metreName(first.metre) : '4/4';
  const distance = (style: Style): number =>
    (style.metres.some((own) => own === metre) ? 0 : 2) +
    strange(first?.tempo ?? 120, style) +
    Math.abs(style.swing - swing) / 100;
  return STYLES.reduce((best, style) => (distance(style) < distance(best) ? style : best));
}

/** What a song lacks of a style's band: for each of its roles that nobody plays, its part. */
export function lacking({ parts }: { readonly parts: readonly Pick<Part, 'role'>[] }, { band }: Style): Style['band'] {
  const open = parts.map(({ role }) => role);
  return band
    .filter(({ role }) => {
      const place = open.indexOf(role);
      if (place >= 0) open.splice(place, 1);
      return place < 0;
    })
    .slice(0, LIMITS.parts - parts.length);
}

/** A song with the parts of a style's band that it lacks, still empty. */
export function withBand(
  score: Score,
  style: Style,
  newId: (kind: string) => string,
): { readonly score: Score; readonly added: PartId[] } {
  const parts = lacking(score, style).map((band, index) => partFrom(band, newId('part'), score.parts.length + index));
  return { score: { ...score, parts: [...score.parts, ...parts] }, added: parts.map(({ id }) => id) };
}
