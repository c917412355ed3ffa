import { inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { TEMPO_LIMITS } from '@fendro/core/song/schema';
import { ScoreActions } from '../store/song.actions';

/** Taps further apart than this begin a new count. */
const PAUSE_MS = 2200;
const REMEMBERED = 6;

/** The tempo of a row of taps in beats a minute, or null before the third. */
export function tempoOf(taps: readonly number[]): number | null {
  if (taps.length < 3) return null;
  const first = taps[0] as number;
  const last = taps.at(-1) as number;
  const tempo = (60_000 * (taps.length - 1)) / (last - first);
  return Math.max(TEMPO_LIMITS.low, Math.min(TEMPO_LIMITS.high, Math.round(tempo)));
}

/** Sets the song's tempo from taps. */
@Injectable({ providedIn: 'root' })
export class TapTempo {
  private readonly store = inject(Store);
  private taps: number[] = [];

  tap(now = performance.now()): void {
    if (now - (this.taps.at(-1) ?? 0) > PAUSE_MS) this.taps = [];
    this.taps = [...this.taps, now].slice(-REMEMBERED);
    const tempo = tempoOf(this.taps);
    if (tempo !== null) this.store.dispatch(ScoreActions.groundSet({ change: { tempo } }));
  }
}
