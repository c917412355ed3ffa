import { effect, inject, Injectable, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { SONG_VERSION, type Song } from '@fendro/core/song/schema';
import { selectSong } from './selectors';
import { SongActions } from './song.actions';
import { SongStorage } from './song-storage';
import type { SongState } from './song.reducer';

/** Changes within this time are saved together. */
const PAUSE_MS = 300;

export const songOf = ({ open, score, takes, heard }: SongState): Song | null =>
  open && score ? { format: 'fendro-song', version: SONG_VERSION, id: open.id, seed: open.seed, score, ledger: { takes, heard } } : null;

/** Saves the open song as it changes, and keeps a second tab from writing over it. */
@Injectable({ providedIn: 'root' })
export class Saving {
  private readonly store = inject(Store);
  private readonly storage = inject(SongStorage);
  private readonly state = this.store.selectSignal(selectSong);
  private timer: ReturnType<typeof setTimeout> | undefined;
  private chain: Promise<void> = Promise.resolve();
  private lock: { readonly id: string; readonly release: () => void } | null = null;
  /** True when another tab holds the song: nothing is saved from here. */
  readonly elsewhere = signal(false);

  constructor() {
    let last: Pick<SongState, 'score' | 'takes' | 'heard'> | null = null;
    effect(() => {
      const state = this.state();
      const changed = last !== null && state.open !== null && (last.score !== state.score || last.takes !== state.takes || last.heard !== state.heard);
      last = state;
      if (changed) untracked(() => { this.later(); });
    });
    addEventListener('pagehide', () => { void this.now(); });
  }

  private later(): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.now(), PAUSE_MS);
  }

  /** Saves at once; saves never overlap. */
  async now(): Promise<void> {
    clearTimeout(this.timer);
    const song = songOf(this.state());
    if (!song || this.elsewhere()) return;
    this.chain = this.chain.then(async () => {
      try {
        await this.storage.save(song, Date.now());
        this.store.dispatch(SongActions.saved({ at: Date.now() }));
      } catch (problem) {
        this.store.dispatch(SongActions.savingFailed({ reason: String(problem) }));
      }
    });
    await this.chain;
  }

  /** Claims a song for this tab for as long as it is open. */
  async claim(id: string): Promise<void> {
    if (this.lock?.id === id) return;
    this.lock?.release();
    this.lock = null;
    if (!('locks' in navigator)) return;
    await new Promise<void>((settled) => {
      void navigator.locks.request(`fendro ${id}`, { ifAvailable: true }, (lock) => {
        this.elsewhere.set(lock === null);
        settled();
        if (lock === null) return undefined;
        return new Promise<void>((release) => { this.lock = { id, release }; });
      });
    });
  }
}
