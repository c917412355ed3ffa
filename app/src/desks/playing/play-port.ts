import { Injectable, signal, type Signal } from '@angular/core';

/** What of the play desk is wanted before it is there. */
export interface PlayActs {
  readonly recording: Signal<boolean>;
  /** Whether something was played that has not been taken. */
  readonly remembers: Signal<boolean>;
  /** Begins to record, or ends it. */
  record(): void;
  /** Makes takes of what was played lately. */
  take(): void;
  /** Makes the section's chords of what was played lately. */
  takeChords(): void;
}

/** What is drafted like what was played. */
export interface LikeActs {
  readonly ready: Signal<boolean>;
  draft(likeness: 'rhythm' | 'pitches'): Promise<void>;
}

/** Where the play desk tells that it is there: it is fetched only when it is opened, but its keys are known before. */
@Injectable({ providedIn: 'root' })
export class PlayPort {
  readonly acts = signal<PlayActs | null>(null);
  readonly like = signal<LikeActs | null>(null);
}
