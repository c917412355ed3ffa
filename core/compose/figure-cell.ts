import type { Metre } from '../theory/metre';
import type { Ticks } from '../theory/units';
import type { Random } from '../trellis/random';
import type { PartContext } from './context';
import { filledBar, leaned, offBeat, usualOf, wantedOff } from './strokes';

/** A stroke of a bar and what it is: an accent, a tone, a direction. */
export interface CellStroke<What> {
  readonly at: Ticks;
  readonly what: What;
}

/**
 * The bars of a figure as they are played throughout a section: strokes made fewer or more, and pushed off the beat or
 * set on it, as the brief asks; as they are written where it asks for what the style usually has.
 *
 * @param bars    each bar's strokes, in order
 * @param filler  what a stroke is that is added
 */
export function playedCell<What>(
  bars: readonly (readonly CellStroke<What>[])[],
  filler: (at: Ticks, metre: Metre) => What,
  { metre, brief, style, role }: PartContext,
  random: Random,
): CellStroke<What>[][] {
  const density = bars.reduce((total, { length }) => total + length, 0) / Math.max(1, bars.length);
  const usual = usualOf(style, role);
  const wished = { ...brief, busyness: (density * brief.busyness) / usual.busyness };
  return bars.map((strokes) => {
    const written = strokes.map(({ at }) => at);
    const filled = filledBar(written, density, 0, metre, wished, random);
    const wanted = wantedOff(offBeat(filled, metre), brief.syncopation, usual.syncopation);
    return leaned(filled, wanted, metre, random).map((at, index) => {
      const from = filled[index] as Ticks;
      return { at, what: strokes.find((stroke) => stroke.at === from)?.what ?? filler(from, metre) };
    });
  });
}
