import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { violations } from './support/accessibility';
import { readWithMido, saveFile } from './support/midi';
import { loudness } from './support/recorder';
import { expect, notice, openFendro, test, withoutGuide } from './support/test';

/** One line dealt out to several parts, and words that lean several settings at once: heard, delivered, there again. */

const sheet = (page: Page) => page.getByRole('region', { name: 'Sheet' });
const part = (page: Page, name: string) => sheet(page).getByRole('button', { name: new RegExp(`^${name},`) });
const bench = (page: Page) => page.getByRole('complementary', { name: 'Bench' });
const word = (page: Page, name: string) => bench(page).getByRole('spinbutton', { name, exact: true });
const saved = (page: Page) => page.getByText('Saved', { exact: true });

/** The song's file as an independent reader finds it, by tracks; comes back to the song. */
async function read(page: Page) {
  await page.keyboard.press('Control+e');
  const downloading = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Download Barometer Falling.mid', exact: true }).click();
  const file = readWithMido(saveFile(new Uint8Array(readFileSync(await (await downloading).path())), 'mid'));
  await page.getByRole('link', { name: 'Fendro, to the song' }).click();
  await expect(sheet(page)).toBeVisible();
  const of = (track: string) =>
    file.notes.filter(([name]) => name === track).map(([, start, pitch]) => `${Math.round(start / 120)} ${pitch % 12}`);
  return { of, hanging: file.hanging };
}

test.beforeEach(async ({ page }) => {
  await withoutGuide(page);
  await openFendro(page);
});

test(
  'a guitar is dealt out to strings while it plays, in the file too, without a note that hangs',
  { tag: '@sound' },
  async ({ page }) => {
    const before = await read(page);
    await part(page, 'Guitar').click();
    await page.keyboard.press('Space');
    await expect.poll(() => loudness(page, 0.5), { timeout: 20_000 }).toBeGreaterThan(0.005);
    await page.keyboard.press('Shift+G');
    const panel = page.getByRole('region', { name: 'Deal out: Guitar' });
    await panel.getByRole('checkbox', { name: 'Strings' }).click();
    await panel.getByRole('checkbox', { name: 'Guitar itself' }).click();
    await expect(word(page, 'Dealing')).toHaveText('dealt in turn to Strings and Guitar itself');
    expect(await violations(page, { only: 'fd-deal-details' })).toEqual([]);
    await panel.getByRole('button', { name: 'Back to the sentence' }).click();
    // Struck out and let work again while it sounds, by keys alone.
    await word(page, 'Dealing').focus();
    await page.keyboard.press('Delete');
    await expect(word(page, 'Dealing')).toHaveAttribute('aria-valuetext', /, struck out$/);
    await page.keyboard.press('Delete');
    await expect.poll(() => loudness(page, 0.5)).toBeGreaterThan(0.005);
    await page.keyboard.press('Space');

    const dealt = await read(page);
    expect(dealt.hanging).toBe(0);
    const [whole, kept] = [before.of('Guitar'), dealt.of('Guitar')];
    expect(kept.length).toBeGreaterThan(0.4 * whole.length);
    expect(kept.length).toBeLessThan(0.6 * whole.length);
    expect(kept.filter((note) => !whole.includes(note))).toEqual([]);
    // What the guitar does not play any more, the strings do; beside what they had.
    const strings = dealt.of('Strings');
    const given = whole.filter((note) => !kept.includes(note) && strings.includes(note));
    expect(given.length).toBeGreaterThan(0.3 * whole.length);

    await expect(saved(page)).toBeVisible();
    await page.reload();
    await expect(sheet(page)).toBeVisible({ timeout: 20_000 });
    await part(page, 'Strings').click();
    await expect(bench(page).getByText('with what Guitar deals to it')).toBeVisible();
    await part(page, 'Guitar').click();
    await expect(word(page, 'Dealing')).toHaveText('dealt in turn to Strings and Guitar itself');
    // Written into the notes of this section it sounds the same, and nothing is dealt twice.
    await word(page, 'Dealing').press('Enter');
    await panel.getByRole('button', { name: 'Write into the notes here' }).click();
    await expect(notice(page, /^Guitar and Strings have their shares as notes\./)).toBeVisible();
    const written = await read(page);
    for (const track of ['Guitar', 'Strings']) expect(written.of(track).sort()).toEqual(dealt.of(track).sort());
  },
);

test(
  'a brief is leant by words, at once and bar by bar, a pattern by chance; a word of one’s own is kept',
  { tag: '@sound' },
  async ({ page }) => {
    await part(page, 'Melody').click();
    await page.keyboard.press('Shift+L');
    const panel = page.getByRole('region', { name: 'Lean: Melody' });
    await panel.getByRole('button', { name: 'busier', exact: true }).click();
    await expect(word(page, 'Busyness')).toHaveText('lively');
    await expect(page.getByRole('button', { name: 'Undo: lean busier' })).toBeEnabled();
    await panel.getByRole('radio', { name: 'Slowly' }).click();
    await panel.getByRole('button', { name: 'stronger', exact: true }).click();
    expect(await violations(page, { only: 'fd-lean-panel' })).toEqual([]);
    await panel.getByRole('button', { name: 'A word of your own …' }).click();
    await panel.getByRole('combobox', { name: 'Stride' }).selectOption({ label: '3 more' });
    await panel.getByRole('button', { name: 'Save to the shelf …' }).click();
    await panel.getByRole('textbox', { name: 'Name of the leaning' }).fill('leapier');
    await page.keyboard.press('Enter');
    await expect(panel.getByRole('button', { name: 'leapier', exact: true })).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(word(page, 'Leaning 1 of 1')).toHaveText('stronger over 8 bars');
    await word(page, 'Leaning 1 of 1').press('ArrowDown');

    // What is drafted now gets louder over six bars.
    const takes = page.getByRole('listbox', { name: 'Takes' }).getByRole('option');
    const count = await takes.count();
    await page.keyboard.press('d');
    await expect.poll(() => takes.count(), { timeout: 60_000 }).toBeGreaterThan(count);
    await expect(saved(page)).toBeVisible({ timeout: 60_000 });
    await page.reload();
    await expect(sheet(page)).toBeVisible({ timeout: 20_000 });
    await part(page, 'Melody').click();
    await expect(word(page, 'Leaning 1 of 1')).toHaveText('stronger over 6 bars');

    await part(page, 'Bass').click();
    await page.keyboard.press('Shift+N');
    const drawer = page.getByRole('region', { name: 'Patterns' });
    await drawer.getByRole('button', { name: 'Draw a pattern' }).click();
    await drawer.getByRole('button', { name: 'Lean', exact: true }).click();
    await drawer.getByRole('radio', { name: 'By chance' }).click();
    await drawer.getByRole('button', { name: 'quicker', exact: true }).click();
    await drawer.getByRole('combobox', { name: 'How often' }).selectOption({ label: 'in 100 %' });
    await expect(drawer.getByRole('spinbutton', { name: 'Leaning 1 of 1' })).toHaveText(
      'quicker by chance, every 2 bars in 100 %',
    );
    const quick = (await read(page)).of('Bass').length;
    await part(page, 'Bass').click();
    await drawer.getByRole('spinbutton', { name: 'Leaning 1 of 1' }).press('Delete');
    const plain = (await read(page)).of('Bass').length;
    expect(quick).toBeGreaterThan(plain);
  },
);
