import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { violations } from './support/accessibility';
import { readWithMido, saveFile } from './support/midi';
import { loudness } from './support/recorder';
import { expect, notice, openFendro, test, withoutGuide } from './support/test';

/** Music that goes on by itself: drawn, set against each other, wandering; heard, caught, delivered and there again. */

const BAR = 1920;
/** The verse follows four bars of intro. */
const VERSE = 4 * BAR;

const sheet = (page: Page) => page.getByRole('region', { name: 'Sheet' });
const drawer = (page: Page) => page.getByRole('region', { name: 'Patterns' });
const takes = (page: Page) => page.getByRole('listbox', { name: 'Takes' });
const part = (page: Page, name: string) => sheet(page).getByRole('button', { name: new RegExp(`^${name},`) });
const word = (page: Page, name: string) => drawer(page).getByRole('spinbutton', { name, exact: true });
const strip = (page: Page, name: string) => drawer(page).getByRole('slider', { name, exact: true });

async function press(page: Page, ...keys: readonly string[]): Promise<void> {
  for (const key of keys) await page.keyboard.press(key);
}

/** The song as an independent reader finds it; comes back to the song. */
async function read(page: Page) {
  await page.keyboard.press('Control+e');
  const downloading = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Download Barometer Falling.mid', exact: true }).click();
  const file = readWithMido(saveFile(new Uint8Array(readFileSync(await (await downloading).path())), 'mid'));
  await page.getByRole('link', { name: 'Fendro, to the song' }).click();
  await expect(sheet(page)).toBeVisible();
  return file;
}

test.beforeEach(async ({ page }) => {
  await withoutGuide(page);
  await openFendro(page);
});

test(
  'a bassline is drawn on roots with ties, an answer is redrawn by itself, caught, and found in the logbook',
  { tag: '@sound' },
  async ({ page }) => {
    await part(page, 'Bass').click();
    await press(page, 'Shift+N');
    await drawer(page).getByRole('button', { name: 'Draw a pattern' }).click();
    await expect.poll(() => loudness(page, 0.5), { timeout: 20_000 }).toBeGreaterThan(0.005);
    await page.getByRole('button', { name: 'Stop', exact: true }).click();
    await strip(page, 'Note').focus();
    await press(page, 'ArrowRight', 't', 'ArrowRight', 'ArrowUp');
    await expect(strip(page, 'Note')).toHaveAttribute('aria-valuetext', /^Step 3 of 4: degree 2, /);
    expect(await violations(page, { only: 'fd-patterns-drawer' })).toEqual([]);

    // Its first chord lasts a bar.
    const bass = (await read(page)).notes.filter(
      ([track, start]) => track === 'Bass' && start >= VERSE - 60 && start < VERSE + BAR - 60,
    );
    const [root] = bass.map(([, , pitch]) => pitch);
    expect(bass.map(([, start, pitch]) => [120 * Math.round((start - VERSE) / 120), pitch - root!])).toEqual([
      [0, 0],
      [480, 12],
      [720, 0],
      [960, 0],
      [1440, 12],
      [1680, 0],
    ]);

    await part(page, 'Melody').click();
    await drawer(page).getByRole('button', { name: 'Draw a pattern' }).click();
    await strip(page, 'Note').focus();
    await press(page, '-');
    await word(page, 'Redrawn by chance').focus();
    await press(page, 'ArrowUp', 'ArrowUp');
    await expect(word(page, 'Redrawn by chance')).toHaveText('redrawn every 2 bars');
    // Two bars come round quickly.
    await part(page, 'Melody').focus();
    await press(page, 'Shift+ArrowRight', 'Space');
    await expect(drawer(page).getByText('pass 2', { exact: true })).toBeVisible({ timeout: 30_000 });
    await press(page, 'Shift+K');
    await expect(notice(page, /^Caught pass \d of take \d+: take \d+, \d+ notes/)).toBeVisible();
    const caught = takes(page).getByRole('option', { name: /kept.*pass \d of take \d+$/ });
    await expect(caught).toBeVisible();
    await press(page, 'Space');

    // The logbook has every pass that sounded otherwise; that very one is heard again, and caught.
    await press(page, 'g');
    const log = page.getByRole('region', { name: 'Logbook' });
    const pass = log.getByRole('option', { name: /Melody, .*pattern, pass 2$/ }).first();
    await pass.click();
    await log.getByRole('button', { name: 'Catch this pass' }).click();
    await expect(page.getByRole('button', { name: 'Undo: catch a pass' })).toBeEnabled();
    await page.keyboard.press('Space');

    await expect(page.getByText('Saved', { exact: true })).toBeVisible();
    await page.reload();
    await expect(sheet(page)).toBeVisible({ timeout: 20_000 });
    await part(page, 'Bass').click();
    await press(page, 'Shift+N');
    await expect(strip(page, 'Note')).toHaveAttribute('aria-valuetext', /^Step 1 of 4: degree 1, /);
  },
);

test('loops of 3, 5 and 7 move with their chords, drums wander, and both are in the file', async ({ page }) => {
  await part(page, 'Guitar').click();
  await press(page, 'Shift+N');
  await drawer(page).getByRole('button', { name: 'Set loops against each other' }).click();
  await expect(drawer(page).getByText('All meet again after 13.13 bars.')).toBeVisible();
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  // A second notch, drawn with the mouse in the third step of the first loop.
  const ribbon = strip(page, 'Loop 1');
  const box = (await ribbon.boundingBox())!;
  await page.mouse.click(box.x + 2.5 * 28, box.y + 8);
  await expect(page.getByRole('button', { name: 'Undo: draw a loop' })).toBeEnabled();
  await drawer(page).getByRole('combobox', { name: 'Chance of loop 1' }).selectOption('in 50 %');
  await word(page, 'Where they meet').focus();
  await press(page, 'ArrowUp');
  await expect(word(page, 'Where they meet')).toHaveText('tied where they meet');
  expect(await violations(page, { only: 'fd-patterns-drawer' })).toEqual([]);

  await part(page, 'Drums').click();
  await drawer(page).getByRole('button', { name: 'Let notes wander' }).click();
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await word(page, 'Density').focus();
  await press(page, 'ArrowUp', 'ArrowUp', 'ArrowUp');
  await expect(word(page, 'Density')).toHaveText('100 % dense');

  const file = await read(page);
  const verse = (name: string) =>
    file.notes.filter(([track, start]) => track === name && start >= VERSE && start < VERSE + 8 * BAR);
  // Loops of 5 and 7 eighths are certain: in 64 eighths they strike 13 and 10 times.
  expect(verse('Guitar').length).toBeGreaterThanOrEqual(23 - 2);
  expect(new Set(verse('Guitar').map(([, , pitch]) => pitch % 12)).size).toBeGreaterThan(4);
  expect(verse('Drums').length).toBeGreaterThanOrEqual(64);
  expect(new Set(verse('Drums').map(([, , pitch]) => pitch)).size).toBeGreaterThan(5);
});
