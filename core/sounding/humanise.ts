import type { Note } from '../song/schema';
import { clamp, type Percent, type Ticks } from '../theory/units';
import { hashLabels, stream } from '../trellis/random';
import { byStart } from '../song/note-ends';
import { remembering } from '../song/remember';

/** How far a loose hand strays at 100 %, in ticks and in velocity. */
const FURTHEST = { time: 26, velocity: 16 } as const;
/** How much of the last deviation the next one keeps: hands drift, they do not jitter. */
const MEMORY = 0.72;

const remembered = remembering();

/**
 * Notes as hands play them: early and late, softer and louder by a correlated walk, notes of one stroke together.
 * The same
 * part strays the same way every time, so that what is heard is what is delivered. No note strays over a bar line: the
 * first beat of a song, a section or a loop would be lost with it.
 *
 * @param amount  0 leaves the notes as they are
 * @param part    gives every part hands of its own
 * @param bar     one bar, in ticks
 */
export function humanised(notes: readonly Note[], amount: Percent, part: string, bar: Ticks): readonly Note[] {
  if (amount === 0 || notes.length === 0) return notes;
  return remembered(notes, `${amount} ${bar} ${part}`, () => {
    const random = stream(hashLabels(notes.length, [part]), 'humanise');
    const share = amount / 100;
    let drift = 0;
    let weight = 0;
    let last = Number.NaN;
    return notes
      .map((note) => {
        // The strings of a strum are one stroke: their nudges are part of the start already.
        const stroke = note.start - (note.nudge ?? 0);
        if (stroke !== last) {
          drift = MEMORY * drift + (random.next() + random.next() - 1) * (1 - MEMORY) * 2;
          weight = MEMORY * weight + (random.next() + random.next() - 1) * (1 - MEMORY) * 2;
          last = stroke;
        }
        const line = Math.floor(note.start / bar) * bar;
        const start = clamp(note.start + Math.round(drift * FURTHEST.time * share), line, line + bar - 1);
        const velocity = clamp(Math.round(note.velocity + weight * FURTHEST.velocity * share), 1, 127);
        return { ...note, start, velocity };
      })
      .sort(byStart);
  });
}
