import { readFileSync } from 'node:fs';
import type { Locator, Page } from '@playwright/test';
import { unzipSync } from 'fflate';
import type { Song } from '../core/song/schema';
import { scoreWith } from '../core/testing/scores';
import { damage, deleteDatabase, stored } from './support/storage';
import { demoTakes } from './support/demo';
import {
  draftBand,
  expect,
  further,
  notice,
  openFendro,
  waitForSheet,
  startSong,
  test,
  withoutGuide,
} from './support/test';

const NEW_SONG = { title: 'Night Watch', key: 'D', scale: 'Minor', style: 'Folk', metre: '4/4', tempo: '92' };

const benchOf = (page: Page): Locator => page.getByRole('complementary', { name: 'Bench' });
const takesOf = (page: Page): Locator => benchOf(page).getByRole('listbox', { name: 'Takes' }).getByRole('option');
const saved = (page: Page): Promise<void> => expect(page.getByText('Saved', { exact: true })).toBeVisible();
/** A song of many parts and places, as a file. */
function largeSong(parts: number, places: number): Song {
  const { song } = scoreWith(1, 0);
  const [part, section] = [song.score.parts[0]!, song.score.sections[0]!];
  const more = Array.from({ length: parts - song.score.parts.length }, (_, index) => ({
    ...part,
    id: `more-${index}`,
    name: `Gust ${index}`,
  }));
  const order = Array.from({ length: places }, (_, index) => ({ id: `place-${index}`, section: section.id }));
  return { ...song, score: { ...song.score, parts: [...song.score.parts, ...more], order } };
}

async function openSong(page: Page, song: Song): Promise<void> {
  await page.getByRole('link', { name: 'Songs' }).click();
  const buffer = Buffer.from(JSON.stringify(song));
  await page
    .getByLabel('Open a song file')
    .setInputFiles({ name: 'song.fendro', mimeType: 'application/json', buffer });
  await expect(page.getByLabel('Song title')).toHaveValue(song.score.title);
  await waitForSheet(page);
}

const focusOn = (page: Page, part: string): Promise<void> =>
  page.getByRole('button', { name: new RegExp(`^${part},`) }).click();

async function rename(page: Page, title: string): Promise<void> {
  await page.getByLabel('Song title').fill(title);
  await page.getByLabel('Song title').press('Enter');
}

test('the first draft of a band is the song’s: it is there after a reload, with every take nobody heard', async ({
  page,
}) => {
  await withoutGuide(page);
  await startSong(page, NEW_SONG);
  await draftBand(page);
  await focusOn(page, 'Bass');
  await expect(takesOf(page)).toHaveCount(8);
  await expect(takesOf(page).first()).toHaveAccessibleName(/chosen$/);

  await test.step('Escape empties nothing; one undo takes all of it back', async () => {
    await page.keyboard.press('Escape');
    await expect(takesOf(page).first()).toHaveAccessibleName(/chosen$/);
    await page.getByRole('button', { name: 'Undo: draft' }).click();
    await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled();
    await expect(page.getByText('Type chords over the bars, or let Fendro draft')).toBeVisible();
    await page.getByRole('button', { name: 'Redo: draft' }).click();
  });

  await test.step('what is heard and what was not comes back', async () => {
    await takesOf(page).nth(2).click();
    await expect(takesOf(page).nth(2)).toHaveAttribute('aria-selected', 'true');
    await page.reload();
    await expect(page.getByLabel('Song title')).toHaveValue(NEW_SONG.title);
    await focusOn(page, 'Bass');
    await expect(takesOf(page)).toHaveCount(8);
    await expect(takesOf(page).nth(2)).toHaveAttribute('aria-selected', 'true');
    await expect(page.getByRole('button', { name: /Choose all heard \(1\)/ })).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(takesOf(page).first()).toHaveAttribute('aria-selected', 'true');
  });

  await test.step('unheard takes can be cleared and brought back', async () => {
    await further(page, 'Clear 6 unheard');
    await expect(takesOf(page)).toHaveCount(2);
    await page.getByRole('button', { name: 'Bring them back' }).click();
    await expect(takesOf(page)).toHaveCount(8);
  });
});

test('an edit in the last moment before a reload or the end of the page is kept', async ({ page, context }) => {
  await withoutGuide(page);
  await openFendro(page);
  await saved(page);
  for (let round = 0; round < 3; round++) {
    await rename(page, `Gust ${round}`);
    await page.reload();
    await expect(page.getByLabel('Song title')).toHaveValue(`Gust ${round}`);
  }
  await rename(page, 'Last Gust');
  await page.close({ runBeforeUnload: false });
  const next = await context.newPage();
  await withoutGuide(next);
  await openFendro(next);
  await expect(next.getByLabel('Song title')).toHaveValue('Last Gust');
});

