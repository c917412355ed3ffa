/** Weights in the trellis are whole hundredths of a nat; this turns plain shares into them without Math.log. */
const STEP = 0.990_049_833_749_168_1;
const WEAKEST = 1200;
const SHARES = ((): readonly number[] => {
  const shares = [1];
  while (shares.length <= WEAKEST) shares.push((shares.at(-1) as number) * STEP);
  return shares;
})();

/**
 * The log-weight of a share by search in a table of powers, equal on every machine.
 *
 * @param share  0 to 1; anything under e^−12 counts as e^−12
 * @returns 0 down to −1200 hundredths of a nat
 */
export function logWeight(share: number): number {
  let low = 0;
  let high = WEAKEST;
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((SHARES[middle] as number) <= share) high = middle;
    else low = middle + 1;
  }
  return low === 0 ? 0 : -low;
}

/** Adventure in percent as a sampling temperature: 0 stays close to the idiom's best guess. */
export const temperatureOf = (adventure: number): number => 35 + adventure;
