import { inject, Injectable, signal } from '@angular/core';
import { createSelector, Store } from '@ngrx/store';
import { SONG_VERSION, type Song } from '@fendro/core/song/schema';
import { SongStorage } from '../storage/song-storage';
import { selectSession, selectSong } from './selectors';
import { sessionFeature, type SessionState } from './session';
import { SongActions } from './song.actions';
import { songFeature, type SongState } from './song.reducer';
import { inWords } from '../ui/in-words';

/** Changes within this time are saved together, but none waits longer than the ceiling. */
const PAUSE_MS = 300;
const CEILING_MS = 1000;
/** Until the database has a change, the journal has it: no later than this. */
const JOURNAL_MS = 50;
/** What could not be saved is tried again after this. */
const RETRY_MS = 4000;
/** How often it is looked whether the database still has the song. */
const CHECK_MS = 5000;
/** How long a tab that was closed may take to come back, if it was only reloaded. */
const GRACE_MS = 10_000;

export const songOf = (
  { open, score, takes, heard }: SongState,
  { heard: hearing }: Pick<SessionState, 'heard'>,
): Song | null =>
  open && score
    ? {
        format: 'fendro-song',
        version: SONG_VERSION,
        id: open.id,
        seed: open.seed,
        score,
        ledger: { takes, heard },
        hearing,
      }
    : null;

/** Everything of a song that is kept; it is compared by identity. */
interface Kept {
  readonly id: string | undefined;
  readonly parts: readonly unknown[];
}
export const selectKept = createSelector(
  songFeature.selectOpen,
  songFeature.selectScore,
  songFeature.selectTakes,
  songFeature.selectHeard,
  sessionFeature.selectHeard,
  (open, ...parts): Kept => ({ id: open?.id, parts }),
);

/** Saves the open song as it changes, and keeps a second tab from writing over it. */
@Injectable({ providedIn: 'root' })
export class Saving {
  private readonly store = inject(Store);
  private readonly storage = inject(SongStorage);
  private readonly state = this.store.selectSignal(selectSong);
  private readonly session = this.store.selectSignal(selectSession);
  private pause: ReturnType<typeof setTimeout> | undefined;
  private ceiling: ReturnType<typeof setTimeout> | undefined;
  private journal: ReturnType<typeof setTimeout> | undefined;
  private retry: ReturnType<typeof setTimeout> | undefined;
  private journalled = 0;
  private chain: Promise<void> = Promise.resolve();
  private waits: AbortController | null = null;
  private lock: { readonly id: string; readonly release: () => void } | null = null;
  /** The changes of the open song, and how many of them the database has. */
  private clock = 0;
  private saved = 0;
  /** The count that was read or last written here: where the database has more, another tab changed the song. */
  private known = 0;
  private kept: Kept = { id: undefined, parts: [] };
  /** True when another tab holds the song: nothing is saved from here. */
  readonly elsewhere = signal(false);
  /** Why the last changes are not in the database, in words. */
  readonly failure = signal<string | null>(null);
  /** True once the database had lost the open song and got it whole again. */
  readonly rescued = signal(false);

  constructor() {
    addEventListener('pagehide', () => {
      this.flush();
    });
    document.addEventListener('visibilitychange', () => {
      if (document.visibilityState === 'hidden') this.flush();
      else void this.check();
    });
    setInterval(() => void this.check(), CHECK_MS);
  }

  /**
   * @param clock      the count of changes that an opened song comes with
   * @param journalled  true where the database does not have all of them: they are written now
   */
  startFrom(clock: number, journalled: boolean): void {
    this.clock = clock;
    this.known = clock;
    this.saved = journalled ? clock - 1 : clock;
    if (journalled) void this.now();
    this.failure.set(null);
    this.rescued.set(false);
  }

  /** Sees whether what is kept has changed. */
  notice({ id, parts }: Kept): void {
    const before = this.kept;
    this.kept = { id, parts };
    // Opening a song is no change of it.
    if (id === undefined || id !== before.id || parts.every((part, index) => part === before.parts[index])) return;
    this.clock++;
    this.later();
  }

  private later(): void {
    clearTimeout(this.pause);
    this.pause = setTimeout(() => void this.now(), PAUSE_MS);
    this.ceiling ??= setTimeout(() => void this.now(), CEILING_MS);
    this.journal ??= setTimeout(
      () => {
        this.keep();
      },
      Math.max(0, this.journalled + JOURNAL_MS - Date.now()),
    );
  }

