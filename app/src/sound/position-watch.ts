import type { Ticks } from '@fendro/core/theory/units';

/** Where the music is, and how fast it goes on from there. */
export interface Position {
  readonly tick: Ticks;
  /** Ticks in a ms; 0 while it stands, as before the first note. */
  readonly speed: number;
}

export type Watcher = (position: Position | null) => void;

const TOLD_EVERY_MS = 50;
const LOOK_AHEAD_MS = 20;

/**
 * Tells some times a second where the music is. For marks that move by themselves meanwhile, outside change detection.
 */
export class PositionWatch {
  private readonly watchers = new Set<Watcher>();
  private speed = 0;
  private timer: ReturnType<typeof setInterval> | undefined;

  /**
   * @param playing   whether to go on telling
   * @param position  the tick that is heard some ms from now; null where nothing is to be marked
   */
  constructor(
    private readonly playing: () => boolean,
    private readonly position: (ahead: number) => Ticks | null,
  ) {}

  /** @returns what ends the watch */
  add(watcher: Watcher): () => void {
    this.watchers.add(watcher);
    return () => this.watchers.delete(watcher);
  }

  start(): void {
    clearInterval(this.timer);
    this.timer = setInterval(() => {
      if (this.playing()) this.tell();
      else clearInterval(this.timer);
    }, TOLD_EVERY_MS);
  }

  stop(): void {
    clearInterval(this.timer);
    for (const watcher of this.watchers) watcher(null);
  }

  private tell(): void {
    const [tick, soon] = [this.position(0), this.position(LOOK_AHEAD_MS)];
    // Where a loop begins again, what comes soon lies before what is heard now.
    if (tick !== null && soon !== null && soon >= tick) this.speed = (soon - tick) / LOOK_AHEAD_MS;
    for (const watcher of this.watchers) watcher(tick === null ? null : { tick, speed: this.speed });
  }
}
