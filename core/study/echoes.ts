import type { Note } from '../song/schema';
import { range, type Ticks } from '../theory/units';

/** Bars of a line that say again what other bars say: in the same rhythm, on the same steps or on others. */

/** The share of a bar's notes, 0–1, that must be said again for it to be an echo. */
const ALIKE = 0.6;
/** Semitones by which a step in a sequence may differ, as scales have steps of one and two. */
const STEP = 1;

/** A bar's strokes from its line, each by its highest note. */
function strokesIn(notes: readonly Note[], bar: number, barTicks: Ticks): ReadonlyMap<Ticks, number> {
  const strokes = new Map<Ticks, number>();
  for (const { start, pitch } of notes) {
    const at = start - bar * barTicks;
    if (at >= 0 && at < barTicks) strokes.set(at, Math.max(strokes.get(at) ?? 0, pitch));
  }
  return strokes;
}

/** The share of the strokes of two bars that fall together, moved by the same interval, 0–1. */
function likeness(a: ReadonlyMap<Ticks, number>, b: ReadonlyMap<Ticks, number>): number {
  const both = [...a].flatMap(([at, pitch]) => {
    const other = b.get(at);
    return other === undefined ? [] : [other - pitch];
  });
  const most = both.reduce(
    (best, shift) => Math.max(best, both.filter((other) => Math.abs(other - shift) <= STEP).length),
    0,
  );
  return most / Math.max(1, a.size, b.size);
}

/**
 * The bars that echo some bars, in order; those bars themselves are not among them. Silent bars echo nothing, and one
 * note alone is nothing to say again.
 *
 * @param bars   counted from 0
 * @param count  of the section
 */
export function echoesOf(notes: readonly Note[], bars: readonly number[], count: number, barTicks: Ticks): number[] {
  const sources = bars.map((bar) => strokesIn(notes, bar, barTicks)).filter(({ size }) => size > 1);
  return range(count).filter((bar) => {
    if (bars.includes(bar)) return false;
    const own = strokesIn(notes, bar, barTicks);
    return sources.some((source) => likeness(source, own) >= ALIKE);
  });
}
