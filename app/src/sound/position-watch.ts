import type { Ticks } from '@fendro/core/theory/units';

/** Tells on every picture where the music is. For moving marks, outside change detection. */
export class PositionWatch {
  private readonly watchers = new Set<(tick: Ticks | null) => void>();
  private running = false;

  /**
   * @param playing   whether to go on telling
   * @param position  the tick to tell; null where nothing is to be marked
   */
  constructor(
    private readonly playing: () => boolean,
    private readonly position: () => Ticks | null,
  ) {}

  /** @returns what ends the watch */
  add(watcher: (tick: Ticks | null) => void): () => void {
    this.watchers.add(watcher);
    return () => this.watchers.delete(watcher);
  }

  start(): void {
    if (this.running) return;
    this.running = true;
    const look = (): void => {
      if (!this.playing()) {
        this.running = false;
        return;
      }
      this.tell(this.position());
      requestAnimationFrame(look);
    };
    requestAnimationFrame(look);
  }

  tell(tick: Ticks | null): void {
    for (const watcher of this.watchers) watcher(tick);
  }
}
