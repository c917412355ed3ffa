import { clamp, type Ticks } from '../theory/units';
import { thinned } from './curve';
import { barOf, groundOf } from './ground';
import { LIMITS } from './limits';
import { TEMPO_LIMITS, type Score, type Section, type SectionId, type TempoPoint } from './schema';

/** How a section's tempo changes on its way: points in % of its own tempo, so that they follow it when that changes. */

const changed = (score: Score, id: SectionId, tempos: readonly TempoPoint[]): Score => ({
  ...score,
  sections: score.sections.map((section) => {
    if (section.id !== id) return section;
    const { tempos: _before, ...steady } = section;
    return tempos.length === 0 ? steady : { ...section, tempos };
  }),
});

/** Points at whole ticks, in order, each moment once: the later of two counts. */
const inOrder = (points: readonly TempoPoint[]): TempoPoint[] =>
  [...new Map(points.map(({ at, value }) => [Math.max(0, Math.round(at)), value])).entries()]
    .sort(([a], [b]) => a - b)
    .map(([at, value]) => ({ at, value }));

/**
 * Lets a section go evenly to another tempo on its last bars.
 *
 * @param tempo  quarter notes a minute at its end; null lets it stay as it is
 * @param bars   over which it changes
 */
export function withEndTempo(score: Score, section: Section, tempo: number | null, bars: number): Score {
  if (tempo === null) return changed(score, section.id, []);
  const bar = barOf(score, section);
  const own = groundOf(score, section).tempo;
  const wished = clamp(tempo, TEMPO_LIMITS.low, TEMPO_LIMITS.high);
  const from = Math.max(0, section.bars - bars) * bar;
  const value = clamp((wished / own) * 100, 10, 400);
  return changed(
    score,
    section.id,
    inOrder([
      { at: from, value: 100 },
      { at: section.bars * bar, value },
    ]),
  );
}

/** How closely a drawn tempo is followed, in % of the section's own: nobody hears less. */
const FINE = 0.5;

/**
 * The points of a tempo as few as say it; none where it stays.
 *
 * @param points  in % of a tempo; what would be slower or faster than a song may be is held back
 * @param own     that tempo, in quarter notes a minute
 */
export function fewTempos(points: readonly TempoPoint[], own: number): TempoPoint[] {
  const [low, high] = [Math.max(10, (100 * TEMPO_LIMITS.low) / own), Math.min(400, (100 * TEMPO_LIMITS.high) / own)];
  const held = inOrder(points.map(({ at, value }) => ({ at, value: clamp(value, low, high) })));
  let few = thinned(held, FINE);
  for (let tolerance = FINE; few.length > LIMITS.tempoPoints; tolerance *= 1.5) few = thinned(held, tolerance);
  return few.every(({ value }) => value === 100) ? [] : few;
}

/** Lets the tempo go over a section as it was drawn; no points let it stay. */
export const withTempos = (score: Score, section: Section, points: readonly TempoPoint[]): Score =>
  changed(score, section.id, fewTempos(points, groundOf(score, section).tempo));

/** The tempo that a section ends in, and over how many of its last bars it goes there; null where it stays. */
export function endTempoOf(score: Score, section: Section): { readonly tempo: number; readonly bars: number } | null {
  const [from, to] = [section.tempos?.at(-2)?.at ?? 0, section.tempos?.at(-1)];
  if (!to) return null;
  const tempo = Math.round(groundOf(score, section).tempo * to.value) / 100;
  return { tempo, bars: Math.max(1, Math.round(section.bars - from / barOf(score, section))) };
}

/** A section's points after it got longer or shorter by so much: what happens at its end goes along. */
export const temposMoved = (tempos: readonly TempoPoint[], by: Ticks): readonly TempoPoint[] =>
  inOrder(tempos.map(({ at, value }) => ({ at: at + by, value })));
