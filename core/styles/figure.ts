import { barTicks, beatsOf, METRES, metreName, type Beat, type Metre } from '../theory/metre';
import { SIXTEENTH, type Ticks } from '../theory/units';

/** One written step of a figure, placed in a bar. */
export interface FigureStep {
  /** Ticks from the bar line. */
  readonly at: Ticks;
  readonly symbol: string;
}

/** The chance that a struck step sounds, in %. */
export const chanceOf = (symbol: string): number =>
  symbol === 'x' || symbol === 'X' ? 100 : symbol === '.' ? 0 : Number(symbol) * 10;

/** The metre in which a style's figures are written. */
export const homeMetre = (name: string): Metre =>
  METRES.find((metre) => metreName(metre) === name) ?? (METRES[2] as Metre);

/** Where each sixteenth of a beat goes when a simple beat (4) becomes compound (6) or the other way round. */
const CARRY: Readonly<Record<string, readonly (number | null)[]>> = {
  '4>6': [0, 1, 4, 5],
  '6>4': [0, 1, null, null, 2, 3],
};

function carry(symbols: string, slots: number): string[] {
  const cell = Array.from({ length: slots }, () => '.');
  const map = CARRY[`${symbols.length}>${slots}`];
  [...symbols].forEach((symbol, index) => {
    const to = map ? map[index] : index < slots ? index : null;
    if (to !== null && to !== undefined && symbol !== '.') cell[to] = symbol;
  });
  return cell;
}

const slotsOf = (beat: Beat): number => beat.length / SIXTEENTH;

/** The figure's bar cut into its home beats. */
function cellsOf(bar: string, home: Metre): readonly { readonly role: Beat['role']; readonly symbols: string }[] {
  return beatsOf(home).map((beat) => {
    const from = beat.at / SIXTEENTH;
    return { role: beat.role, symbols: bar.slice(from, from + slotsOf(beat)) };
  });
}

const FALLBACK: Readonly<Record<Beat['role'], readonly Beat['role'][]>> = {
  down: ['down'],
  strong: ['strong', 'down'],
  back: ['back', 'weak'],
  weak: ['weak', 'back'],
};

/**
 * Lays one bar of a written figure into a metre. In another metre than the one it is written in, every beat takes the
 * cell of a home beat that does the same in its bar: back beats stay back beats in 3/4, 6/8 or 7/8.
 *
 * @param steps  the figure's text, bars parted by `|`
 * @param bar    which bar of the section; figures of several bars go round
 * @returns the struck steps, rising
 */
export function layFigure(steps: string, home: Metre, metre: Metre, bar: number): FigureStep[] {
  const bars = steps.split('|');
  const text = bars[bar % bars.length] ?? '';
  if (metreName(home) === metreName(metre)) {
    return [...text].map((symbol, index) => ({ at: index * SIXTEENTH, symbol })).filter(({ symbol }) => symbol !== '.');
  }
  const cells = cellsOf(text, home);
  const used = new Map<string, number>();
  return beatsOf(metre).flatMap((beat) => {
    const role = FALLBACK[beat.role].find((candidate) => cells.some((cell) => cell.role === candidate)) ?? 'down';
    const same = cells.filter((cell) => cell.role === role);
    const turn = used.get(beat.role) ?? 0;
    used.set(beat.role, turn + 1);
    return carry(same[turn % same.length]?.symbols ?? '', slotsOf(beat))
      .map((symbol, index) => ({ at: beat.at + index * SIXTEENTH, symbol }))
      .filter(({ symbol, at }) => symbol !== '.' && at < barTicks(metre));
  });
}