test('opening a song while a band is drafted ends the draft: nothing of it comes into the other song', async ({
  page,
}) => {
  await withoutGuide(page);
  await startSong(page, { ...NEW_SONG, title: 'Asker' });
  await startSong(page, { ...NEW_SONG, title: 'Other' });
  await page.getByRole('button', { name: 'Draft the band' }).click();
  await page.getByRole('link', { name: 'Songs' }).click();
  await page.getByRole('button', { name: 'Asker', exact: true }).click();
  await expect(page.getByLabel('Song title')).toHaveValue('Asker');
  await expect(page.getByRole('button', { name: 'Draft the band' })).toBeEnabled();
  await expect(page.getByText('Type chords over the bars, or let Fendro draft')).toBeVisible();
  await draftBand(page);
  await focusOn(page, 'Melody');
  await expect(takesOf(page)).toHaveCount(8);
});

test('limits are told where they are met', async ({ page }) => {
  await withoutGuide(page);
  await openFendro(page);
  await openSong(page, largeSong(23, 29));
  const menu = page.getByRole('button', { name: 'Add a part', exact: true });
  await menu.click();
  await page.getByRole('menuitem', { name: 'Pad' }).click();
  await expect(page.getByRole('button', { name: /^Pad/ })).toBeVisible();
  await menu.click();
  await expect(page.getByRole('menuitem', { name: /A song holds up to 24 parts/ })).toBeVisible();
  await expect(page.getByRole('menuitem', { name: 'Pad' })).toBeHidden();
  await page.keyboard.press('Escape');

  await test.step('bars are whole numbers; a refusal goes with its section', async () => {
    const bars = page.getByRole('spinbutton', { name: 'Bars', exact: true });
    await bars.fill('1e1');
    await bars.press('Enter');
    await expect(page.getByRole('alert')).toContainText('1 to 64 bars, as a whole number');
    await page.getByRole('button', { name: 'Add a section', exact: true }).click();
    await page.getByRole('menuitem', { name: 'New chorus' }).click();
    await expect(page.getByRole('alert')).toBeHidden();
    await expect(bars).toHaveValue('8');
    await page.getByRole('button', { name: /^Bar 1 beat 1,/ }).click();
    await page.getByLabel('Chord', { exact: true }).fill('Am');
    await page.getByLabel('Chord', { exact: true }).press('Enter');
    await page.keyboard.press('Escape');
    await expect(page.getByRole('button', { name: 'Bar 1 beat 1, Am' })).toBeVisible();
  });

  await test.step('a weight that is cleared is the usual one', async () => {
    await page.getByRole('button', { name: 'Weights and own scales' }).click();
    const weight = page.getByRole('spinbutton', { name: /^Weight of 1 / });
    await weight.fill('30');
    await weight.press('Enter');
    await expect(page.getByRole('button', { name: 'All alike' })).toBeEnabled();
    await weight.fill('');
    await weight.press('Tab');
    await expect(weight).toHaveValue('100');
    await expect(page.getByRole('button', { name: 'All alike' })).toBeDisabled();
    await page.getByRole('button', { name: 'Close', exact: true }).press('Enter');
    await expect(page.getByRole('button', { name: 'Weights and own scales' })).toBeFocused();
  });

  await test.step('thirty sections leave their buttons in reach', async () => {
    const order = page.getByRole('navigation', { name: 'Running order' });
    await expect(order.getByRole('button', { name: /bars, 30 of 30/ }).first()).toBeVisible();
    const [add, box] = [
      await page.getByRole('button', { name: 'Add a section', exact: true }).boundingBox(),
      await page.locator('.order .track').boundingBox(),
    ];
    expect(box!.x + box!.width).toBeLessThanOrEqual(add!.x);
    expect(add!.x + add!.width).toBeLessThan(1280);
  });
});

test('whatever a song is called, every file arrives', async ({ page }) => {
  await withoutGuide(page);
  await startSong(page, { ...NEW_SONG, title: 'Буря над станцией' });
  for (const name of ['嵐', 'Con', '嵐']) {
    await page.getByLabel('Section name').fill(name);
    await page.getByLabel('Section name').press('Enter');
    await page.getByRole('button', { name: 'Add a section', exact: true }).click();
    await page.getByRole('menuitem', { name: 'New verse' }).click();
    await expect(page.getByRole('menu')).toBeHidden();
  }
  await page.keyboard.press('Control+e');
  const rows = page.getByRole('row').filter({ has: page.getByRole('button', { name: /^Download/ }) });
  await expect.poll(() => rows.count()).toBeGreaterThan(9);
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Everything in one zip' }).click();
  const file = await download;
  expect(file.suggestedFilename()).toBe('Буря над станцией.zip');
  const names = Object.keys(unzipSync(readFileSync(await file.path())));
  expect(names).toHaveLength(await rows.count());
  expect(names).toEqual(
    expect.arrayContaining(['Буря над станцией.mid', 'Буря над станцией - 嵐.mid', 'Буря над станцией - 嵐 (2).mid']),
  );
});