  /** Writes what the database lacks where it is kept at once. */
  private keep(): void {
    clearTimeout(this.journal);
    this.journal = undefined;
    const song = songOf(this.state(), this.session());
    if (!song || this.elsewhere() || this.clock === this.saved) return;
    this.journalled = Date.now();
    this.storage.keep(song, this.clock);
  }

  /** Before the page goes: the journal at once, the database if there is time. */
  private flush(): void {
    this.keep();
    void this.now();
  }

  /** Whether the database still has the song; it is written again where it was cleared meanwhile. */
  private async check(): Promise<void> {
    const id = this.state().open?.id;
    if (id === undefined || this.elsewhere() || this.saved === 0 || this.clock !== this.saved) return;
    if (await this.storage.has(id).catch(() => true)) return;
    this.clock++;
    await this.now();
  }

  /** Saves at once what has changed; saves never overlap. */
  async now(): Promise<void> {
    clearTimeout(this.pause);
    clearTimeout(this.ceiling);
    this.ceiling = undefined;
    this.chain = this.chain.then(() => this.save());
    await this.chain;
  }

  /** Saves a song that storage does not have yet. */
  async nowNew(): Promise<void> {
    this.store.dispatch(SongActions.saved({ whole: false }));
    this.clock++;
    this.keep();
    await this.now();
  }

  private async save(): Promise<void> {
    const song = songOf(this.state(), this.session());
    const clock = this.clock;
    if (!song || this.elsewhere() || clock === this.saved) return;
    try {
      const lost = await this.storage.save(song, clock, Date.now());
      if (this.state().open?.id !== song.id) return;
      if (lost) this.rescued.set(true);
      this.saved = clock;
      this.known = clock;
      this.failure.set(null);
      if (this.clock === clock) this.storage.settled(song.id);
      else this.keep();
      this.store.dispatch(SongActions.saved({ whole: this.clock === clock }));
    } catch (problem) {
      if (this.state().open?.id !== song.id) return;
      this.keep();
      this.failure.set(inWords(problem));
      this.store.dispatch(SongActions.savingFailed());
      clearTimeout(this.retry);
      this.retry = setTimeout(() => void this.now(), RETRY_MS);
    }
  }

  /** Claims a song for this tab for as long as it is open. */
  async claim(id: string): Promise<void> {
    if (this.lock?.id === id) return;
    this.lock?.release();
    this.lock = null;
    this.waits?.abort();
    const lock = await held(id);
    this.elsewhere.set(lock === 'elsewhere');
    if (lock === 'elsewhere') void this.waitFor(id);
    else this.lock = { id, release: lock };
  }

  /** Takes a song over when the other tab has gone, unless it was changed there. */
  private async waitFor(id: string): Promise<void> {
    const waits = new AbortController();
    this.waits = waits;
    const given = (): boolean => waits.signal.aborted;
    while (!given()) {
      try {
        await navigator.locks.request(lockName(id), { signal: waits.signal }, () => undefined);
      } catch {
        return;
      }
      // A tab that is only reloaded comes back for its song.
      await new Promise((resume) => setTimeout(resume, GRACE_MS));
      const lock = given() ? 'elsewhere' : await held(id);
      if (lock === 'elsewhere') continue;
      const stored = await this.storage.clockOf(id).catch(() => null);
      if (stored === null || stored > this.known || this.state().open?.id !== id) {
        lock();
        return;
      }
      this.lock = { id, release: lock };
      this.elsewhere.set(false);
      await this.now();
      return;
    }
  }

  /**
   * Does something to a song that is not open here, if no other tab has it open.
   *
   * @returns false where another tab has it
   */
  async alone(id: string, work: () => Promise<void>): Promise<boolean> {
    const lock = await held(id);
    if (lock === 'elsewhere') return false;
    try {
      await work();
    } finally {
      lock();
    }
    return true;
  }
}

const lockName = (id: string): string => `fendro ${id}`;

/**
 * Takes the lock of a song; gives what lets it go. Where the browser has no locks, or does not allow them, there is
 * one tab.
 */
function held(id: string): Promise<(() => void) | 'elsewhere'> {
  if (!('locks' in navigator)) return Promise.resolve(() => undefined);
  return new Promise((settled) => {
    navigator.locks
      .request(lockName(id), { ifAvailable: true }, (lock) => {
        if (lock === null) {
          settled('elsewhere');
          return undefined;
        }
        return new Promise<void>((release) => {
          settled(release);
        });
      })
      .catch(() => {
        settled(() => undefined);
      });
  });
}
