import type { Brief } from '../../song/schema';
import { chordMask, type Chord } from '../../theory/chord';
import { coloursOver } from '../../theory/colour';
import { inMask } from '../../theory/pitch';
import { range, type MidiNote, type Percent, type Ticks } from '../../theory/units';
import { happens, pickWeighted, type Random } from '../../trellis/random';
import type { PartContext } from '../context';
import { motifNotes } from '../motif';
import type { PhraseUnit } from './plan';
import type { RhythmNote } from './rhythm';

/** Where a line says again what it said: pitches that stay, and pitches that are aimed at. */
export interface Recall {
  /** Of every note that something later goes back to; null where it is free. */
  readonly stated: readonly (MidiNote | null)[];
  /** What a note takes where nothing speaks against it; null where it is free. */
  readonly aims: readonly (MidiNote | null)[];
}

/** How a unit returns: as it was, on another step of the scale, with another ending, or in its rhythm only. */
type Return = 'exact' | 'sequence' | 'answer';

const RETURNS: readonly (readonly [Return, number])[] = [
  ['exact', 62],
  ['sequence', 24],
  ['answer', 14],
];

/** Chance that a returning unit brings its pitches along, in %. */
const returnsShape = (recall: Percent): number => Math.min(100, recall * 1.35);
/** Chance that the second bar of a unit says the first in sequence where it has its rhythm, in %. */
const sequences = (recall: Percent): number => recall;
/** Chance that another motif begins as the first did where it has its rhythm, on another step, in %. */
const takesUp = (recall: Percent): number => recall * 0.5;

/** The share of a bar in which an answer ends otherwise. */
const ANSWERED = 0.75;

/** Steps of the scale that a sequence moves by, with how readily. */
const SHIFTS: readonly (readonly [steps: number, weight: number])[] = [
  [-1, 30],
  [1, 30],
  [-2, 18],
  [2, 18],
  [-3, 6],
  [3, 6],
];

interface Line {
  readonly pitches: readonly MidiNote[];
  readonly rhythm: readonly RhythmNote[];
  readonly plan: readonly PhraseUnit[];
  readonly chords: readonly (Chord | null)[];
  readonly barTicks: Ticks;
  /** A motif of the song and what is done with it, for the units that say it. */
  readonly motif: NonNullable<PartContext['motif']> | null;
}

/** Ticks from which a note is heard as resting on its chord. */
const RESTS = 720;

/** Whether a pitch would rest on a chord that it neither belongs to nor colours: it is not said again there. */
function rubs({ rhythm, chords }: Line, note: number, pitch: MidiNote): boolean {
  const chord = chords[note] ?? null;
  const rests = rhythm[note]?.closing === true || (rhythm[note]?.duration ?? 0) >= RESTS;
  return rests && chord !== null && !inMask(chordMask(chord) | coloursOver(chord), pitch);
}

/** Notes of a stretch of bars, by their times from its beginning. */
function notesIn({ rhythm, barTicks }: Line, firstBar: number, bars: number): Map<Ticks, number> {
  const [from, to] = [firstBar * barTicks, (firstBar + bars) * barTicks];
  const notes = new Map<Ticks, number>();
  rhythm.forEach(({ start }, index) => {
    if (start >= from && start < to) notes.set(start - from, index);
  });
  return notes;
}

/**
 * Aims for all that returns, from a line that was drawn freely: what states is kept, and what returns is aimed at the
 * same steps of the scale, or at those of a sequence that fits the chords.
 *
 * @param ladder  the notes of the scale that the line may use, rising
 */
