import { LIMITS } from '../../song/limits';
import type { ChordSpan, Note, TempoPoint } from '../../song/schema';
import { transposeChord } from '../../theory/chord';
import { barTicks, metreName } from '../../theory/metre';
import type { PlainNote } from '../../study/infer/key';
import { clamp, type Semitones, type Ticks } from '../../theory/units';
import { isEarly } from './bar-lines';
import type { ImportLine, ImportNote, ImportSection } from './file-model';

/** The stretches of a file that become sections: with their chords, cut out, and joined where there are too many. */

/** A stretch of the file with its chords. */
export interface Stretch {
  readonly section: ImportSection;
  readonly chords: readonly ChordSpan[];
}

/** How long a note is for the ear that looks for chords: a pedal lets it ring on for a bar at the most. */
const heardFor = ({ duration, held }: ImportNote, bar: Ticks): Ticks =>
  held === undefined ? duration : Math.max(held, Math.min(duration, bar));

/** Notes of a stretch from its start, those that began earlier and still sound included. */
export function soundingIn({ start: from, bars, metre }: ImportSection, notes: readonly ImportNote[]): PlainNote[] {
  const bar = barTicks(metre);
  return notes
    .map((note) => ({ start: note.start - from, duration: heardFor(note, bar), pitch: note.pitch }))
    .filter(({ start, duration }) => start < bars * bar && start + duration > 0);
}

const canJoin = (a: ImportSection, b: ImportSection): boolean =>
  metreName(a.metre) === metreName(b.metre) && a.bars + b.bars <= LIMITS.bars;

/** The tempos of two stretches one after the other, in % of where the first begins. */
function joinedTempos(a: ImportSection, b: ImportSection, length: Ticks): readonly TempoPoint[] {
  const ratio = b.tempo / a.tempo;
  if (a.tempos.length === 0 && b.tempos.length === 0 && Math.abs(ratio - 1) < 0.001) return [];
  const [first, then] = [a, b].map(({ tempos }) => (tempos.length === 0 ? [{ at: 0, value: 100 }] : tempos));
  const last = first?.at(-1)?.value ?? 100;
  return [
    ...(first ?? []),
    { at: length - 1, value: last },
    ...(then ?? []).map(({ at, value }) => ({ at: at + length, value: value * ratio })),
  ];
}

function join({ section, chords }: Stretch, next: Stretch): Stretch {
  const length = section.bars * barTicks(section.metre);
  const tempos = joinedTempos(section, next.section, length);
  return {
    section: { ...section, bars: section.bars + next.section.bars, tempos },
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

/** How the music of a file is cut and moves: its notes in semitones, its chords on the line of fifths. */
export interface Move {
  readonly shift: Semitones;
  readonly fifths: number;
  /** Where the first stretch begins and the last ends: all before and after is theirs. */
  readonly first: Ticks;
  readonly last: Ticks;
}

/**
 * Cuts the lines of a file to one stretch; a note may ring on for a bar after it. What comes a hair before its first bar
 * line and sounds on beyond it is the stretch's, and so is what leads into the first of all.
 */
export function cutOut(
  { section, chords }: Stretch,
  lines: readonly ImportLine[],
  { shift, fifths, first, last }: Move,
): Cut {
  const bar = barTicks(section.metre);
  const end = section.start + section.bars * bar;
  const from = section.start <= first ? Number.NEGATIVE_INFINITY : section.start;
  const to = end >= last ? Number.POSITIVE_INFINITY : end;
  const comes = ({ start, duration, held }: ImportNote, line: Ticks): boolean =>
    start >= line || isEarly(start, start + (held ?? duration), line);
  const counted = lines.map((line) => ({
    line,
    notes: line.notes
      .filter((note) => comes(note, from) && !comes(note, to))
      .map(({ held: _held, ...note }): Note => ({
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
    section.tempos,
    section.key,
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
