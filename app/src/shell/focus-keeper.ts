import { afterEveryRender, Injectable } from '@angular/core';

/** What the keyboard can reach. */
const REACHABLE =
  'a[href], button:not([disabled]), input:not([disabled]), select:not([disabled]), textarea:not([disabled]), summary, [tabindex="0"]';

/** Where the focus stood: an element, the one that holds it, and its place there. */
interface Step {
  readonly holder: Element;
  readonly place: number;
}

const isShown = (element: HTMLElement): boolean => element.getClientRects().length > 0;
const reachableIn = (holder: Element): HTMLElement | undefined => {
  const all = [...holder.querySelectorAll<HTMLElement>(REACHABLE)].filter(isShown);
  return all.find((element) => element.matches('[data-region-start]')) ?? all[0];
};

/**
 * Sees to it that the focus never falls to the page's body because what had it is gone. It goes to what took the place
 * of what is gone, else to a neighbour, else to what opened it; after a mouse click to the page, so that keys go on
 * working where the writer listens.
 */
@Injectable({ providedIn: 'root' })
export class FocusKeeper {
  private last: HTMLElement | null = null;
  private way: readonly Step[] = [];
  /** What holds it and was opened by a control elsewhere. */
  private opened: HTMLElement | null = null;
  private byMouse = false;

  constructor() {
    document.addEventListener('focusin', ({ target }) => {
      this.note(target as HTMLElement);
    });
    document.addEventListener(
      'pointerdown',
      () => {
        this.byMouse = true;
      },
      { capture: true },
    );
    document.addEventListener(
      'keydown',
      () => {
        this.byMouse = false;
      },
      { capture: true },
    );
    afterEveryRender(() => {
      this.keep();
    });
  }

  private note(element: HTMLElement): void {
    this.last = element;
    this.opened = element.closest<HTMLElement>('[data-opened-by]');
    const way: Step[] = [];
    for (let now: Element = element; now.parentElement && now !== document.body; now = now.parentElement) {
      way.push({ holder: now.parentElement, place: [...now.parentElement.children].indexOf(now) });
    }
    this.way = way;
  }

  private keep(): void {
    const { last } = this;
    if (
      !last ||
      (last.isConnected && !last.matches(':disabled')) ||
      (document.activeElement && document.activeElement !== document.body)
    )
      return;
    const next = this.byMouse ? document.getElementById('main') : this.next();
    // What comes later in the same change may still bring its own focus.
    next?.focus({ preventScroll: this.byMouse });
    if (document.activeElement === document.body) document.getElementById('main')?.focus({ preventScroll: true });
  }

  private next(): HTMLElement | undefined {
    const by = this.opened?.isConnected === false ? this.opened.dataset['openedBy'] : undefined;
    const opener = by === undefined ? null : document.querySelector<HTMLElement>(by);
    if (opener && isShown(opener)) return opener;
    for (const { holder, place } of this.way) {
      if (!holder.isConnected) continue;
      const children = [...holder.children];
      const near = [...children.slice(place), ...children.slice(0, place).reverse()];
      for (const child of near) {
        if (child instanceof HTMLElement && child.matches(REACHABLE) && isShown(child)) return child;
        const found = reachableIn(child);
        if (found) return found;
      }
    }
    return undefined;
  }
}
