import { TICKS_PER_QUARTER, type Ticks } from '../theory/units';

/** Note values as they are written: a head and its stem, dots, and three in the time of two. */

const VALUE_NAMES = ['whole', 'half', 'quarter', 'eighth', '16th', '32nd'] as const;
type ValueName = (typeof VALUE_NAMES)[number];

export interface Value {
  readonly name: ValueName;
  readonly dots: 0 | 1;
  /** True where three of them sound in the time of two. */
  readonly triplet: boolean;
}

const WHOLE = 4 * TICKS_PER_QUARTER;

const plain: readonly (readonly [Ticks, Value])[] = VALUE_NAMES.flatMap((name, index) => {
  const length = WHOLE / 2 ** index;
  return [
    [length, { name, dots: 0, triplet: false }],
    [length * 1.5, { name, dots: 1, triplet: false }],
  ] as const;
});
const PLAIN: ReadonlyMap<Ticks, Value> = new Map(plain);
const TRIPLET: ReadonlyMap<Ticks, Value> = new Map(
  plain.map(([length, value]) => [(length * 2) / 3, { ...value, triplet: true }] as const),
);

/** How a length is written with one head; null where it takes several that are tied. */
export const valueOf = (length: Ticks, triplet: boolean): Value | null =>
  (triplet ? TRIPLET : PLAIN).get(length) ?? null;

/** How long a value sounds. */
export const ticksOf = ({ name, dots, triplet }: Value): Ticks =>
  (WHOLE / 2 ** VALUE_NAMES.indexOf(name)) * (dots === 1 ? 1.5 : 1) * (triplet ? 2 / 3 : 1);
