import type { Note, PartId } from '../song/schema';
import { sum, type MidiNote, type Ticks } from '../theory/units';

/** What stands in each other's way in a mix: lines that are buried, and lines that sit on one another. */

/** What is further below the loudest line is not heard any more, in dB. */
export const BURIED = 12;
/** General MIDI's law for volume: by the square of the controller. */
const PER_TENTH = 40;

/** What a level in % does to a line, in dB. */
export const levelDecibels = (level: number): number => PER_TENTH * Math.log10(Math.max(level, 0.1) / 100);

/** The level in % that changes a line by so many dB; beyond 100 where it cannot be had. */
export const levelFor = (decibels: number): number => 100 * 10 ** (decibels / PER_TENTH);

/** Several sounds at once, as loud as together they are; in LUFS. */
export const together = (loudness: readonly number[]): number =>
  10 * Math.log10(sum(loudness.map((each) => 10 ** (each / 10))));

export interface Buried {
  readonly part: PartId;
  /** How far it lies below the loudest line, in dB. */
  readonly under: number;
  readonly loudest: PartId;
}

/**
 * The lines that lie too far below the loudest one.
 *
 * @param loudness  of each part that sounds, as it stands in the mix, in LUFS
 */
export function buriedIn(loudness: ReadonlyMap<PartId, number>): Buried[] {
  const [first] = [...loudness].sort(([, a], [, b]) => b - a);
  if (!first) return [];
  const [loudest, most] = first;
  return [...loudness].flatMap(([part, own]) =>
    most - own > BURIED ? [{ part, under: Math.round(most - own), loudest }] : [],
  );
}

type Line = readonly Pick<Note, 'start' | 'duration' | 'pitch'>[];

/** How finely time is looked at: a sixteenth. */
const STEP: Ticks = 120;

/** What sounds in each step of time. */
function stepsOf(line: Line): ReadonlyMap<number, ReadonlySet<MidiNote>> {
  const steps = new Map<number, Set<MidiNote>>();
  for (const { start, duration, pitch } of line) {
    const [from, to] = [Math.floor(start / STEP), Math.max(start + 1, start + duration) / STEP];
    for (let step = from; step < to; step++) steps.set(step, (steps.get(step) ?? new Set()).add(pitch));
  }
  return steps;
}

/** Where a line mostly lies: without the tenth of its time that is lowest, and the tenth that is highest. */
function registerOf(line: Line): readonly [low: MidiNote, high: MidiNote] {
  const sorted = [...line].sort((a, b) => a.pitch - b.pitch);
  const total = sum(sorted.map(({ duration }) => duration));
  const pitchAt = (share: number): MidiNote => {
    let passed = 0;
    return sorted.find(({ duration }) => (passed += duration) >= share * total)?.pitch ?? sorted.at(-1)?.pitch ?? 0;
  };
  return [pitchAt(0.1), pitchAt(0.9)];
}

export interface Crowded {
  readonly parts: readonly [PartId, PartId];
  /** What both mostly lie in. */
  readonly low: MidiNote;
  readonly high: MidiNote;
}

/** Lines sit on one another where most of one's register is the other's too, for most of the time that it sounds. */
const [SAME_REGISTER, SAME_TIME, DOUBLED] = [0.75, 0.6, 0.5];

const NONE: ReadonlySet<MidiNote> = new Set();

/** True where all that one of two sounds the other sounds too. */
const within = (a: ReadonlySet<MidiNote>, b: ReadonlySet<MidiNote>): boolean => {
  const [fewer, more] = a.size <= b.size ? [a, b] : [b, a];
  return [...fewer].every((pitch) => more.has(pitch));
};

/** A line as it is compared with all others. */
interface Looked {
  readonly part: PartId;
  readonly register: readonly [low: MidiNote, high: MidiNote];
  readonly steps: ReadonlyMap<number, ReadonlySet<MidiNote>>;
}

function crowd(a: Looked, b: Looked): readonly [low: MidiNote, high: MidiNote] | null {
  const [[lowA, highA], [lowB, highB]] = [a.register, b.register];
  const [low, high] = [Math.max(lowA, lowB), Math.min(highA, highB)];
  const narrower = Math.min(highA - lowA, highB - lowB) + 1;
  if ((high - low + 1) / narrower < SAME_REGISTER) return null;
  const [stepsA, stepsB] = [a.steps, b.steps];
  const both = [...stepsA.keys()].filter((step) => stepsB.has(step));
  if (both.length / Math.min(stepsA.size, stepsB.size) < SAME_TIME) return null;
  const alike = both.filter((step) => within(stepsA.get(step) ?? NONE, stepsB.get(step) ?? NONE));
  // Who plays the very same doubles the other: that is meant.
  return alike.length / both.length > DOUBLED ? null : [low, high];
}

/**
 * Pairs of pitched lines that sit on one another.
 *
 * @param lines  what each part sounds in a section
 */
export function crowdedIn(lines: ReadonlyMap<PartId, Line>): Crowded[] {
  const all = [...lines].flatMap(([part, line]): Looked[] =>
    line.length === 0 ? [] : [{ part, register: registerOf(line), steps: stepsOf(line) }],
  );
  return all.flatMap((own, index) =>
    all.slice(index + 1).flatMap((other): Crowded[] => {
      const found = crowd(own, other);
      return found ? [{ parts: [own.part, other.part], low: found[0], high: found[1] }] : [];
    }),
  );
}
