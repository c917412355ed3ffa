import type { Style } from '../../song/style';
import { layCell } from '../../styles/cell';
import { COMMON_CELLS } from '../../styles/common-figures';
import { homeMetre } from '../../styles/figure';
import type { Metre } from '../../theory/metre';
import { sum, type Ticks } from '../../theory/units';
import { pickWeighted, type Random } from '../../trellis/random';
import type { PartContext } from '../context';
import { filledBar, leaned, offBeat, onGrid, usualOf, wantedOff, type StrokeBrief } from '../strokes';

/** A rhythm of one or two bars, laid into a metre. */
export interface Cell {
  /** Onsets of each bar, in ticks from its bar line. */
  readonly bars: readonly (readonly Ticks[])[];
  /** Onsets a bar. */
  readonly density: number;
  /** How many different times lie between its onsets: few are easily clapped. */
  readonly lengths: number;
}

const known = new WeakMap<Style, Map<Metre, readonly Cell[]>>();

/** The cells that melodies in a style are made of, in a metre. */
export function cellsOf(style: Style, metre: Metre): readonly Cell[] {
  const byMetre = known.get(style) ?? new Map<Metre, readonly Cell[]>();
  known.set(style, byMetre);
  const found = byMetre.get(metre);
  if (found) return found;
  const own = style.melody ?? [];
  const home = homeMetre(own.length > 0 ? (style.metres[0] ?? '4/4') : '4/4');
  const cells = (own.length > 0 ? own : COMMON_CELLS).map(({ steps }): Cell => {
    const bars = layCell(steps, home, metre);
    const gaps = bars.flatMap((onsets) => onsets.slice(1).map((at, index) => at - (onsets[index] as Ticks)));
    return { bars, density: sum(bars.map(({ length }) => length)) / bars.length, lengths: new Set(gaps).size };
  });
  byMetre.set(metre, cells);
  return cells;
}

/**
 * Draws one of the cells, those likelier that come near the busyness asked for.
 *
 * @param clear   how much cells of few different lengths are preferred, in %
 * @param others  cells that something else of the line is made of: they are avoided where there is a choice
 */
export function pickCell(
  cells: readonly Cell[],
  { busyness }: StrokeBrief,
  clear: number,
  others: readonly Cell[],
  random: Random,
): Cell {
  const fresh = cells.filter((cell) => !others.includes(cell));
  return pickWeighted(
    random,
    (fresh.length > 0 ? fresh : cells).map((cell) => {
      const away = 0.7 + Math.abs(cell.density - busyness);
      return [cell, (1 + (clear / 100) * Math.max(0, 4 - cell.lengths)) / (away * away)] as const;
    }),
  );
}

/**
 * A cell as a brief asks for it: as it is where it comes near, else thinned or filled, and pushed off the beat or set on
 * it.
 */
export function fittedCell(cell: Cell, { metre, brief, style, role }: PartContext, random: Random): Ticks[][] {
  const usual = usualOf(style, role).syncopation;
  const least = cell.bars.length === 1 ? 1 : 0;
  return cell.bars.map((bar) => {
    const filled = filledBar(onGrid(bar, brief.grid), cell.density, least, metre, brief, random);
    const wanted = wantedOff(offBeat(filled, metre), brief.syncopation, usual);
    return onGrid(leaned(filled, wanted, metre, random), brief.grid);
  });
}
