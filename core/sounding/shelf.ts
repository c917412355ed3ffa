/** Above about so many hertz it gets louder, and by at most so many dB. */
const [HERTZ, MOST] = [2500, 9];

/**
 * Opens the treble of two channels: what a filter of first order leaves above a corner is added once more (a high shelf).
 * Nothing is allocated while it runs.
 */
export class Shelf {
  private readonly share: number;
  private added = 0;
  private left = 0;
  private right = 0;

  /** @param rate  frames a second */
  constructor(rate: number) {
    this.share = 1 - Math.exp((-2 * Math.PI * HERTZ) / rate);
  }

  /** @param amount  0 leaves the sound as it is, 1 adds the most */
  set(amount: number): void {
    this.added = 10 ** ((MOST * Math.max(0, Math.min(1, amount))) / 20) - 1;
  }

  get works(): boolean {
    return this.added > 0;
  }

  /** Changes two channels of one length in place. */
  process(left: Float32Array, right: Float32Array): void {
    const { share, added } = this;
    for (let index = 0; index < left.length; index++) {
      const [l, r] = [left[index] as number, right[index] as number];
      this.left += share * (l - this.left);
      this.right += share * (r - this.right);
      left[index] = l + added * (l - this.left);
      right[index] = r + added * (r - this.right);
    }
  }
}
