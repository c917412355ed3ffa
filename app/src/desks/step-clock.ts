import type { Span } from '@fendro/core/sounding/course';
import { runWindow, type RunStep, type RunWindow } from '@fendro/core/sounding/run-steps';
import type { Ticks } from '@fendro/core/theory/units';
import type { Position, Watcher } from '../sound/position-watch';

/**
 * How long before its time another take is sent to the sound, in ms: before what is queued next, after the last bar
 * line.
 */
const LEAD_MS = 450;

/** What a clock goes by. */
interface Time {
  readonly watch: (watcher: Watcher) => () => void;
  readonly loop: () => Span | null;
  readonly bar: () => Ticks;
  readonly every: () => RunStep;
}

/** Whom a clock tells. */
interface Told {
  /** A step begins, which lasts so many ms from now. */
  readonly begins: (lasts: number) => void;
  /** A step is about to end: what is to be heard next has to be sent now. */
  readonly ends: () => void;
  /** The music has stopped. */
  readonly over: () => void;
}

/** Follows the music in steps of bars or loops, and tells shortly before each of them ends. */
export class StepClock {
  private window: RunWindow | null = null;
  private told = false;
  private tick: Ticks = 0;
  private endWatch: (() => void) | null = null;

  constructor(
    private readonly time: Time,
    private readonly tells: Told,
  ) {}

  start(): void {
    this.stop();
    this.endWatch = this.time.watch((position) => {
      this.follow(position);
    });
  }

  stop(): void {
    this.endWatch?.();
    this.endWatch = null;
    this.again();
  }

  /** Begins to count anew where the music is, as after another length of steps. */
  again(): void {
    this.window = null;
  }

  private follow(position: Position | null): void {
    if (!position) {
      if (this.window) this.tells.over();
      return;
    }
    const loop = this.time.loop();
    const { tick, speed } = position;
    if (!loop || speed === 0) return;
    const before = this.window;
    // The loop went round, or the step is over.
    if (!before || tick < this.tick || tick < before.from || tick >= before.to) {
      const round = before && !this.told && !before.last ? before.round + 1 : 1;
      this.window = runWindow(tick, loop, this.time.bar(), this.time.every(), round);
      this.told = false;
      this.tells.begins(this.left(this.window, loop, position));
    }
    this.tick = tick;
    const window = this.window;
    if (!this.told && window?.last && (window.to - tick) / speed <= LEAD_MS) {
      this.told = true;
      this.tells.ends();
    }
  }

  /** How long the take that sounds goes on, in ms. */
  private left({ to, round }: RunWindow, loop: Span, { tick, speed }: Position): number {
    const every = this.time.every();
    const rounds = 'loops' in every ? Math.max(0, every.loops - round) : 0;
    return (to - tick + rounds * (loop.to - loop.from)) / speed;
  }
}
