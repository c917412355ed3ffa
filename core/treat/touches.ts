import type { Note } from '../song/schema';
import type { Percent, Velocity } from '../theory/units';
import { chanceOf, loud, type Treat } from './treating';

/** Leaves so many % of the notes: which, is drawn anew in every pass. */
export const thin: Treat<{ readonly chance: Percent }> = (notes, { chance }, over) =>
  notes.filter((note) => chance >= 100 || chanceOf(note, 'stays', over) * 100 < chance);

/** Sets how loud notes are, scales it, or draws it between two ends. */
export const loudness: Treat<{
  readonly way: 'set' | 'scale' | 'draw';
  readonly low: Velocity;
  readonly high: Velocity;
  readonly percent: Percent;
}> = (notes, { way, low, high, percent }, over) => {
  const [least, most] = [Math.min(low, high), Math.max(low, high)];
  const of = (note: Note): Velocity => {
    if (way === 'set') return low;
    if (way === 'scale') return loud((note.velocity * percent) / 100);
    return least + Math.floor(chanceOf(note, 'loudness', over) * (most - least + 1));
  };
  return notes.map((note) => ({ ...note, velocity: of(note) }));
};

/** How far a loose hand strays at 100 %, in ticks and in velocity. */
const FURTHEST = { time: 30, velocity: 18 } as const;

/** Notes a little early or late, softer or louder; those of one stroke together. None leaves the section by it. */
export const humanise: Treat<{ readonly amount: Percent }> = (notes, { amount }, over) =>
  notes.map((note) => {
    const stroke = { ...note, pitch: 0 };
    const by = (what: string, furthest: number): number =>
      Math.round(((2 * chanceOf(stroke, what, over) - 1) * furthest * amount) / 100);
    return {
      ...note,
      start: Math.max(Math.min(0, note.start), note.start + by('early or late', FURTHEST.time)),
      velocity: loud(note.velocity + by('soft or loud', FURTHEST.velocity)),
    };
  });
