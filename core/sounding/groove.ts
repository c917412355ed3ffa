import type { Ground, Note } from '../song/schema';
import { beatsOf, type Metre } from '../theory/metre';
import { modulo, TICKS_PER_QUARTER, type Percent, type Ticks } from '../theory/units';
import { byStart } from '../song/note-ends';
import { remembering } from '../song/remember';

/**
 * Where a written moment sounds: swing delays the second half of every simple beat, at 100 % to the last triplet. It is
 * the only rule of swing there is; every part and the chord line go by it.
 */
export function swung(at: Ticks, swing: Percent, metre: Metre): Ticks {
  if (swing === 0 || beatsOf(metre).some(({ division }) => division === 3)) return at;
  const inBeat = modulo(at, TICKS_PER_QUARTER);
  const half = TICKS_PER_QUARTER / 2;
  const delay = (half / 3) * (swing / 100);
  const warped = inBeat < half ? inBeat * (1 + delay / half) : half + delay + (inBeat - half) * (1 - delay / half);
  return at - inBeat + Math.round(warped);
}

/** The written moment that sounds at one: what {@link swung} undoes, to the tick. */
export function unswung(at: Ticks, swing: Percent, metre: Metre): Ticks {
  if (swing === 0 || beatsOf(metre).some(({ division }) => division === 3)) return at;
  const inBeat = modulo(at, TICKS_PER_QUARTER);
  const half = TICKS_PER_QUARTER / 2;
  const delay = (half / 3) * (swing / 100);
  const even =
    inBeat < half + delay ? inBeat / (1 + delay / half) : half + (inBeat - half - delay) / (1 - delay / half);
  const written = at - inBeat + Math.round(even);
  // What is written on a triplet sounds there: a hair beside it, it swings.
  return written % TRIPLET === 0 && swung(written, swing, metre) !== written ? written + 1 : written;
}

/** A triplet eighth. */
const TRIPLET = TICKS_PER_QUARTER / 3;

/** Where a note begins or ends: written triplets are as long as each other already, whatever the swing. */
const placed = (at: Ticks, swing: Percent, metre: Metre): Ticks => (at % TRIPLET === 0 ? at : swung(at, swing, metre));

const remembered = remembering();

/** Notes where they sound on a ground: swung, then spread by their own nudges, in order of their starts. */
export function grooved(notes: readonly Note[], { swing, metre }: Pick<Ground, 'swing' | 'metre'>): readonly Note[] {
  return remembered(notes, `${swing} ${metre.beats}/${metre.unit} ${metre.groups.join('+')}`, () =>
    notes
      .map((note) => {
        const start = placed(note.start, swing, metre) + (note.nudge ?? 0);
        return { ...note, start, duration: Math.max(1, placed(note.start + note.duration, swing, metre) - start) };
      })
      .sort(byStart),
  );
}
