import type { Page } from '@playwright/test';
import { violations } from './support/accessibility';
import { loudness, soundCameLater, watchSound } from './support/recorder';
import { expect, openFendro, passes, waitForSheet, test, withoutGuide } from './support/test';

/** A recorded guide under the song, with the microphone that comes with Fendro: it hums on every beat that it hears. */

const guide = (page: Page) => page.getByRole('region', { name: 'Guide' });
const waves = (page: Page) => guide(page).getByRole('img');

/** Seconds of the onsets in the stored sounds, each with its length. */
const stored = (page: Page): Promise<readonly { readonly seconds: number; readonly onsets: readonly number[] }[]> =>
  page.evaluate(async () => {
    const database = await new Promise<IDBDatabase>((resolve, reject) => {
      const asked = indexedDB.open('fendro');
      asked.onsuccess = () => {
        resolve(asked.result);
      };
      asked.onerror = () => {
        reject(asked.error ?? new Error('no database'));
      };
    });
    const store = database.transaction('sounds').objectStore('sounds');
    const all = await new Promise<{ rate: number; samples: Int16Array }[]>((resolve) => {
      const asked = store.getAll() as IDBRequest<{ rate: number; samples: Int16Array }[]>;
      asked.onsuccess = () => {
        resolve(asked.result);
      };
    });
    database.close();
    return all.map(({ rate, samples }) => {
      const onsets: number[] = [];
      let last = -rate;
      samples.forEach((value, at) => {
        if (Math.abs(value) < 600 || at - last < rate * 0.25) return;
        onsets.push(at / rate);
        last = at;
      });
      return { seconds: samples.length / rate, onsets };
    });
  });

test(
  'a microphone’s phrase lies in time under the song, sounds there, and is there again after a reload',
  { tag: '@sound' },
  async ({ page }) => {
    await withoutGuide(page);
    await openFendro(page);
    await page
      .getByRole('button', { name: /^Intro/ })
      .first()
      .click();
    await page.getByLabel('Tempo').fill('120');
    await page.getByLabel('Tempo').press('Enter');
    await page.keyboard.press('Shift+W');
    await expect(guide(page).getByText('Sing or play while the music plays')).toBeVisible();
    expect(await violations(page)).toEqual([]);
    await guide(page).getByLabel('Microphone').selectOption('Simulated microphone');
    await guide(page).getByRole('button', { name: 'Record' }).click();
    await watchSound(page);
    // One round of the loop, and some of the next.
    await passes(page, ['4.3', '1.3']);
    await guide(page).getByRole('button', { name: 'End the recording' }).click();
    await expect(waves(page)).toHaveCount(2);
    await page.getByRole('button', { name: 'Stop', exact: true }).click();

    const sounds = await stored(page);
    const whole = sounds.find(({ seconds }) => seconds === 8);
    if (!whole) throw new Error(`no whole round: ${sounds.map(({ seconds }) => seconds).join(', ')}`);
    expect(whole.onsets.length).toBe(16);
    // Who sings to sound that a busy machine lets come later is later by as much.
    const later = (await soundCameLater(page)) / 1000;
    whole.onsets.forEach((at, beat) => {
      expect(Math.abs(at - beat / 2)).toBeLessThan(0.01 + later);
    });

    // It alone is heard where the mix is silent; after a reload, too.
    await page.getByRole('button', { name: 'Mix', exact: true }).click();
    await page.getByRole('slider', { name: 'Level of all together' }).fill('0');
    for (const reloaded of [false, true]) {
      if (reloaded) {
        await expect(page.getByText('Saved', { exact: true })).toBeVisible();
        await page.reload();
        await page
          .getByRole('button', { name: /^Intro/ })
          .first()
          .click();
      }
      await page.getByRole('button', { name: 'Play', exact: true }).click();
      await expect.poll(() => loudness(page, 1)).toBeGreaterThan(0.005);
      await page.getByRole('button', { name: 'Stop', exact: true }).click();
      await expect.poll(() => loudness(page, 0.3)).toBeLessThan(0.0005);
    }

    // The song file takes it along on request.
    await page.getByRole('link', { name: 'Deliver', exact: true }).click();
    await page.getByRole('tab', { name: 'Song file' }).click();
    await page.getByRole('checkbox', { name: 'the song file with the sound of its guides' }).check();
    const downloading = page.waitForEvent('download');
    await page.getByRole('button', { name: /The song file/ }).click();
    const file = await (await downloading).path();
    await page.getByRole('link', { name: 'Songs', exact: true }).click();
    await page.getByLabel('Open a song file').setInputFiles(file);
    await waitForSheet(page);
    await page
      .getByRole('button', { name: /^Intro/ })
      .first()
      .click();
    await page.keyboard.press('Shift+W');
    await expect(waves(page)).toHaveCount(2);
  },
);
