import type { Page } from '@playwright/test';
import { loudness } from './support/recorder';
import { expect, openFendro, test, withoutGuide } from './support/test';

/** What a writer does to takes with keys alone: hold what is good, draft the rest again, vary, blend, look back. */

const takes = (page: Page) => page.getByRole('listbox', { name: 'Takes' });
const heard = (page: Page) => takes(page).getByRole('option', { selected: true });
const part = (page: Page, name: string) =>
  page.getByRole('region', { name: 'Sheet' }).getByRole('button', { name: new RegExp(`^${name},`) });
const hatches = (page: Page) => page.getByRole('region', { name: 'Sheet' }).locator('fd-held-hatch');

/** Selects bars of a part from the keyboard, counted from 1. */
async function selectBars(page: Page, name: string, from: number, to: number): Promise<void> {
  await part(page, name).focus();
  for (let bar = 1; bar < from; bar++) await page.keyboard.press('ArrowRight');
  for (let bar = from; bar < to; bar++) await page.keyboard.press('Shift+ArrowRight');
}

/** Waits until the newest take is there, and the one that is heard is it or stands before it. */
const captioned = (page: Page, caption: RegExp) =>
  expect(heard(page)).toHaveAccessibleName(caption, { timeout: 20_000 });

test.beforeEach(async ({ page }) => {
  await withoutGuide(page);
  await openFendro(page);
  await page
    .getByRole('navigation', { name: 'Running order' })
    .getByRole('button', { name: /^Verse, 8 bars, 2/ })
    .click();
});

test(
  'bars are held, the rest is drafted again until it is right, varied and blended, and the logbook has all of it',
  { tag: '@sound' },
  async ({ page }) => {
    await part(page, 'Melody').click();
    await selectBars(page, 'Melody', 2, 3);
    await page.keyboard.press('h');
    const strip = page.getByRole('toolbar', { name: 'Bars 2–3' });
    await expect(strip.getByRole('button', { name: 'Hold', exact: true })).toHaveAttribute('aria-pressed', 'true');
    await expect(hatches(page).first()).toBeVisible();
    await expect(page.getByRole('button', { name: 'Undo: hold bars' })).toBeEnabled();

    // Timing kept and pitches new, one key each time; what is held stays out of it.
    await strip.getByRole('button', { name: 'Hold or redraft in part' }).click();
    await page.getByRole('menuitem', { name: 'Free the pitches' }).click();
    await page.keyboard.press('Shift+r');
    await captioned(page, /take 1, pitches of bars 2–3 anew$/);
    await page.keyboard.press('h');
    await expect.poll(() => loudness(page, 0.5), { timeout: 20_000 }).toBeGreaterThan(0.01);

    // The band round the held bars, by one key.
    await page.keyboard.press('Escape');
    await page.keyboard.press('b');
    await expect(page.getByRole('button', { name: /Choose all heard \(4\)/ })).toBeVisible({ timeout: 20_000 });
    await captioned(page, /bars 1 and 4–8 anew$/);

    await page.keyboard.press('v');
    await captioned(page, /varied by 25 %$/);
    await page.keyboard.press('x');
    await captioned(page, /rhythm of take \d+, pitches of take 1$/);
    await page.getByRole('button', { name: 'Vary', exact: true }).click();
    await page.getByRole('menuitem', { name: 'Bars in turn with take 1' }).click();
    await captioned(page, /take \d+ and take 1 in turn$/);
    await page.keyboard.press('F2');
    await page.getByLabel('Name of the heard take').fill('Two winds');
    await page.keyboard.press('Enter');
    await captioned(page, /Two winds: take \d+ and take 1 in turn$/);

    await page.keyboard.press('g');
    const drawer = page.getByRole('region', { name: 'Logbook' });
    const log = drawer.getByRole('listbox', { name: 'Heard, the newest first' });
    await expect(log.getByRole('option').first()).toHaveAccessibleName(/Verse, Melody, Two winds: take \d+ and take 1/);
    await drawer.getByLabel('Find in the logbook by words').fill('verse pitches of bars');
    await expect(log.getByRole('option')).toHaveCount(1);
    await log.focus();
    await page.keyboard.press('ArrowDown');
    await captioned(page, /take 1, pitches of bars 2–3 anew$/);
    // That moment was before the band was reshuffled: its company comes back with it.
    await expect(page.getByRole('button', { name: /Choose all heard \(4\)/ })).toBeVisible();
    await page.keyboard.press('Enter');
    await expect(page.getByRole('button', { name: /Choose all heard/ })).toBeVisible();
    await part(page, 'Bass').click();
    await expect(heard(page)).toHaveAccessibleName(/^Take [1-6] of/);

    // All of it is there after a reload.
    await expect(page.getByText('Saved', { exact: true })).toBeVisible();
    await page.reload();
    await part(page, 'Melody').click();
    await captioned(page, /take 1, pitches of bars 2–3 anew$/);
    await expect(hatches(page).first()).toBeVisible();
    await page.keyboard.press('g');
    await expect(drawer.getByRole('status')).toContainText('heard');
    await expect(log.getByRole('option', { name: /Two winds/ })).toHaveCount(1);
  },
);

