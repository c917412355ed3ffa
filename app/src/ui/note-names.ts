import { Injectable, signal } from '@angular/core';
import { pageMemory } from './page-memory';

const KEPT = 'fendro german note names';

/** Which names notes have where chords are typed: B and B♭, or H and B as in German-speaking countries. */
@Injectable({ providedIn: 'root' })
export class NoteNames {
  readonly german = signal(pageMemory.get(KEPT) === 'yes');

  setGerman(german: boolean): void {
    this.german.set(german);
    pageMemory.set(KEPT, german ? 'yes' : 'no');
  }
}
