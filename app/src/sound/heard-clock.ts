import { AGREEING, isSteady, lookedAgain, NO_LOOKS, offsetOf, type Looks } from '@fendro/core/live/steady-clock';

/** Looks are so far apart while they are gathered, in ms: a browser tells anew about as often. */
const APART_MS = 10;
/** For more of them nobody waits. */
const MOST_WAITS = 25;
/** Looks that may be far off among those that tell that sound comes later. */
const ODD = 2;

/** Where the clock of the sound that leaves the speakers stands to the page's clock. */
export class HeardClock {
  private looks: Looks = NO_LOOKS;
  /** What was told last: the same told again is no other look. */
  private told = 0;
  /** How often something new was told. */
  private seen = 0;

  /** @param context  whose sound it is */
  constructor(private readonly context: AudioContext) {}

  /** True once one look that came late does not matter. */
  get steady(): boolean {
    return isSteady(this.looks);
  }

  /** Looks at both clocks once more. */
  look(): void {
    const { contextTime = 0, performanceTime = 0 } = this.context.getOutputTimestamp();
    if (contextTime <= 0) this.looks = lookedAgain(this.looks, this.estimated(), true);
    else if (contextTime !== this.told) {
      this.looks = lookedAgain(this.looks, performanceTime - 1000 * contextTime);
      this.told = contextTime;
      this.seen++;
    }
  }

  /** Forgets what was seen: after a sleep, nothing of it holds. */
  forget(): void {
    this.looks = NO_LOOKS;
  }

  /**
   * Looks until what holds from now on is known: sound that was held up comes later ever after. What held before is
   * told until then, since a single look may be far off.
   */
  async settled(): Promise<void> {
    const enough = this.seen + AGREEING + ODD;
    for (let waits = 0; waits < MOST_WAITS && this.seen < enough; waits++) {
      this.look();
      await new Promise((resolve) => setTimeout(resolve, APART_MS));
    }
  }

  /** What has to be added to a time of the context to have it in ms of the page's clock. */
  get offset(): number {
    return offsetOf(this.looks) ?? this.estimated();
  }

  /** From when the browser does not tell: now, less what it says lies between rendering and hearing. */
  private estimated(): number {
    const { currentTime, baseLatency, outputLatency } = this.context;
    const behind = baseLatency + outputLatency;
    return performance.now() - 1000 * (currentTime - (Number.isFinite(behind) ? behind : 0));
  }
}
