/** Whether the words of a brief do what they say: each moved from end to end, against what it names in the notes. */
import { partAsking } from '@fendro/core/compose/asking';
import { draft } from '@fendro/core/compose/draft';
import type { BriefWord } from '@fendro/core/song/brief-words';
import { roleOf } from '@fendro/core/song/roles';
import { ROLES, type Brief, type ChordSpan, type Note, type PartTake, type Role } from '@fendro/core/song/schema';
import type { Style } from '@fendro/core/song/style';
import { barsAgain } from '@fendro/core/study/band-measures';
import { melodyMeasures } from '@fendro/core/study/melody-measures';
import { newPart } from '@fendro/core/styles/band';
import { chordMask } from '@fendro/core/theory/chord';
import { keyMask } from '@fendro/core/theory/key';
import { metricalWeight, WEIGHT } from '@fendro/core/theory/metre';
import { inMask } from '@fendro/core/theory/pitch';
import { hashLabels } from '@fendro/core/trellis/random';
import { BARS, groundOf, pieceOf, type Piece } from './pieces';
import { mean, rankCorrelation } from './two-sided';

interface Heard {
  readonly notes: readonly Note[];
  readonly chords: readonly ChordSpan[];
  readonly ground: Piece['ground'];
  readonly role: Role;
}

/** Each onset once, with its highest note. */
function topOf(notes: readonly Note[]): Note[] {
  const tops = new Map<number, Note>();
  for (const note of notes) if ((tops.get(note.start)?.pitch ?? -1) < note.pitch) tops.set(note.start, note);
  return [...tops.values()].sort((a, b) => a.start - b.start);
}

const chordAt = (chords: readonly ChordSpan[], at: number) => chords.findLast(({ start }) => start <= at)?.chord;
const spread = (values: readonly number[]): number => {
  const middle = mean(values);
  return Math.sqrt(mean(values.map((value) => (value - middle) ** 2)));
};

/** Share of the time from onset to onset that notes sound. */
const legato = (notes: readonly Note[]): number => {
  const tops = topOf(notes);
  return mean(
    tops
      .slice(0, -1)
      .map(({ start, duration }, index) => Math.min(1, duration / ((tops[index + 1] as Note).start - start))),
  );
};

/** What each word names, as a number of a take. */
const NAMED: Readonly<Record<Exclude<BriefWord, 'humanise'>, (heard: Heard) => number>> = {
  busyness: ({ notes }) => new Set(notes.map(({ start }) => start)).size / BARS,
  register: ({ notes }) => mean(notes.map(({ pitch }) => pitch)),
  syncopation: ({ notes, ground }) =>
    mean(topOf(notes).map(({ start }) => (metricalWeight(ground.metre, start) < WEIGHT.beat ? 1 : 0))),
  stride: ({ notes, role }) => {
    const tops = role === 'bass' ? notes : topOf(notes);
    return mean(tops.slice(1).map(({ pitch }, index) => Math.abs(pitch - (tops[index] as Note).pitch)));
  },
  anchoring: ({ notes, chords, ground }) =>
    mean(
      topOf(notes)
        .filter(({ start }) => metricalWeight(ground.metre, start) >= WEIGHT.beat)
        .map(({ start, pitch }) => {
          const chord = chordAt(chords, start);
          return chord && inMask(chordMask(chord), pitch) ? 1 : 0;
        }),
    ),
  recall: ({ notes, ground, role }) =>
    roleOf(role).plays === 'drums'
      ? barsAgain(notes, ground.metre, BARS)
      : (melodyMeasures({ notes: topOf(notes), chords: [], key: ground, metre: ground.metre, bars: BARS })[
          'notes in motifs of 4+ (transposable)'
        ] ?? 0),
  breath: ({ notes, ground }) =>
    melodyMeasures({ notes: topOf(notes), chords: [], key: ground, metre: ground.metre, bars: BARS })['rest share'] ??
    0,
  // Of pitched parts what lies outside chord or scale, of drums how little bars resemble each other.
  adventure: ({ notes, chords, ground, role }) =>
    roleOf(role).plays === 'drums'
      ? 1 - barsAgain(notes, ground.metre, BARS)
      : mean(
          notes.map(({ start, pitch }) => {
            const chord = chordAt(chords, start);
            return (chord && !inMask(chordMask(chord), pitch) ? 1 : 0) + (inMask(keyMask(ground), pitch) ? 0 : 1);
          }),
        ),
  loudness: ({ notes }) => mean(notes.map(({ velocity }) => velocity)),
  length: ({ notes }) => legato(notes),
  voices: ({ notes }) => notes.length / Math.max(1, new Set(notes.map(({ start }) => start)).size),
  rolls: ({ notes }) => notes.filter(({ start }) => start % 120 !== 0).length / BARS,
  // Drums are balanced against each other: each is compared with itself.
  dynamics: ({ notes, role }) =>
    roleOf(role).plays === 'drums'
      ? mean(
          [...new Set(notes.map(({ pitch }) => pitch))].map((pitch) =>
            spread(notes.filter((note) => note.pitch === pitch).map(({ velocity }) => velocity)),
          ),
        )
      : spread(topOf(notes).map(({ velocity }) => velocity)),
  pickup: ({ notes }) => (notes.some(({ start }) => start < 0) ? 1 : 0),
};

