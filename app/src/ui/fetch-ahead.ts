// What is fetched before anybody asks for it, so that it is there at the first click.

interface Connected {
  readonly connection?: { readonly saveData?: boolean };
}

/** Whether the browser was told to spare data: everything is fetched when it is asked for then, and nothing ahead. */
const sparesData = (): boolean => (navigator as Connected).connection?.saveData === true;

/** Fetches something ahead at once, beside whatever the page does. */
export function fetchAhead(fetch: () => void): void {
  if (!sparesData()) fetch();
}

/** Fetches something ahead once the page has nothing better to do; soon, where the browser cannot tell. */
export function fetchWhenIdle(fetch: () => void): void {
  if (sparesData()) return;
  if (typeof requestIdleCallback === 'function') requestIdleCallback(fetch, { timeout: 5000 });
  else setTimeout(fetch, 1000);
}
