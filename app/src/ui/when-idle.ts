/** Does something once the page has nothing better to do; soon, where the browser cannot tell. */
export function whenIdle(work: () => void): void {
  if (typeof requestIdleCallback === 'function') requestIdleCallback(work, { timeout: 5000 });
  else setTimeout(work, 1000);
}
