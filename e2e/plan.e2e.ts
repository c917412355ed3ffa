import type { Page } from '@playwright/test';
import { violations } from './support/accessibility';
import { clickAsItComes, expect, startSong, test, withoutGuide } from './support/test';

const drawer = (page: Page) => page.getByRole('region', { name: 'Plan' });
const draftTheSong = (page: Page) => drawer(page).getByRole('button', { name: 'Draft the song' });
const takes = (page: Page) =>
  page.getByRole('complementary', { name: 'Bench' }).getByRole('listbox', { name: 'Takes' }).getByRole('option');

async function addSection(page: Page, ...items: readonly string[]): Promise<void> {
  await page.getByRole('button', { name: 'Add a section' }).click();
  for (const item of items) await page.getByRole('menuitem', { name: item, exact: true }).click();
  await expect(page.getByRole('menu')).toHaveCount(0);
}

test.beforeEach(async ({ page }) => {
  await withoutGuide(page);
});

test('a whole song is drafted by a plan: its chorus states the hook, its verse answers, and all of it is one step', async ({
  page,
}) => {
  test.setTimeout(120_000);
  await startSong(page, {
    title: 'Mast in the Wind',
    key: 'G',
    scale: 'Major',
    style: 'Indie rock',
    metre: '4/4',
    tempo: '120',
  });
  await addSection(page, 'New chorus');
  await page.getByRole('button', { name: 'Plan', exact: true }).click();
  await expect(drawer(page).getByRole('row', { name: /Chorus/ })).toContainText('higher, busier');
  expect(await violations(page)).toEqual([]);

  await draftTheSong(page).click();
  await expect(draftTheSong(page)).toBeEnabled({ timeout: 60_000 });
  await expect(drawer(page).getByRole('textbox', { name: 'Name of Hook of Chorus' })).toHaveValue('Hook of Chorus');
  const use = (section: string) => drawer(page).getByRole('combobox', { name: `What ${section} does with it` });
  await expect(use('Chorus').locator('option:checked')).toHaveText(/states it/);
  await expect(use('Verse').locator('option:checked')).toHaveText(/answers it/);
  // And it ends, as its style does.
  await expect(page.getByRole('button', { name: /^Ending, 1 bar/ })).toBeVisible();
  await expect(drawer(page).getByRole('row')).toHaveCount(3);
  for (const section of [/^Verse, 8 bars/, /^Chorus, 8 bars/]) {
    await page.getByRole('button', { name: section }).click();
    await page.getByRole('button', { name: /^Melody/ }).click();
    await expect(takes(page)).toHaveCount(2);
    await expect(takes(page).first()).toHaveAccessibleName(/chosen$/);
  }

  // All of it was one step.
  const chosen = takes(page).first();
  await page.keyboard.press('Control+z');
  await expect(chosen).not.toHaveAccessibleName(/chosen$/);
  await expect(drawer(page).getByText('Nothing yet.')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Ending, 1 bar/ })).toHaveCount(0);
  await page.keyboard.press('Control+Shift+z');
  await expect(chosen).toHaveAccessibleName(/chosen$/);

  // What is cancelled leaves nothing at work.
  const before = await takes(page).count();
  const cancelled = clickAsItComes(drawer(page), 'Cancel');
  await draftTheSong(page).click();
  await cancelled;
  await expect(draftTheSong(page)).toBeEnabled();
  await expect(drawer(page).getByRole('button', { name: 'Cancel' })).toHaveCount(0);
  await expect(takes(page)).toHaveCount(before);

  // A reload keeps the plan; one click frees a section, and its brief says so.
  await expect(page.getByText('Saved')).toBeVisible();
  await page.reload();
  await page.getByRole('button', { name: /^Verse, 8 bars/ }).click();
  await page.getByRole('button', { name: /^Melody/ }).click();
  const bench = page.getByRole('complementary', { name: 'Bench' });
  await expect(bench).toContainText('In Verse: lower, sparser; answers “Hook of Chorus”');
  await bench.getByRole('button', { name: 'Free Verse' }).click();
  await expect(bench).toContainText('Verse is free');
  await page.keyboard.press('Control+z');
  await expect(bench).toContainText('answers “Hook of Chorus”');
});

test('a section is made in a form: twelve bars of the blues', async ({ page }) => {
  await startSong(page, {
    title: 'Low Cloud',
    key: 'A',
    scale: 'Mixolydian',
    style: 'Blues',
    metre: '4/4',
    tempo: '92',
  });
  // The style's own sections are as long as its form.
  await expect(page.getByRole('button', { name: /^Verse, 12 bars/ })).toBeVisible();
  await addSection(page, 'New section in a form', 'Eight-bar blues');
  await page.getByRole('button', { name: 'Chords', exact: true }).click();
  const bench = page.getByRole('complementary', { name: 'Bench' });
  await expect(bench.getByRole('combobox', { name: 'Form of the chords' }).locator('option:checked')).toHaveText(
    'twelve bars',
  );
  await bench.getByRole('button', { name: 'Draft takes' }).click();
  await expect(page.getByRole('button', { name: /^Bar 1 beat 1, A7/ })).toBeVisible();
  await expect(page.getByRole('button', { name: /^Bar 6 beat 1, E7/ })).toBeVisible();
});