export function drawRecall(
  line: Line,
  ladder: readonly MidiNote[],
  { recall, grid }: Pick<Brief, 'recall' | 'grid'>,
  random: Random,
): Recall {
  const expected = [...line.pitches];
  const aims: (MidiNote | null)[] = line.pitches.map(() => null);
  const stated: (MidiNote | null)[] = line.pitches.map(() => null);
  const sayAgain = (source: Map<Ticks, number>, target: Map<Ticks, number>, shift: number, until: Ticks): void => {
    for (const [at, note] of target) {
      const from = source.get(at);
      if (from === undefined || at >= until) continue;
      const pitch = shifted(expected[from] as MidiNote, shift, ladder);
      if (pitch === null || rubs(line, note, pitch)) continue;
      aims[note] = pitch;
      expected[note] = pitch;
      if (aims[from] === null) stated[from] = expected[from] as MidiNote;
    }
  };
  const shiftFor = (source: Map<Ticks, number>, target: Map<Ticks, number>): number =>
    pickWeighted(
      random,
      SHIFTS.map(([steps, weight]) => {
        const fit = fitOf(source, target, steps, expected, ladder, line.chords);
        return [steps, weight * fit * fit * fit] as const;
      }),
    );
  const inSequence = (source: Map<Ticks, number>, target: Map<Ticks, number>, chance: Percent): void => {
    const alike = target.size > 1 && [...target.keys()].every((at) => source.has(at));
    if (alike && happens(random, chance)) sayAgain(source, target, shiftFor(source, target), line.barTicks);
  };
  // A motif of the song stands where it is nearest to what was drawn and fits the chords.
  const sayMotif = (unit: PhraseUnit, own: Map<Ticks, number>): void => {
    const { motif } = line;
    if (!motif) return;
    const steps = new Map(
      motifNotes(motif, unit.bars * line.barTicks, line.barTicks, grid).map(({ at, step }) => [at, step]),
    );
    const notes = [...own].flatMap(([at, note]) => {
      const step = steps.get(at);
      return step === undefined || step === null ? [] : [{ note, step }];
    });
    const bases = range(ladder.length).map(
      (base) => [base, standing(notes, base, expected, ladder, line.chords)] as const,
    );
    if (notes.length === 0 || bases.every(([, weight]) => weight === 0)) return;
    const base = pickWeighted(random, bases);
    for (const { note, step } of notes) {
      const pitch = ladder[base + step];
      if (pitch === undefined) continue;
      aims[note] = pitch;
      expected[note] = pitch;
    }
  };
  line.plan.forEach((unit, index) => {
    const own = notesIn(line, unit.firstBar, unit.bars);
    if (unit.motif && !unit.returns) sayMotif(unit, own);
    if (!unit.returns) {
      const first = notesIn(line, unit.firstBar, 1);
      if (index > 0 && !unit.motif) inSequence(notesIn(line, 0, 1), first, takesUp(recall));
      if (unit.bars === 2 && (!unit.motif || line.motif?.bars === 1))
        inSequence(first, notesIn(line, unit.firstBar + 1, 1), sequences(recall));
      return;
    }
    // What states a motif says it again for certain.
    const certain = unit.motif && (line.motif?.use === 'states' || line.motif?.use === 'sequences');
    if (!certain && !happens(random, returnsShape(recall))) return;
    const stating = line.plan.findIndex((other) => other.letter === unit.letter);
    const { firstBar, bars } = line.plan[stating] as PhraseUnit;
    const source = notesIn(line, firstBar, bars);
    const how = unit.motif && line.motif?.use === 'sequences' ? 'sequence' : pickWeighted(random, RETURNS);
    const until = unit.bars * line.barTicks - (how === 'answer' ? line.barTicks * ANSWERED : 0);
    sayAgain(source, own, how === 'sequence' ? shiftFor(source, own) : 0, until);
    // The last note of all lands where the harmony does.
    if (index === line.plan.length - 1) aims[aims.length - 1] = null;
  });
  return { stated, aims };
}

/** A pitch some steps of the scale away; null beyond the ladder or for a note that is not on it. */
function shifted(pitch: MidiNote, steps: number, ladder: readonly MidiNote[]): MidiNote | null {
  if (steps === 0) return pitch;
  const place = ladder.indexOf(pitch);
  return place < 0 ? null : (ladder[place + steps] ?? null);
}

/** How well a shape sits some steps away, 0–1: the share of its notes that are there and belong to the chords. */
function fitOf(
  source: Map<Ticks, number>,
  target: Map<Ticks, number>,
  steps: number,
  expected: readonly MidiNote[],
  ladder: readonly MidiNote[],
  chords: readonly (Chord | null)[],
): number {
  const notes = [...target].flatMap(([at, note]) => {
    const from = source.get(at);
    return from === undefined ? [] : [{ note, pitch: shifted(expected[from] as MidiNote, steps, ladder) }];
  });
  const score = notes.reduce((sum, { note, pitch }) => {
    const chord = chords[note] ?? null;
    return sum + (pitch === null ? 0 : chord === null || inMask(chordMask(chord), pitch) ? 1 : 0.4);
  }, 0);
  return notes.length === 0 ? 0 : score / notes.length;
}

/** How well a motif stands on a step of the ladder: near what was drawn, on the chords; 0 where it does not fit. */
function standing(
  notes: readonly { readonly note: number; readonly step: number }[],
  base: number,
  expected: readonly MidiNote[],
  ladder: readonly MidiNote[],
  chords: readonly (Chord | null)[],
): number {
  let away = 0;
  let fit = 0;
  for (const { note, step } of notes) {
    const pitch = ladder[base + step];
    if (pitch === undefined) return 0;
    const chord = chords[note] ?? null;
    away += Math.abs(pitch - (expected[note] as MidiNote));
    fit += chord === null || inMask(chordMask(chord), pitch) ? 1 : 0.4;
  }
  const [share, distance] = [fit / notes.length, away / notes.length];
  return (share * share * share) / (1 + distance * distance);
}

/** The notes of a line's pitches that belong to a scale, as a ladder. */
export const ladderOf = (pitches: readonly MidiNote[], mask: number): MidiNote[] =>
  range(pitches.length).flatMap((index) =>
    inMask(mask, pitches[index] as MidiNote) ? [pitches[index] as MidiNote] : [],
  );
