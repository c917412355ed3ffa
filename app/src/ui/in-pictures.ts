import { untracked } from '@angular/core';

/** Draws once a picture of the page, however often it is asked to between two of them. */
export function inPictures(draw: () => void): { readonly ask: () => void; readonly forget: () => void } {
  let asked = 0;
  const forget = (): void => {
    cancelAnimationFrame(asked);
  };
  return {
    ask: () => {
      forget();
      asked = requestAnimationFrame(() => {
        untracked(draw);
      });
    },
    forget,
  };
}
