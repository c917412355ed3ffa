import { readFileSync } from 'node:fs';
import type { Locator, Page } from '@playwright/test';
import { violations } from './support/accessibility';
import { readWithMido, saveFile } from './support/midi';
import { loudness } from './support/recorder';
import { expect, notice, openFendro, test, withoutGuide } from './support/test';

/** What a part's notes go through: put together, stepped and struck out while it plays, delivered, written into notes. */

const sheet = (page: Page) => page.getByRole('region', { name: 'Sheet' });
const part = (page: Page, name: string) => sheet(page).getByRole('button', { name: new RegExp(`^${name},`) });
const bench = (page: Page) => page.getByRole('complementary', { name: 'Bench' });
const sentence = (page: Page) => bench(page).locator('fd-treatment-sentence p');
const word = (page: Page, which: number, of: number) =>
  bench(page).getByRole('spinbutton', { name: `Treatment ${which} of ${of}`, exact: true });

/** What the guitar plays, as an independent reader finds it in the song's file; comes back to the song. */
async function guitar(page: Page): Promise<readonly (readonly [start: number, pitch: number])[]> {
  await page.keyboard.press('Control+e');
  const downloading = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Download Barometer Falling.mid', exact: true }).click();
  const file = readWithMido(saveFile(new Uint8Array(readFileSync(await (await downloading).path())), 'mid'));
  await page.getByRole('link', { name: 'Fendro, to the song' }).click();
  await expect(sheet(page)).toBeVisible();
  return file.notes.filter(([track]) => track === 'Guitar').map(([, start, pitch]) => [start, pitch] as const);
}

const plain = async (page: Page): Promise<string> => (await sentence(page).innerText()).replace(/\s+/g, ' ');

/** Drags a word onto the far end of another, as a hand does. */
async function drag(page: Page, from: Locator, to: Locator): Promise<void> {
  const [start, end] = [await from.boundingBox(), await to.boundingBox()];
  if (!start || !end) throw new Error('nothing to drag');
  await page.mouse.move(start.x + 8, start.y + 8);
  await page.mouse.down();
  await page.mouse.move(start.x + 24, start.y + 12, { steps: 4 });
  await page.mouse.move(end.x + end.width - 6, end.y + 8, { steps: 12 });
  await page.mouse.up();
}

test(
  'a guitar is treated in two branches while it plays, in its file and after a reload, and written into notes',
  { tag: '@sound' },
  async ({ page }) => {
    await withoutGuide(page);
    await openFendro(page);
    const before = await guitar(page);
    await part(page, 'Guitar').click();
    await bench(page).getByRole('button', { name: 'Treat', exact: true }).click();
    const choice = page.getByRole('region', { name: 'Treat: Guitar' });
    await choice.getByRole('button', { name: 'Octaves up or down' }).click();
    await expect(word(page, 1, 1)).toHaveText('an octave up');
    expect(await violations(page, { only: 'fd-treatment-sentence' })).toEqual([]);
    // An octave up, every note of it: the file says what sounds.
    const octave = await guitar(page);
    expect(octave).toEqual(before.map(([start, pitch]) => [start, pitch + 12]));

    await part(page, 'Guitar').click();
    await page.keyboard.press('Space');
    await expect.poll(() => loudness(page, 0.5), { timeout: 20_000 }).toBeGreaterThan(0.005);
    await word(page, 1, 1).focus();
    for (const key of ['ArrowDown', 'ArrowDown', 'ArrowUp', 'ArrowUp']) await page.keyboard.press(key);
    await expect(word(page, 1, 1)).toHaveText('an octave up');
    await page.keyboard.press('Delete');
    await expect(word(page, 1, 1)).toHaveAttribute('aria-valuetext', 'an octave up, struck out');
    await page.keyboard.press('Delete');
    await page.keyboard.press('Space');

    await bench(page).getByRole('button', { name: 'Treat', exact: true }).click();
    await choice.getByRole('button', { name: 'Strum' }).click();
    await choice.getByRole('radio', { name: 'Meanwhile' }).click();
    await choice.getByRole('button', { name: 'Half and double time' }).click();
    await expect
      .poll(() => plain(page))
      .toContain('Sounds as written, an octave up, then strummed; meanwhile in half time.');
    await choice.getByRole('button', { name: 'Back to the sentence' }).click();
    // Earlier by keys, to another branch by the pointer.
    await word(page, 2, 3).focus();
    await page.keyboard.press('Shift+ArrowLeft');
    await expect.poll(() => plain(page)).toContain('Sounds as written, strummed, then an octave up; meanwhile');
    await drag(page, word(page, 1, 3), word(page, 3, 3));
    await expect.poll(() => plain(page)).toMatch(/written, an octave up; meanwhile in half time, then strummed/);
    await expect(page.getByRole('button', { name: 'Undo: move a treatment' })).toBeEnabled();

    // For high notes only, by its exact settings.
    await word(page, 1, 3).press('Enter');
    const exactly = page.getByRole('region', { name: /^Exactly: / });
    await exactly.getByRole('combobox', { name: 'For' }).selectOption({ label: 'some pitches only' });
    await expect(word(page, 1, 3)).toHaveText('an octave up, for notes from C4 to G9 only');
    await exactly.getByRole('button', { name: 'Back to the sentence' }).click();
    await expect(page.getByText('Saved', { exact: true })).toBeVisible();
    await page.reload();
    await expect(sheet(page)).toBeVisible({ timeout: 20_000 });
    await part(page, 'Guitar').click();
    await expect
      .poll(() => plain(page))
      .toMatch(/written, an octave up, for notes from C4 to G9 only; meanwhile in half/);

    // Struck out all at once it is what it was; written into notes it sounds the same without them.
    await page.keyboard.press('Shift+T');
    expect(await guitar(page)).toEqual(before);
    await part(page, 'Guitar').click();
    await page.keyboard.press('Shift+T');
    const treated = await guitar(page);
    expect(treated).not.toEqual(before);
    await part(page, 'Guitar').click();
    await bench(page).getByRole('button', { name: 'Treat', exact: true }).click();
    await choice.getByRole('button', { name: 'Write into the notes here' }).click();
    await expect(notice(page, /^take \d+ has them as \d+ notes\. The part’s treatments stay\.$/)).toBeVisible();
    expect(await guitar(page)).toEqual(treated);
  },
);
