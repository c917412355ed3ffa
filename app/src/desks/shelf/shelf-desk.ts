import { inject, Injectable, signal } from '@angular/core';
import type { ShelfItem, ShelfKind } from '../../storage/shelf-storage';
import { idOf } from '../../storage/shelf-storage';
import { Shelf } from '../../store/shelf';
import { HarmonyDesk } from '../harmony-desk';
import { DraftedTrials } from './drafted-trials';
import { GuestTrials } from './guest-trials';
import { LineTrials } from './line-trials';
import type { SeenKind, Thing } from './things';
import { isTrial, type Trial, type Tried } from './trial';

/** How a thing is heard; what takes its time ends where it is left meanwhile. */
type Way<K extends SeenKind> = (item: ShelfItem<K>, left: AbortSignal) => Tried | Promise<Tried>;
type Ways = { readonly [K in SeenKind]: Way<K> | null };

/** Things of the shelf: heard where they would come to be, taken, or left as if nothing had been. */
@Injectable({ providedIn: 'root' })
export class ShelfDesk {
  private readonly shelf = inject(Shelf);
  private readonly harmony = inject(HarmonyDesk);
  private readonly lines = inject(LineTrials);
  private readonly drafted = inject(DraftedTrials);
  private readonly guests = inject(GuestTrials);
  /** The thing that is heard, by its place on the shelf. */
  readonly current = signal<string | null>(null);
  /** Why it cannot be heard. */
  readonly problem = signal<string | null>(null);
  /** What is heard, as soon as it is. */
  private trial: Trial | null = null;
  private trying: Promise<void> = Promise.resolve();
  private left = new AbortController();

  private readonly ways: Ways = {
    progressions: (item) => this.lines.progression(item),
    rhythms: (item) => this.lines.rhythm(item),
    phrases: (item) => this.lines.phrase(item),
    patterns: (item) => this.lines.pattern(item),
    briefs: (item, left) => this.drafted.brief(item, left),
    leanings: (item, left) => this.drafted.leaning(item, left),
    chains: (item) => this.guests.chain(item),
    styles: (item, left) => this.guests.style(item, left),
    bands: (item, left) => this.guests.band(item, left),
    starts: (item, left) => this.guests.start(item, left),
    // How the music follows another scale is asked, and heard, when it is taken.
    scales: (scale) => ({
      take: () => {
        this.harmony.changeGround({ section: null, change: { scale } });
      },
      letGo: () => undefined,
    }),
    keys: null,
  };

  /** True where a thing can become the song's. */
  canBeTaken(kind: SeenKind): boolean {
    return this.ways[kind] !== null;
  }

  /** Lets a thing be heard; what was heard before is let go. */
  hear(thing: Thing): void {
    this.leave();
    this.current.set(thing.key);
    const left = new AbortController();
    this.left = left;
    const settle = (tried: Tried | null): void => {
      if (left.signal.aborted || tried === null) return;
      if (isTrial(tried)) this.trial = tried;
      else this.problem.set(tried);
    };
    const tried = this.tryOut(thing, left.signal);
    // What can be heard at once is.
    if (tried instanceof Promise) this.trying = tried.then(settle);
    else settle(tried);
  }

  private tryOut({ kind, id }: Thing, left: AbortSignal): Tried | Promise<Tried> | null {
    const items: readonly ShelfItem<ShelfKind>[] = this.shelf.contents()[kind];
    const item = items.find((own) => idOf(own) === id);
    // Items lie under their kind, and so do the ways.
    const way = this.ways[kind];
    return item === undefined || way === null ? null : way(item as never, left);
  }

  /** Makes what is heard the song's. @returns false where there was nothing that could be */
  async take(): Promise<boolean> {
    const { left } = this;
    await this.trying;
    const { trial } = this;
    if (!trial || left.signal.aborted) return false;
    this.trial = null;
    this.left = new AbortController();
    this.current.set(null);
    await trial.take();
    return true;
  }

  /** Lets the song sound as before. */
  letGo(): void {
    this.leave();
    this.current.set(null);
  }

  private leave(): void {
    this.left.abort();
    this.trial?.letGo();
    this.trial = null;
    this.trying = Promise.resolve();
    this.problem.set(null);
  }
}
