/**
 * Loudness as people hear it: ITU-R BS.1770-4, in LUFS. The coefficients of its two filters at any sample rate are those
 * of De Man, “Evaluation of implementations of the EBU R128 loudness measurement” (2018).
 */

/** A filter of second order. */
interface Biquad {
  readonly b: readonly [number, number, number];
  readonly a: readonly [number, number];
}

const SHELF = { hertz: 1681.974450955533, quality: 0.7071752369554196, decibels: 3.999843853973347 } as const;
const HIGH_PASS = { hertz: 38.13547087602444, quality: 0.5003270373238773 } as const;

/** The head's effect: what is above two kilohertz counts for more. */
function shelf(rate: number): Biquad {
  const k = Math.tan((Math.PI * SHELF.hertz) / rate);
  const high = 10 ** (SHELF.decibels / 20);
  const band = high ** 0.4996667741545416;
  const a0 = 1 + k / SHELF.quality + k * k;
  return {
    b: [
      (high + (band * k) / SHELF.quality + k * k) / a0,
      (2 * (k * k - high)) / a0,
      (high - (band * k) / SHELF.quality + k * k) / a0,
    ],
    a: [(2 * (k * k - 1)) / a0, (1 - k / SHELF.quality + k * k) / a0],
  };
}

/** What is very low counts for less. */
function highPass(rate: number): Biquad {
  const k = Math.tan((Math.PI * HIGH_PASS.hertz) / rate);
  const a0 = 1 + k / HIGH_PASS.quality + k * k;
  return { b: [1, -2, 1], a: [(2 * (k * k - 1)) / a0, (1 - k / HIGH_PASS.quality + k * k) / a0] };
}

function filtered(samples: Float32Array, { b, a }: Biquad): Float32Array {
  const result = new Float32Array(samples.length);
  let [x1, x2, y1, y2] = [0, 0, 0, 0];
  for (let index = 0; index < samples.length; index++) {
    const x = samples[index] as number;
    const y = b[0] * x + b[1] * x1 + b[2] * x2 - a[0] * y1 - a[1] * y2;
    result[index] = y;
    [x2, x1, y2, y1] = [x1, x, y1, y];
  }
  return result;
}

/** Blocks of 400 ms, three quarters of which overlap. */
const [BLOCK_SECONDS, STEPS] = [0.4, 4];
/** What is softer than this is silence, and what is this much below the mean is a rest, in LUFS and LU. */
const [SILENCE, REST] = [-70, -10];
const OFFSET = -0.691;

const lufs = (power: number): number => OFFSET + 10 * Math.log10(power);
const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;

/**
 * The integrated loudness of two channels of equal length.
 *
 * @param rate  samples a second
 * @returns in LUFS; null where there is only silence
 */
export function loudnessOf(left: Float32Array, right: Float32Array, rate: number): number | null {
  const [first, second] = [shelf(rate), highPass(rate)];
  const sides = [left, right].map((side) => filtered(filtered(side, first), second));
  const step = Math.round((BLOCK_SECONDS / STEPS) * rate);
  const powers: number[] = [];
  for (let from = 0; from < Math.max(1, left.length - (STEPS - 1) * step); from += step) {
    const to = Math.min(left.length, from + STEPS * step);
    let power = 0;
    for (const side of sides) for (let index = from; index < to; index++) power += (side[index] as number) ** 2;
    powers.push(power / Math.max(1, to - from));
  }
  const sounding = powers.filter((power) => power > 0 && lufs(power) > SILENCE);
  if (sounding.length === 0) return null;
  const gate = lufs(mean(sounding)) + REST;
  return lufs(mean(sounding.filter((power) => lufs(power) > gate)));
}

/** By how much two sounds have to be turned down so that both are as loud as the softer, in dB; 0 or less. */
export const levelled = (a: number | null, b: number | null): readonly [number, number] =>
  a === null || b === null ? [0, 0] : [Math.min(0, b - a), Math.min(0, a - b)];
