import { ErrorHandler, inject, Injectable, Injector, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { selectSong } from './selectors';
import { SongActions } from './song.actions';
import { inWords } from '../ui/in-words';

/** A song that could not be shown. */
export interface Unshown {
  readonly song: string;
  readonly reason: string;
}

/**
 * Errors that nobody caught. One that comes before a song was ever on the page is that song's: it is put away again, so
 * that it never bars the way to the others.
 */
@Injectable({ providedIn: 'root' })
export class Mishaps implements ErrorHandler {
  private readonly injector = inject(Injector);
  private shown: string | null = null;
  readonly unshown = signal<Unshown | null>(null);

  handleError(problem: unknown): void {
    console.error(problem);
    const store = this.injector.get(Store);
    const id = store.selectSignal(selectSong)().open?.id;
    if (id === undefined || id === this.shown) return;
    this.unshown.set({ song: id, reason: `This song could not be shown: ${inWords(problem)}` });
    store.dispatch(SongActions.closed());
  }

  /** The open song was on the page as a whole. */
  wasShown(id: string): void {
    this.shown = id;
    this.unshown.set(null);
  }
}
