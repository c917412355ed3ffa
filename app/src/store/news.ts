import { Injectable, signal } from '@angular/core';

/** What has just happened, in words for those who do not see it: said aloud, and shown nowhere. */
@Injectable({ providedIn: 'root' })
export class News {
  private readonly last = signal<{ readonly text: string }>({ text: '' });
  /** The newest; another object each time, so that the same words can be said again. */
  readonly latest = this.last.asReadonly();

  say(text: string): void {
    this.last.set({ text });
  }
}
