import { effect, Injectable, signal } from '@angular/core';
import { pageMemory } from './page-memory';

export type ThemeName = 'day' | 'night';
const KEY = 'fendro theme';

/** Day or night: what the writer chose, else what the system prefers. */
@Injectable({ providedIn: 'root' })
export class Theme {
  readonly name = signal<ThemeName>(this.initial());

  constructor() {
    effect(() => {
      document.documentElement.dataset['theme'] = this.name();
    });
  }

  private initial(): ThemeName {
    const stored = pageMemory.get(KEY);
    if (stored === 'day' || stored === 'night') return stored;
    return typeof matchMedia === 'function' && matchMedia('(prefers-color-scheme: dark)').matches ? 'night' : 'day';
  }

  toggle(): void {
    this.name.update((name) => (name === 'day' ? 'night' : 'day'));
    pageMemory.set(KEY, this.name());
  }
}