test('a damaged song is told with every way on, and never bars the way', async ({ page }) => {
  await withoutGuide(page);
  await openFendro(page);
  await saved(page);
  await test.step('a file that names what every object has is refused at once', async () => {
    await page.getByRole('link', { name: 'Songs' }).click();
    const demo = (await (await page.request.get('/demo/barometer-falling.json')).json()) as {
      score: { sections: { chosen: object }[] };
    };
    for (const section of demo.score.sections)
      section.chosen = JSON.parse('{"x":"hasOwnProperty","__proto__":"constructor"}') as object;
    await page
      .getByLabel('Open a song file')
      .setInputFiles({ name: 'odd.fendro', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(demo)) });
    await expect(page.getByRole('alert')).toContainText('damaged');
    await page
      .getByLabel('Open a song file')
      .setInputFiles({
        name: 'old.fendro',
        mimeType: 'application/json',
        buffer: Buffer.from('{"format":"fendro-song","version":-9007199254740991}'),
      });
    await expect(page.getByRole('alert')).toContainText('not a Fendro song file');
    await page.getByRole('link', { name: 'Fendro, to the song' }).click();
  });

  await test.step('the last state damaged: the one before is shown, and that is said', async () => {
    const lastBody = async (): Promise<readonly [key: string, text: string]> => {
      const records = await stored(page);
      const [current] = Object.keys(records).filter((key) => key.endsWith('/current'));
      const key = current?.replace('current', `body/${records[current] as number}`) ?? '';
      return [key, JSON.stringify(records[key] ?? null)];
    };
    // “Saved” may stand there from before: what counts is what lies in the storage.
    for (const title of ['Older', 'Newer']) {
      await rename(page, title);
      await expect.poll(async () => (await lastBody())[1]).toContain(`"title":"${title}"`);
    }
    await saved(page);
    const [key] = await lastBody();
    await damage(page, new RegExp(`${key}$`), { weather: 'fine' });
    await page.reload();
    await expect(notice(page, 'The last state of this song could not be read')).toBeVisible();
    await expect(page.getByLabel('Song title')).toHaveValue('Older');
  });

  await test.step('all of it damaged: told on every start, with Songs, Bring in, Help and the raw data in reach', async () => {
    await damage(page, /\/body\//, { weather: 'fine' });
    for (let start = 0; start < 2; start++) {
      await page.reload();
      await expect(page.getByRole('heading', { name: 'The song could not be opened' })).toBeVisible();
    }
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Save what is stored of it' }).click();
    expect(readFileSync(await (await download).path(), 'utf8')).toContain('fine');
    const ways = page.getByRole('navigation', { name: 'Fendro' });
    for (const [link, heading] of [
      ['Songs', 'Songs'],
      ['Bring in', 'Bring in'],
      ['Help', 'Help'],
    ] as const) {
      await ways.getByRole('link', { name: link }).click();
      await expect(page.getByRole('heading', { name: heading, level: 1 })).toBeVisible();
    }
    await ways.getByRole('link', { name: 'Fendro' }).click();
    await page.getByRole('button', { name: 'Open the demo song' }).click();
    await expect(page.getByLabel('Song title')).toHaveValue('Barometer Falling');
  });
});

test('a database that is deleted under an open song gets it whole again, and that is told', async ({ page }) => {
  await withoutGuide(page);
  await openFendro(page);
  const storedTakes = async (): Promise<number> =>
    Object.keys(await stored(page)).filter((key) => key.includes('/take/')).length;
  await expect.poll(storedTakes).toBe(demoTakes().length);
  await deleteDatabase(page);
  await rename(page, 'Rescued');
  await expect(page.getByText('It was written whole again')).toBeVisible();
  await saved(page);
  expect(await storedTakes()).toBe(demoTakes().length);
  await page.reload();
  await expect(page.getByLabel('Song title')).toHaveValue('Rescued');
});