/** Settings of a brief from one end of a word to the other. */
function settingsOf(word: BriefWord, brief: Brief): Partial<Brief>[] {
  const percents = [0, 25, 50, 75, 100];
  switch (word) {
    case 'busyness':
      return [0.35, 0.6, 1, 1.6, 2.4].map((factor) => ({
        busyness: Math.max(0.5, Math.min(24, brief.busyness * factor)),
      }));
    case 'register':
      return [-8, -4, 0, 4, 8].map((shift) => ({ low: brief.low + shift, high: brief.high + shift }));
    case 'loudness':
      return [45, 62, 80, 96, 112].map((loudness) => ({ loudness }));
    case 'voices':
      return [1, 2, 3, 4, 5].map((voices) => ({ voices }));
    default:
      return percents.map((value) => ({ [word]: value }));
  }
}

export interface WordResult {
  readonly role: Role;
  readonly word: BriefWord;
  /** Rank correlation of each style's means, and of single takes, a style's at a time. */
  readonly correlation: number;
  readonly single: number;
  readonly ends: readonly [low: number, high: number];
}

const known = new Map<string, Piece>();
const knownPiece = (style: Style, seed: number): Piece => {
  const name = `${style.id} ${seed}`;
  const piece = known.get(name) ?? pieceOf(style, seed);
  known.set(name, piece);
  return piece;
};

/** One word of one role over some styles. */
export function measureWord(
  role: Role,
  word: Exclude<BriefWord, 'humanise'>,
  styles: readonly Style[],
  seeds: number,
): WordResult {
  const ends: [number[], number[]] = [[], []];
  const correlations = styles.map((style) => {
    const values: number[] = [];
    const measured: number[] = [];
    for (let seed = 1; seed <= seeds; seed++) {
      const piece = knownPiece(style, seed);
      const part = newPart(style, role, 'part', 0);
      const listensTo = roleOf(role).listensTo;
      const beside = piece.parts.flatMap(({ part: other, notes }): PartTake[] =>
        other.role === listensTo ? [{ part: other.id, notes } as unknown as PartTake] : [],
      );
      settingsOf(word, part.brief).forEach((setting, level) => {
        const asking = partAsking(
          { ground: groundOf(style, seed), bars: BARS, kind: 'verse' },
          { role, brief: { ...part.brief, ...setting } },
        );
        const result = draft(
          {
            asking,
            seed: hashLabels(seed, [style.id, role, word, level]),
            chords: piece.chords,
            beside: beside.slice(0, 1),
          },
          0,
        );
        if (!result.ok || result.content.of !== 'part' || result.content.notes.length < 2) return;
        const value = NAMED[word]({ notes: result.content.notes, chords: piece.chords, ground: piece.ground, role });
        values.push(level);
        measured.push(value);
        if (level === 0) ends[0].push(value);
        if (level === 4) ends[1].push(value);
      });
    }
    const levels = [...new Set(values)];
    const means = levels.map((level) => mean(measured.filter((_, index) => values[index] === level)));
    return { means: rankCorrelation(levels, means), single: rankCorrelation(values, measured) };
  });
  return {
    role,
    word,
    correlation: mean(correlations.map(({ means }) => means)),
    single: mean(correlations.map(({ single }) => single)),
    ends: [mean(ends[0]), mean(ends[1])],
  };
}

/** Every word of every role that can be heard in the notes. */
export const measureWords = (styles: readonly Style[], seeds: number): WordResult[] =>
  ROLES.flatMap((role) =>
    [...roleOf(role).words, ...roleOf(role).further].flatMap((word) =>
      word === 'humanise' ? [] : [measureWord(role, word, styles, seeds)],
    ),
  );
