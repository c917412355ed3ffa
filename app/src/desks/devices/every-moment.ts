import { effect, type Signal } from '@angular/core';

const EVERY_MS = 20;
/** A page that nobody sees is asked once a second only. */
const HIDDEN_MS = 1500;
const SEEN_MS = 100;

/** How far ahead of time things are sent, in ms: each with the moment at which it is meant. */
export const lookAhead = (): number => (document.hidden ? HIDDEN_MS : SEEN_MS);

/** Does something again and again while it is needed. Called where things are injected. */
export function everyMoment(needed: Signal<boolean>, act: () => void): void {
  effect((ends) => {
    if (!needed()) return;
    const timer = setInterval(act, EVERY_MS);
    ends(() => {
      clearInterval(timer);
    });
  });
}