test('chords are held and drafted again, and a line without anything left to draft says so', async ({ page }) => {
  await page
    .getByRole('region', { name: 'Sheet' })
    .getByRole('button', { name: 'Chords', exact: true })
    .first()
    .click();
  await page.getByRole('button', { name: 'Bar 1 beat 1, Dm' }).focus();
  await page.keyboard.press('h');
  await expect(page.getByRole('button', { name: 'Bar 1 beat 1, Dm, held' })).toBeVisible();
  await page.keyboard.press('d');
  await expect(takes(page).getByRole('option').nth(7)).toBeVisible({ timeout: 20_000 });
  for (const progression of await takes(page).getByRole('option').all())
    await expect(progression).toHaveAccessibleName(/take|^Take \d+ of \d+, (kept, )?Dm/);

  await part(page, 'Bass').click();
  await selectBars(page, 'Bass', 1, 8);
  await page.keyboard.press('h');
  await page.keyboard.press('r');
  await expect(page.getByRole('alert')).toContainText('All that is free here has been shown');
});

test(
  'takes come in by themselves, two are turned against each other at one level, and many are sorted and found',
  { tag: '@sound' },
  async ({ page }) => {
    await part(page, 'Melody').click();
    const bench = page.getByRole('complementary', { name: 'Bench' });
    await bench.getByRole('button', { name: 'Run through' }).click();
    await bench.getByLabel('How long each take sounds').selectOption('every bar');
    await expect(heard(page)).toHaveAccessibleName(/^Take 7 of/, { timeout: 20_000 });
    await page.keyboard.press('y');
    await expect(takes(page).getByRole('option', { name: /^Take 7 of \d+, kept/ })).toBeVisible();
    await expect(heard(page)).toHaveAccessibleName(/^Take 8 of/, { timeout: 20_000 });
    await page.keyboard.press('n');
    // The next one, or one that has come since: on a busy machine more than a bar is over before anybody looks.
    await expect(heard(page)).toHaveAccessibleName(/^Take (9|[1-9]\d) of/, { timeout: 20_000 });
    await expect.poll(() => loudness(page, 0.5), { timeout: 20_000 }).toBeGreaterThan(0.01);
    await page.keyboard.press('Escape');
    await expect(bench.getByRole('button', { name: 'Run through' })).toBeVisible();

    // Two drafts of the drums, the one drawn over the other, each for a bar.
    await part(page, 'Drums').click();
    await takes(page).focus();
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('k');
    await expect(bench.getByRole('status')).toHaveText(/equally loud|levelled by \d+\.\d dB/, { timeout: 20_000 });
    const [first, second] = [/^Take [2-9].*notes$/, /^Take \d.*chosen$/];
    await expect(heard(page)).toHaveAccessibleName(first);
    await bench.getByLabel('When the two are turned round').selectOption('turn every bar');
    await expect(heard(page)).toHaveAccessibleName(second, { timeout: 20_000 });
    await expect(heard(page)).toHaveAccessibleName(first, { timeout: 20_000 });
    await page.keyboard.press('Escape');
    await expect(bench.getByRole('button', { name: 'Draft takes' })).toBeVisible();

    await part(page, 'Melody').click();
    await takes(page).focus();
    await page.keyboard.press('f');
    await bench.getByLabel('Find takes by words').fill('kept');
    await expect(takes(page).getByRole('option', { name: /kept/ })).toHaveCount(2);
    await bench.getByLabel('Order of the takes').selectOption('sparse to busy');
    await bench.getByLabel('Find takes by words').fill('');
    const counts = async () =>
      (
        await takes(page)
          .getByRole('option')
          .evaluateAll((rows) => rows.map((row) => row.getAttribute('aria-label') ?? ''))
      ).map((label) => Number(/(\d+) notes/.exec(label)?.[1]));
    await expect.poll(async () => (await counts()).length).toBeGreaterThan(7);
    const sorted = await counts();
    expect(sorted).toEqual([...sorted].sort((a, b) => a - b));
    await page.keyboard.press('Escape');
    await expect(bench.getByLabel('Find takes by words')).toBeHidden();
  },
);
