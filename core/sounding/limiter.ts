/** The highest sample that leaves: 1 dB below full scale. */
export const CEILING = 10 ** (-1 / 20);
/** How long before a peak the level begins to fall, and in which time most of it comes back. */
const [AHEAD_SECONDS, BACK_SECONDS] = [0.0015, 0.08];

/** By how many frames what leaves is later than what came. */
export const limiterDelay = (rate: number): number => Math.round(AHEAD_SECONDS * rate);

/**
 * Keeps two channels below a ceiling by turning them down for as long as a peak lasts. It looks ahead: the gain that each
 * sample needs is held for the length of the look ahead (a sliding minimum), comes back slowly, and is smoothed by a mean
 * of the same length, which is never above what the delayed sample needs. What stays below the ceiling passes unchanged,
 * a moment later. See Hämäläinen, “Smoothing of the control signal without clipped output in digital peak limiters”
 * (DAFx, 2002).
 *
 * Nothing is allocated while it runs.
 */
export class Limiter {
  readonly delay: number;
  /** The least gain since {@link takeReduction} was last asked. */
  private least = 1;
  private readonly size: number;
  private readonly left: Float32Array;
  private readonly right: Float32Array;
  private readonly envelope: Float64Array;
  /** Gains that may yet be the least of the window, rising, with the frames that they came at. */
  private readonly gains: Float64Array;
  private readonly frames: Float64Array;
  private head = 0;
  private count = 0;
  private frame = 0;
  private gain = 1;
  private total: number;
  private readonly back: number;

  /** @param rate  frames a second */
  constructor(rate: number) {
    this.delay = limiterDelay(rate);
    this.size = this.delay + 1;
    this.left = new Float32Array(this.size);
    this.right = new Float32Array(this.size);
    this.envelope = new Float64Array(this.size).fill(1);
    this.gains = new Float64Array(this.size);
    this.frames = new Float64Array(this.size);
    this.total = this.size;
    this.back = 1 - Math.exp(-1 / (BACK_SECONDS * rate));
  }

  /**
   * Limits two channels of one length in place.
   *
   * @param applied  where the factor of each frame that leaves is to be noted
   */
  process(left: Float32Array, right: Float32Array, applied?: Float32Array): void {
    const { size } = this;
    for (let index = 0; index < left.length; index++) {
      const [l, r] = [left[index] as number, right[index] as number];
      const peak = Math.max(Math.abs(l), Math.abs(r));
      const needed = this.leastOf(peak > CEILING ? CEILING / peak : 1);
      this.gain = Math.min(needed, this.gain + (1 - this.gain) * this.back);
      if (this.gain > 0.999_999) this.gain = 1;
      const place = this.frame % size;
      this.total += this.gain - (this.envelope[place] as number);
      this.envelope[place] = this.gain;
      this.left[place] = l;
      this.right[place] = r;
      const oldest = (this.frame + 1) % size;
      // A running sum drifts by what rounding leaves; never above what is needed.
      const mean = Math.min(1, this.total / size);
      const smooth = mean > 0.999_999 ? 1 : mean * 0.999_999;
      left[index] = (this.left[oldest] as number) * smooth;
      right[index] = (this.right[oldest] as number) * smooth;
      if (applied) applied[index] = smooth;
      if (smooth < this.least) this.least = smooth;
      this.frame++;
    }
  }

  /** The least of the gains of one window: a queue of those that no later one undercuts. */
  private leastOf(needed: number): number {
    const { size, gains, frames, frame } = this;
    if (this.count > 0 && (frames[this.head] as number) <= frame - size) {
      this.head = (this.head + 1) % size;
      this.count--;
    }
    while (this.count > 0 && (gains[(this.head + this.count - 1) % size] as number) >= needed) this.count--;
    const place = (this.head + this.count) % size;
    gains[place] = needed;
    frames[place] = frame;
    this.count++;
    return gains[this.head] as number;
  }

  /** The least gain since the last time, 1 where nothing was turned down. */
  takeReduction(): number {
    const { least } = this;
    this.least = 1;
    return least;
  }
}
