/** How long the clock of the sound may stand still while something plays. */
const LONGEST_MS = 5000;

/** Watches the clock of the sound: where no frame is rendered any more, music runs in silence for ever. */
export class Standstill {
  private frame = -1;
  private since = 0;

  /** Begins anew, now. */
  start(): void {
    this.frame = -1;
    this.since = performance.now();
  }

  /** @returns true where the clock has shown the same frame for too long */
  sees(frame: number): boolean {
    if (frame !== this.frame) {
      this.frame = frame;
      this.since = performance.now();
    }
    return performance.now() - this.since >= LONGEST_MS;
  }
}
