/** Resolutions that files are written in, the likelier of two that fit first, in ticks to a quarter note. */
const USUAL = [480, 384, 240, 192, 120, 96, 960, 48, 24] as const;
/** Off a sixteenth by so much of one is on it. */
const NEAR = 0.06;
const ENOUGH = 0.85;

/** The share of moments that lie on sixteenths. */
function shareOnGrid(starts: readonly number[], resolution: number): number {
  const step = resolution / 4;
  const on = starts.filter((at) => Math.abs(at / step - Math.round(at / step)) <= NEAR);
  return on.length / Math.max(1, starts.length);
}

/**
 * A likely resolution of a file that does not say its own: the first in which nearly all notes begin on
 * sixteenths.
 *
 * @param starts  where notes begin, in the file's ticks
 */
export function guessedResolution(starts: readonly number[]): number {
  const shares = USUAL.map((resolution) => shareOnGrid(starts, resolution));
  const fitting = shares.findIndex((share) => share >= ENOUGH);
  return USUAL[fitting < 0 ? shares.indexOf(Math.max(...shares)) : fitting] ?? USUAL[0];
}
