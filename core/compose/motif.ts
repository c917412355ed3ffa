import { scalePlace } from '../study/motifs';
import type { Brief, Motif, MotifUse, Note } from '../song/schema';
import type { Key } from '../theory/key';
import type { Ticks } from '../theory/units';
import { snapped } from './strokes';

/** A note of a motif as a section uses it. */
export interface MotifNote {
  /** From the beginning of the unit that takes it up. */
  readonly at: Ticks;
  readonly duration: Ticks;
  /** Steps of the scale from the motif's first note; null where another pitch answers. */
  readonly step: number | null;
}

/** How much of a motif an answer keeps before it goes another way. */
const KEPT = 0.5;
/** What stretching does to a motif's times. */
const STRETCH = 2;

/**
 * A motif as a section uses it in one of its units, in the section's own bars: what does not fit is left out.
 *
 * @param length    how long the unit is
 * @param barTicks  how long the section's bars are
 * @param grid      that its notes are to stand on
 */
export function motifNotes(
  motif: Motif & { readonly use: MotifUse },
  length: Ticks,
  barTicks: Ticks,
  grid: Brief['grid'] = null,
): MotifNote[] {
  const { use, notes } = motif;
  const half = notes.length * KEPT;
  return notes
    .map(({ start, duration, step }, index) => {
      const bar = Math.floor(start / motif.barTicks);
      const inBar = start % motif.barTicks;
      const at = use === 'stretches' ? start * STRETCH : bar * barTicks + inBar;
      const fits = use === 'stretches' || inBar < barTicks;
      const turned = use === 'inverts' ? -step : step;
      const lasts = use === 'stretches' ? duration * STRETCH : duration;
      return { at, duration: lasts, fits, step: use === 'answers' && index >= half ? null : turned };
    })
    .filter(({ at, fits }) => fits && at < length)
    .map(({ at, duration, step }) => {
      // Grids begin anew on every bar line.
      const line = Math.floor(at / barTicks) * barTicks;
      return { at: line + snapped(at - line, grid), duration, step };
    })
    .filter(({ at }, index, all) => all[index - 1]?.at !== at);
}

/** Bars of a motif that is taken from a melody's beginning. */
const MOTIF_BARS = 2;

/**
 * The motif that a stretch of a melody states; null where nothing starts there. Of notes that are struck together the
 * highest counts, and those between the steps of the scale count as the next lower one.
 *
 * @param first  its first bar, counted from 0
 */
export function motifFrom(
  notes: readonly Note[],
  key: Key,
  barTicks: Ticks,
  first = 0,
  bars = MOTIF_BARS,
): Motif | null {
  const [from, to] = [first * barTicks, (first + bars) * barTicks];
  const tops = new Map<Ticks, Note>();
  for (const note of notes)
    if (note.start >= from && note.start < to && (tops.get(note.start)?.pitch ?? -1) < note.pitch)
      tops.set(note.start, note);
  const line = [...tops.values()].sort((a, b) => a.start - b.start);
  const [head] = line;
  if (!head) return null;
  const place = (note: Note): number => Math.floor(scalePlace(note.pitch, key));
  return {
    bars,
    barTicks,
    notes: line.map((note) => ({
      start: note.start - from,
      duration: Math.max(1, Math.min(note.duration, to - note.start)),
      step: Math.max(-28, Math.min(28, place(note) - place(head))),
    })),
  };
}