for (const [what, script] of [
  [
    'fails',
    () => {
      IDBFactory.prototype.open = () => {
        throw new DOMException('broken', 'UnknownError');
      };
    },
  ],
  [
    'is denied',
    () => {
      const denied = {
        get: () => {
          throw new DOMException('denied', 'SecurityError');
        },
      };
      Object.defineProperty(globalThis, 'indexedDB', denied);
      Object.defineProperty(globalThis, 'localStorage', denied);
      Object.defineProperty(navigator, 'locks', {
        value: { request: () => Promise.reject(new DOMException('denied', 'SecurityError')) },
      });
    },
  ],
  [
    'never answers',
    () => {
      IDBFactory.prototype.open = () => new EventTarget() as IDBOpenDBRequest;
    },
  ],
] as const) {
  test(`storage that ${what} is told, and a song can still be made and handed over`, async ({ page }) => {
    await page.addInitScript(script);
    await page.goto('/');
    await expect(page.getByText(/Your songs could not be reached: the browser/)).toBeVisible({ timeout: 20_000 });
    await page.getByRole('button', { name: 'Open the demo song' }).click();
    await waitForSheet(page);
    await rename(page, 'Unkept');
    await expect(page.getByRole('alert').filter({ hasText: 'The last changes are not saved' })).toBeVisible({
      timeout: 30_000,
    });
    await expect(page.getByText('Not saved', { exact: true })).toBeVisible();
    await page.getByRole('link', { name: 'Deliver', exact: true }).click();
    await page.getByRole('tab', { name: 'Song file' }).click();
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: /The song file/ }).click();
    expect(JSON.parse(readFileSync(await (await download).path(), 'utf8'))).toMatchObject({
      score: { title: 'Unkept' },
    });
  });
}

test('what could not be saved is saved when there is room again', async ({ page }) => {
  await withoutGuide(page);
  await page.addInitScript(() => {
    // eslint-disable-next-line @typescript-eslint/unbound-method -- called with the store it is taken from
    const put = IDBObjectStore.prototype.put;
    const page_ = globalThis as unknown as { full: boolean };
    IDBObjectStore.prototype.put = function (this: IDBObjectStore, ...rest: Parameters<IDBObjectStore['put']>) {
      if (page_.full) throw new DOMException('no room', 'QuotaExceededError');
      return put.apply(this, rest);
    };
  });
  await openFendro(page);
  await saved(page);
  await page.evaluate(() => {
    (globalThis as unknown as { full: boolean }).full = true;
  });
  await rename(page, 'Waiting');
  await expect(page.getByRole('alert').filter({ hasText: 'the browser’s storage is full' })).toBeVisible();
  await page.evaluate(() => {
    (globalThis as unknown as { full: boolean }).full = false;
  });
  await expect(page.getByRole('alert').filter({ hasText: 'the browser’s storage is full' })).toBeHidden();
  await saved(page);
});

test('a second tab reads without touching: takes, names and the shelf of the first stay', async ({ page, context }) => {
  await withoutGuide(page);
  await startSong(page, NEW_SONG);
  await draftBand(page);
  await saved(page);
  const before = await stored(page);
  const second = await context.newPage();
  await withoutGuide(second);
  await second.goto('/');
  await expect(second.getByText('This song is open in another tab')).toBeVisible();
  await focusOn(second, 'Melody');
  await expect(takesOf(second)).toHaveCount(8);
  expect(await stored(page)).toEqual(before);

  await test.step('the song of the first tab is neither deleted nor renamed from the second', async () => {
    await second.getByRole('link', { name: 'Songs' }).click();
    await second.getByRole('button', { name: 'Open the demo song anew' }).click();
    await expect(second.getByLabel('Song title')).toHaveValue('Barometer Falling');
    await waitForSheet(second);
    await second.getByRole('link', { name: 'Songs' }).click();
    await second.getByRole('button', { name: `Delete ${NEW_SONG.title}` }).click();
    await expect(notice(second, /could not be deleted: It is open in another tab/)).toBeVisible();
    await second.getByRole('button', { name: `Rename ${NEW_SONG.title}` }).click();
    await second.getByLabel(`New title for ${NEW_SONG.title}`).fill('Stolen');
    await second.keyboard.press('Enter');
    await expect(notice(second, /could not be renamed: It is open in another tab/)).toBeVisible();
    await second.getByRole('button', { name: `Duplicate ${NEW_SONG.title}`, exact: true }).click();
    await expect(second.getByRole('button', { name: `${NEW_SONG.title} (copy)`, exact: true })).toBeVisible();
  });

  await test.step('both put a phrase on the shelf', async () => {
    await second.getByRole('link', { name: 'Fendro, to the song' }).click();
    for (const tab of [page, second]) {
      await focusOn(tab, 'Melody');
      await further(tab, 'Save as a phrase');
      await expect(notice(tab, /Saved among your phrases/)).toBeVisible();
    }
    await page.reload();
    await focusOn(page, 'Melody');
    await page.getByRole('button', { name: 'Phrases', exact: true }).click();
    await page.getByLabel('Kind of phrase').selectOption('own');
    await expect(
      page.getByRole('region', { name: 'Phrases' }).getByRole('option', { name: /Melody of Verse/ }),
    ).toHaveCount(2);
    await expect(takesOf(page)).toHaveCount(8);
  });
});
