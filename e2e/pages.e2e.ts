import type { Page } from '@playwright/test';
import { violations } from './support/accessibility';
import { expect, further, openFendro, startSong, test, withoutGuide } from './support/test';

/** Shows a theme at once: colours that fade would be measured on their way. */
const wear = (page: Page, theme: string): Promise<void> =>
  page.evaluate(async (name) => {
    document.documentElement.dataset['theme'] = name;
    await Promise.all(document.getAnimations().map((animation) => (animation.finish(), animation.finished)));
  }, theme);

/** Checks a page, or a part of it, by day and by night. The themes differ in their colours only. */
async function check(page: Page, only?: string): Promise<void> {
  // What is fetched when it is asked for has its names a moment after it stands there. A look at a long page takes a
  // slow machine half a minute.
  await expect.poll(() => violations(page, { only }), { timeout: 90_000 }).toEqual([]);
  await wear(page, 'night');
  expect(await violations(page, { only, rules: ['color-contrast'] })).toEqual([]);
  await wear(page, 'day');
}

test('the song and its drawers have no accessibility violation, by day and by night', async ({ page }) => {
  test.setTimeout(300_000);
  await openFendro(page);
  await check(page);
  await page.getByRole('button', { name: 'Styles', exact: true }).click();
  await page.getByRole('listbox', { name: 'Styles' }).getByRole('option').first().waitFor();
  await check(page, 'fd-styles-drawer');
  await page.getByRole('button', { name: 'Phrases', exact: true }).click();
  await page.getByRole('button', { name: /^Guitar,/ }).click();
  await page
    .getByRole('listbox', { name: /^Phrases/ })
    .getByRole('option')
    .nth(20)
    .waitFor();
  await check(page, 'fd-phrases-drawer');
  await page.getByRole('button', { name: 'Styles', exact: true }).click();
  await page.getByRole('listbox', { name: 'Styles' }).getByRole('option').first().click();
  await page.getByRole('button', { name: 'Make my own of it …' }).click();
  await check(page, 'fd-styles-drawer');
  await page.getByRole('button', { name: 'Leave it' }).click();
  await page.getByRole('button', { name: /^Drums,/ }).click();
  for (const tab of ['Fills', 'Kit', 'Takes']) {
    await page.getByRole('tab', { name: tab }).click();
    await check(page, 'fd-bench');
  }
  await page.getByRole('button', { name: /^Melody,/ }).click();
  await page.getByRole('spinbutton', { name: 'Busyness' }).click();
  await further(page, 'Show note roles');
  await check(page, 'fd-bench');
  await page.getByRole('button', { name: 'Back to the sentence' }).click();
  await page.getByRole('button', { name: 'Mix', exact: true }).click();
  await page.getByRole('button', { name: 'Chords', exact: true }).click();
  for (const tab of ['Draft', 'Next', 'Pick', 'Voicing', 'Rhythm', 'Facts']) {
    await page.getByRole('tab', { name: tab }).click();
    await check(page, 'fd-bench');
  }
  await page.getByRole('button', { name: 'Weights and own scales' }).click();
  await page.getByRole('button', { name: /^Own key/ }).click();
  await page.getByLabel('Key', { exact: true }).selectOption('E');
  await check(page);
  await page.getByRole('button', { name: 'Leave as it was' }).click();
  await page.getByRole('button', { name: 'Close', exact: true }).click();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
  await check(page);
});

