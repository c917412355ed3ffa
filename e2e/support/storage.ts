import type { Page } from '@playwright/test';

/** Every record of a store, by key: of the songs, where no other is named. */
export async function stored(page: Page, name = 'songs'): Promise<Record<string, unknown>> {
  // As one text: so many values take seconds on their way.
  const text = await page.evaluate(
    (storeName) =>
      new Promise<string>((resolve, reject) => {
        const opening = indexedDB.open('fendro');
        opening.onerror = () => {
          reject(new Error('no database'));
        };
        opening.onsuccess = () => {
          const store = opening.result.transaction(storeName).objectStore(storeName);
          const [keys, values] = [store.getAllKeys(), store.getAll()];
          store.transaction.oncomplete = () => {
            opening.result.close();
            resolve(
              JSON.stringify(
                Object.fromEntries(keys.result.map((key, index) => [key as string, values.result[index] as unknown])),
              ),
            );
          };
        };
      }),
    name,
  );
  return JSON.parse(text) as Record<string, unknown>;
}

/** Puts something else in place of every record whose key ends as said, as a damaged disk would. */
export const damage = (page: Page, ending: RegExp, by: unknown): Promise<number> =>
  page.evaluate(
    ({ source, value }) =>
      new Promise<number>((resolve, reject) => {
        const opening = indexedDB.open('fendro');
        opening.onerror = () => {
          reject(new Error('no database'));
        };
        opening.onsuccess = () => {
          const store = opening.result.transaction('songs', 'readwrite').objectStore('songs');
          const keys = store.getAllKeys();
          keys.onsuccess = () => {
            const hit = keys.result.filter((key) => new RegExp(source).test(key as string));
            for (const key of hit) store.put(value, key);
            store.transaction.oncomplete = () => {
              opening.result.close();
              resolve(hit.length);
            };
          };
        };
      }),
    { source: ending.source, value: by },
  );

/** Deletes the database as the browser, or another tab, may. */
export const deleteDatabase = (page: Page): Promise<void> =>
  page.evaluate(
    () =>
      new Promise<void>((resolve, reject) => {
        const deleting = indexedDB.deleteDatabase('fendro');
        deleting.onsuccess = () => {
          resolve();
        };
        deleting.onerror = () => {
          reject(new Error('not deleted'));
        };
      }),
  );
