import { LIMITS } from '../../song/limits';
import type { ChordSpan, Note } from '../../song/schema';
import { transposeChord } from '../../theory/chord';
import { barTicks, metreName } from '../../theory/metre';
import { clamp, type Semitones } from '../../theory/units';
import type { ImportLine, ImportNote, ImportSection } from './midi-import';

/** The stretches of a file that become sections: with their chords, cut out, and joined where there are too many. */

/** A stretch of the file with its chords. */
export interface Stretch {
  readonly section: ImportSection;
  readonly chords: readonly ChordSpan[];
}

/** Notes of a stretch from its start, those that began earlier and still sound included. */
export function soundingIn({ start: from, bars, metre }: ImportSection, notes: readonly ImportNote[]): ImportNote[] {
  const length = bars * barTicks(metre);
  return notes
    .filter(({ start, duration }) => start < from + length && start + duration > from)
    .map((note) => ({ ...note, start: note.start - from }));
}

const canJoin = (a: ImportSection, b: ImportSection): boolean =>
  metreName(a.metre) === metreName(b.metre) && a.bars + b.bars <= LIMITS.bars;

function join({ section, chords }: Stretch, next: Stretch): Stretch {
  const length = section.bars * barTicks(section.metre);
  return {
    section: { ...section, bars: section.bars + next.section.bars },
    chords: [...chords, ...next.chords.map((span) => ({ ...span, start: span.start + length }))],
  };
}

/**
 * Neighbours in one metre joined, the shortest first, until no more than `most` stretches are left or none can be
 * joined.
 */
function stretchesWithin(stretches: readonly Stretch[], most: number): readonly Stretch[] {
  const now = [...stretches];
  while (now.length > most) {
    let best = -1;
    let shortest = Number.POSITIVE_INFINITY;
    for (let at = 0; at + 1 < now.length; at++) {
      const [a, b] = [now[at] as Stretch, now[at + 1] as Stretch];
      const bars = a.section.bars + b.section.bars;
      if (bars < shortest && canJoin(a.section, b.section)) [best, shortest] = [at, bars];
    }
    if (best < 0) break;
    now.splice(best, 2, join(now[best] as Stretch, now[best + 1] as Stretch));
  }
  return now;
}

/** How many stretches are left of these sections at the least: only neighbours in one metre can be joined. */
export const fewestOf = (sections: readonly ImportSection[]): number =>
  stretchesWithin(
    sections.map((section) => ({ section, chords: [] })),
    1,
  ).length;

/** A stretch as it comes into a song: notes counted from its start, notes and chords moved to the song's key. */
export interface Cut {
  readonly section: ImportSection;
  readonly lines: readonly { readonly line: ImportLine; readonly notes: readonly Note[] }[];
  readonly chords: readonly ChordSpan[];
}

/** How far the music of a file moves: its notes in semitones, its chords on the line of fifths. */
export interface Move {
  readonly shift: Semitones;
  readonly fifths: number;
}

/** Cuts the lines of a file to one stretch; a note may ring on for a bar after it. */
export function cutOut({ section, chords }: Stretch, lines: readonly ImportLine[], { shift, fifths }: Move): Cut {
  const bar = barTicks(section.metre);
  const end = section.start + section.bars * bar;
  const inside = (notes: readonly ImportNote[]): ImportNote[] =>
    notes.filter(({ start }) => start >= section.start && start < end);
  const counted = lines.map((line) => ({
    line,
    notes: inside(line.notes).map((note): Note => ({
      ...note,
      start: note.start - section.start,
      duration: Math.min(note.duration, end + bar - note.start),
      pitch: line.drums ? note.pitch : clamp(note.pitch + shift, 0, 127),
    })),
  }));
  return {
    section,
    lines: counted,
    chords: chords.map((span) =>
      span.chord && fifths !== 0 ? { ...span, chord: transposeChord(span.chord, fifths) } : span,
    ),
  };
}

/** Two stretches that sound alike become one section that is played twice. */
const musicOf = ({ section, lines }: Cut): string =>
  JSON.stringify([
    section.bars,
    section.metre,
    section.tempo,
    lines.map(({ notes }) =>
      notes.map(({ start, duration, pitch, velocity, bend, vibrato, swell }) => [
        start,
        duration,
        pitch,
        velocity,
        [bend, vibrato, swell],
      ]),
    ),
  ]);

const musicAndName = (cut: Cut): string => JSON.stringify([cut.section.name, musicOf(cut)]);

/**
 * The stretches of a file as a song has room for them. Stretches that sound the same are one section; where there are
 * still too many, so are those that differ in their name alone; then short neighbours are joined.
 */
export function withinRoom(
  stretches: readonly Stretch[],
  cut: (stretch: Stretch) => Cut,
  room: { readonly sections: number; readonly places: number },
): { cuts: Cut[]; print: (cut: Cut) => string } {
  const cuts = stretches.map(cut);
  for (const print of [musicAndName, musicOf]) {
    if (cuts.length <= room.places && new Set(cuts.map(print)).size <= room.sections) return { cuts, print };
  }
  return { cuts: stretchesWithin(stretches, Math.min(room.sections, room.places)).map(cut), print: musicAndName };
}
