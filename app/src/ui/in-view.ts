import { afterNextRender, DestroyRef, ElementRef, inject, signal, type Signal } from '@angular/core';

/** What comes into view within so much is drawn beforehand, so that scrolling finds it there. */
const MARGIN = '300px';

const watched = new WeakMap<Element, (seen: boolean) => void>();
let observer: IntersectionObserver | null = null;

/** One observer for all: there are hundreds of pictures. */
function watcher(): IntersectionObserver {
  observer ??= new IntersectionObserver(
    (entries) => {
      for (const { target, isIntersecting } of entries) watched.get(target)?.(isIntersecting);
    },
    { rootMargin: MARGIN },
  );
  return observer;
}

/** Whether the element of a component can be seen, or nearly; true where browsers cannot tell. */
export function inView(): Signal<boolean> {
  const host = inject<ElementRef<Element>>(ElementRef).nativeElement;
  const destroyed = inject(DestroyRef);
  const seen = signal(typeof IntersectionObserver === 'undefined');
  afterNextRender(() => {
    if (typeof IntersectionObserver === 'undefined') return;
    watched.set(host, (now) => {
      seen.set(now);
    });
    watcher().observe(host);
    destroyed.onDestroy(() => {
      watcher().unobserve(host);
    });
  });
  return seen.asReadonly();
}