test('no other page has an accessibility violation, by day and by night', async ({ page }) => {
  test.setTimeout(300_000);
  await openFendro(page);
  for (const name of ['Songs', 'Deliver', 'Help']) {
    await page.getByRole('link', { name, exact: true }).click();
    await expect(page.getByRole('heading', { level: 1, name })).toBeVisible();
    await check(page);
  }
  await page.getByRole('link', { name: 'Songs', exact: true }).click();
  await page.getByRole('link', { name: /^Bring in/ }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Bring in' })).toBeVisible();
  await check(page);
  await page.getByRole('tab', { name: 'Chords as text' }).click();
  await page.getByRole('textbox', { name: 'Chord chart' }).fill('[Verse]\nC | Gxq | F\nChorus x2\nAm | G');
  await check(page, 'fd-chord-text');
});

test('songs are copied, renamed, deleted and put back', async ({ page }) => {
  await withoutGuide(page);
  await startSong(page, { title: 'Cloud Log', key: 'A', scale: 'Minor', style: 'Soul', metre: '4/4', tempo: '88' });
  await page.getByRole('link', { name: 'Songs' }).click();
  const row = (name: string) => page.getByRole('row').filter({ has: page.getByRole('button', { name, exact: true }) });
  await page.getByRole('button', { name: 'Duplicate Cloud Log', exact: true }).click();
  await page.getByRole('button', { name: 'Rename Cloud Log (copy)' }).click();
  await page.getByLabel('New title for Cloud Log (copy)').fill('Fog Log');
  await page.keyboard.press('Enter');
  await expect(row('Fog Log')).toBeVisible();
  await page.getByRole('button', { name: 'Delete Fog Log' }).click();
  await expect(row('Fog Log')).toBeHidden();
  await page.getByRole('button', { name: 'Put it back' }).click();
  await row('Fog Log').getByRole('button', { name: 'Fog Log', exact: true }).click();
  await expect(page.getByLabel('Song title')).toHaveValue('Fog Log');
});

test('bad input is told at its place and changes nothing', async ({ page }) => {
  await withoutGuide(page);
  await openFendro(page);
  const tempo = page.getByLabel('Tempo', { exact: true });
  await tempo.fill('9999');
  await tempo.press('Enter');
  await expect(page.getByRole('alert')).toContainText('20 to 300');
  await tempo.press('Escape');
  await expect(tempo).toHaveValue('96');
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();

  const cell = page.getByRole('button', { name: /^Bar 2 beat 1,/ });
  const before = await cell.getAttribute('aria-label');
  // As a hand presses: nothing may move away from under it before it lets go.
  await cell.click({ delay: 120 });
  const caret = page.getByLabel('Chord', { exact: true });
  await caret.fill('Hmaj');
  await expect(page.getByRole('alert')).toContainText('does not start with a note name');
  await caret.press('Escape');
  await expect(cell).toHaveAttribute('aria-label', before ?? '');

  await page.getByRole('spinbutton', { name: 'Bars', exact: true }).fill('500');
  await page.getByRole('spinbutton', { name: 'Bars', exact: true }).press('Enter');
  await expect(page.getByRole('alert')).toContainText('1 to 64 bars');

  await page.getByRole('link', { name: 'Songs' }).click();
  const file = page.getByLabel('Open a song file');
  await file.setInputFiles({ name: 'weather.txt', mimeType: 'text/plain', buffer: Buffer.from('Fog until noon.') });
  await expect(page.getByRole('alert')).toContainText('not a Fendro song file');
  await file.setInputFiles({
    name: 'weather.mid',
    mimeType: 'audio/midi',
    buffer: Buffer.from('MThd nothing of the kind'),
  });
  await expect(page.getByRole('alert')).toContainText('nothing in it to bring in');
  await page.getByRole('link', { name: 'Fendro, to the song' }).click();
  await expect(page.getByLabel('Song title')).toHaveValue('Barometer Falling');
});

test('when sound cannot start, the page says why and what to do', async ({ page }) => {
  await withoutGuide(page);
  await page.addInitScript(() => {
    globalThis.AudioContext = class {
      constructor() {
        throw new Error('no device was found.');
      }
    } as never;
  });
  await openFendro(page);
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('Sound could not start: no device was found. Check that');
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
});

test('sections move, repeat and go by keyboard, and F6 goes round the regions', async ({ page }) => {
  await withoutGuide(page);
  await openFendro(page);
  const order = page.getByRole('navigation', { name: 'Running order' });
  const names = (): Promise<string[]> =>
    order
      .getByRole('button', { name: /bars, \d of \d/ })
      .evaluateAll((buttons) => buttons.map((button) => button.getAttribute('aria-label')?.split(',')[0] ?? ''));
  await order.getByRole('button', { name: /^Verse, 8 bars, 2/ }).focus();
  await page.keyboard.press('Alt+ArrowRight');
  await expect.poll(names).toEqual(['Intro', 'Chorus', 'Verse', 'Verse', 'Chorus', 'Bridge', 'Chorus', 'Outro']);
  await page.keyboard.press('Delete');
  await expect.poll(names).toEqual(['Intro', 'Chorus', 'Verse', 'Chorus', 'Bridge', 'Chorus', 'Outro']);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect.poll(names).toEqual(['Intro', 'Verse', 'Chorus', 'Verse', 'Chorus', 'Bridge', 'Chorus', 'Outro']);
  const [intro, chorus] = [/^Intro/, /^Chorus, 8 bars, 3/].map((name) => order.getByRole('button', { name }));
  // What drags is fetched when the pointer comes near, or before.
  await expect(async () => {
    await intro!.hover();
    await page.mouse.down();
    for (const x of [100, 120]) await chorus!.hover({ position: { x, y: 20 }, force: true });
    await expect(page.locator('.cdk-drag-placeholder')).toBeVisible({ timeout: 500 });
  }).toPass();
  await page.mouse.up();
  await expect.poll(names).toEqual(['Verse', 'Chorus', 'Intro', 'Verse', 'Chorus', 'Bridge', 'Chorus', 'Outro']);
  await page.keyboard.press('Control+z');
  await order.getByRole('button', { name: /^Intro/ }).focus();
  for (const region of ['Sheet', 'Bench']) {
    await page.keyboard.press('F6');
    expect(
      await page.evaluate(() => document.activeElement?.closest('[data-region]')?.getAttribute('aria-label')),
    ).toBe(region);
    // Letters are keys there, not text.
    if (region === 'Sheet') await expect(page.locator('.part-name[tabindex="0"]')).toBeFocused();
  }
});

test('the first minute leads through, goes away and comes back', async ({ page }) => {
  await openFendro(page);
  const strip = page.getByRole('region', { name: 'First minute' });
  await expect(strip.getByRole('listitem').nth(0)).toHaveAttribute('aria-current', 'step');
  await page.keyboard.press(' ');
  await expect(strip.getByRole('listitem').nth(1)).toHaveAttribute('aria-current', 'step');
  await page.keyboard.press('ArrowDown');
  await expect(strip.getByRole('listitem').nth(2)).toHaveAttribute('aria-current', 'step');
  await strip.getByRole('button', { name: 'Put the first minute away' }).click();
  await expect(strip).toBeHidden();
  await page.getByRole('link', { name: 'Help' }).click();
  await page.getByRole('button', { name: 'Take up the first minute', exact: true }).click();
  await expect(strip.getByRole('listitem').nth(2)).toHaveAttribute('aria-current', 'step');
  await page.keyboard.press('y');
  await expect(strip.getByRole('listitem').nth(3)).toHaveAttribute('aria-current', 'step');
  await page.getByRole('link', { name: 'Deliver' }).click();
  await page.getByRole('button', { name: 'Everything in one zip' }).click();
  await page.getByRole('link', { name: 'Fendro, to the song' }).click();
  await expect(strip).toBeHidden();
});

test('a second tab on the same song says so, does not save, and takes over when the first has gone', async ({
  page,
  context,
}) => {
  await withoutGuide(page);
  await openFendro(page);
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  const second = await context.newPage();
  await withoutGuide(second);
  await second.goto('/');
  const notice = second.getByText('This song is open in another tab');
  await expect(notice).toBeVisible();
  await second.getByLabel('Song title').fill('Barometer Steady');
  await second.getByLabel('Song title').press('Enter');
  await page.reload();
  await expect(page.getByLabel('Song title')).toHaveValue('Barometer Falling');
  await expect(page.getByText('This song is open in another tab')).toBeHidden();
  await page.close();
  await expect(notice).toBeHidden({ timeout: 60_000 });
  await second.reload();
  await expect(second.getByLabel('Song title')).toHaveValue('Barometer Steady');
});
