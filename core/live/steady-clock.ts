/** How far one clock stands from another, as it was looked at again and again. */
export interface Looks {
  /** What was measured, in ms, oldest first. */
  readonly offsets: readonly number[];
  /** True while only rough measures were to be had. */
  readonly rough: boolean;
}

export const NO_LOOKS: Looks = { offsets: [], rough: true };

/** Looks that are kept: two or three seconds of them. */
const KEPT = 128;
/** So many in a row that agree on something else tell that a clock was set; one or two are trembling. */
export const AGREEING = 8;

/** Clocks are set by more than this, in ms: exact looks tremble by less. */
const LEAST_STEP = 0.1;

const inOrder = (values: readonly number[]): number[] => [...values].sort((a, b) => a - b);
const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;

/**
 * True where the last looks, but for the odd one, lie well to one side of nearly all that came before them, and nearer
 * to each other than to those.
 */
function wasSet(before: readonly number[], last: readonly number[]): boolean {
  const sorted = inOrder(before);
  const [low = 0, middle = 0, high = 0] = [0.1, 0.5, 0.9].map(
    (share) => sorted[Math.floor(share * (sorted.length - 1))],
  );
  const most = inOrder(last).slice(1, -1);
  const [least = 0, greatest = 0] = [most[0], most.at(-1)];
  const aside = least > high || greatest < low;
  const by = Math.abs((least + greatest) / 2 - middle);
  return aside && by > LEAST_STEP && by > greatest - least;
}

/**
 * The looks after another one. A rough measure counts while there is no better one, and all are begun anew where a
 * clock was set: there the last ones agree with each other and not with those before.
 *
 * @param measured  in ms
 * @param rough     true where it was estimated and not told
 */
export function lookedAgain(looks: Looks, measured: number, rough = false): Looks {
  if (rough && !looks.rough) return looks;
  const known = looks.rough && !rough ? [] : looks.offsets;
  const offsets = [...known, measured].slice(-KEPT);
  const last = offsets.slice(-AGREEING);
  const before = offsets.slice(0, -AGREEING);
  return { offsets: before.length > 0 && wasSet(before, last) ? last : offsets, rough };
}

/**
 * The offset that the looks agree on, in ms: the mean of their middle half, which trembles little and is not moved by
 * looks that came late.
 *
 * @returns null where nothing was looked at
 */
export function offsetOf({ offsets }: Looks): number | null {
  const cut = Math.floor(offsets.length / 4);
  return offsets.length === 0 ? null : mean(inOrder(offsets).slice(cut, offsets.length - cut));
}

/** True once there are enough looks for one that came late not to matter. */
export const isSteady = ({ offsets }: Looks): boolean => offsets.length >= AGREEING;
