import { Injectable, signal } from '@angular/core';

export interface Notice {
  readonly id: number;
  readonly text: string;
  readonly action?: { readonly label: string; readonly run: () => void };
}

const LASTS_MS = 12_000;

/** Short messages that need no answer but may offer one, such as undoing a deletion. */
@Injectable({ providedIn: 'root' })
export class Notices {
  readonly open = signal<readonly Notice[]>([]);
  private next = 1;

  say(text: string, action?: Notice['action']): void {
    const id = this.show(text, action);
    setTimeout(() => {
      this.dismiss(id);
    }, LASTS_MS);
  }

  /** Says something that must not be missed: it stays until it is put away. @returns by what it is put away */
  sayUntilRead(text: string, action?: Notice['action']): number {
    return this.show(text, action);
  }

  /** The same words are not said twice at once. */
  private show(text: string, action?: Notice['action']): number {
    const id = this.next++;
    this.open.update((notices) => [
      ...notices.filter((notice) => notice.text !== text),
      { id, text, ...(action ? { action } : {}) },
    ]);
    return id;
  }

  act(notice: Notice): void {
    notice.action?.run();
    this.dismiss(notice.id);
  }

  dismiss(id: number): void {
    this.open.update((notices) => notices.filter((notice) => notice.id !== id));
  }
}
