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

const known = new Map<string, string>();

/**
 * The colours of the theme that an element lies in, by their names (`--ink`). Each is read from the page once: asking the
 * browser costs more than drawing with them.
 */
export function tokensAt(element: Element): (name: string) => string {
  const theme = element.closest<HTMLElement>('[data-theme]')?.dataset['theme'] ?? '';
  return (name) => {
    const key = `${theme} ${name}`;
    const value = known.get(key) ?? getComputedStyle(element).getPropertyValue(name).trim();
    if (value !== '') known.set(key, value);
    return value;
  };
}
