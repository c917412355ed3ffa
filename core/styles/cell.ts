import { beatsOf, metreName, type Beat, type Metre } from '../theory/metre';
import type { Ticks } from '../theory/units';

/**
 * Cells of melodies are written by the beat: `x-.x-xxx-x..x` is a quarter, an eighth off the beat, a triplet and a
 * dotted eighth with its sixteenth. Each beat has as many signs as it is cut into: `x` is struck, `.` goes on; bars are
 * parted by `|`.
 */

/** Where the parts of a simple beat lie when it becomes compound, and the other way round; null is left out. */
const CARRY: Readonly<Record<string, readonly (number | null)[]>> = {
  'compound 2': [0, 2],
  'compound 4': [0, 1, 4, 5],
  'simple 3': [0, null, 1],
  'simple 6': [0, 1, null, null, 2, 3],
};
const PARTS: Readonly<Record<string, number>> = { 'compound 2': 3, 'compound 4': 6, 'simple 3': 2, 'simple 6': 4 };

interface CellBeat {
  readonly role: Beat['role'];
  readonly division: Beat['division'];
  readonly signs: string;
}

/** A written bar by the beats of its home metre; beats that are not written are silent. */
const beatsOfCell = (bar: string, home: Metre): CellBeat[] => {
  const written = bar.split('-');
  return beatsOf(home).map(({ role, division }, index) => ({ role, division, signs: written[index] ?? '.' }));
};

/** Onsets of one written beat in a beat of some metre, in ticks from the beat. */
function onsetsIn({ signs, division }: CellBeat, beat: Beat): Ticks[] {
  const way = division === beat.division ? '' : `${beat.division === 3 ? 'compound' : 'simple'} ${signs.length}`;
  const carried = CARRY[way];
  const parts = PARTS[way] ?? signs.length;
  return [...signs].flatMap((sign, index) => {
    const place = carried ? carried[index] : index;
    return sign === 'x' && place !== null && place !== undefined ? [Math.round((place * beat.length) / parts)] : [];
  });
}

/** A beat of the home metre that does the same in its bar, each in turn; the first where none does. */
const SAME: Readonly<Record<Beat['role'], readonly Beat['role'][]>> = {
  down: ['down'],
  strong: ['strong', 'down'],
  back: ['back', 'weak'],
  weak: ['weak', 'back'],
};

/**
 * Lays the bars of a cell into a metre. In another than the one it is written in, every beat takes what a beat with the
 * same role in its bar has.
 *
 * @returns the onsets of each bar, in ticks from its bar line, rising
 */
export function layCell(steps: string, home: Metre, metre: Metre): Ticks[][] {
  const atHome = metreName(home) === metreName(metre);
  return steps.split('|').map((bar) => {
    const cells = beatsOfCell(bar, home);
    const used = new Map<string, number>();
    return beatsOf(metre).flatMap((beat, index) => {
      const role = SAME[beat.role].find((wanted) => cells.some((cell) => cell.role === wanted)) ?? 'down';
      const same = cells.filter((cell) => cell.role === role);
      const turn = used.get(beat.role) ?? 0;
      used.set(beat.role, turn + 1);
      const cell = atHome ? cells[index] : same[turn % same.length];
      return cell ? onsetsIn(cell, beat).map((at) => beat.at + at) : [];
    });
  });
}
