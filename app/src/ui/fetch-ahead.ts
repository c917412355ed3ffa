// Fetches files before they are needed, so that the first click does not wait for them.

interface Connected {
  readonly connection?: { readonly saveData?: boolean };
}

/** Whether the browser's data saver is on. Nothing is fetched ahead then. */
const savesData = (): boolean => (navigator as Connected).connection?.saveData === true;

/** Fetches now, unless the data saver is on. */
export function fetchAhead(fetch: () => void): void {
  if (!savesData()) fetch();
}

/** Fetches when the page is idle, or after a second in browsers that do not report it; not with the data saver on. */
export function fetchWhenIdle(fetch: () => void): void {
  if (savesData()) return;
  if (typeof requestIdleCallback === 'function') requestIdleCallback(fetch, { timeout: 5000 });
  else setTimeout(fetch, 1000);
}
