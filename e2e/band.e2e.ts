import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { demoTakes } from './support/demo';
import { loudness } from './support/recorder';
import { readWithMido, saveFile } from './support/midi';
import { draftBand, expect, openFendro, startSong, test, withoutGuide } from './support/test';

const bench = (page: Page) => page.getByRole('complementary', { name: 'Bench' });
const takes = (page: Page) => bench(page).getByRole('listbox', { name: 'Takes' });

async function delivered(page: Page, button: string) {
  const downloading = page.waitForEvent('download');
  await page.getByRole('button', { name: button }).click();
  return readWithMido(saveFile(new Uint8Array(readFileSync(await (await downloading).path())), 'mid'));
}

test.beforeEach(async ({ page }) => {
  await withoutGuide(page);
  await openFendro(page);
});

test('every role is added, drafted, heard and delivered', { tag: '@sound' }, async ({ page }) => {
  test.setTimeout(120_000);
  await startSong(page, {
    title: 'Ridge Walk',
    key: 'G',
    scale: 'Major',
    style: 'Singer-songwriter',
    metre: '4/4',
    tempo: '104',
  });
  await draftBand(page);
  for (const role of ['Counter-melody', 'Riff', 'Strummed guitar', 'Picked guitar', 'Ensemble', 'Percussion']) {
    await page.getByRole('button', { name: 'Add a part' }).click();
    await page.getByRole('menuitem', { name: role, exact: true }).click();
    await bench(page).getByRole('button', { name: 'Draft takes' }).click();
    await expect(takes(page).getByRole('option')).toHaveCount(8, { timeout: 20_000 });
    await expect(takes(page).getByRole('option', { selected: true })).toHaveAccessibleName(/chosen$/);
  }
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect.poll(() => loudness(page, 0.5), { timeout: 20_000 }).toBeGreaterThan(0.01);
  await page.keyboard.press('Control+e');
  const song = await delivered(page, 'Download Ridge Walk.mid');
  expect(song.hanging).toBe(0);
  // An ensemble is handed over as a part for each voice.
  for (const name of [
    'Counter-melody',
    'Riff',
    'Strummed guitar',
    'Picked guitar',
    'Ensemble, voice 1',
    'Ensemble, voice 2',
    'Percussion',
  ])
    expect(song.notes.some(([track]) => track === name)).toBe(true);
  expect(song.notes.filter(([track]) => track === 'Percussion').every(([, , , , channel]) => channel === 9)).toBe(true);
});

test('a brief is set in words and in exact numbers, and what is drafted keeps it', async ({ page }) => {
  await page.getByRole('button', { name: /^Melody,/ }).click();
  const busyness = bench(page).getByRole('spinbutton', { name: 'Busyness' });
  await busyness.focus();
  await page.keyboard.press('ArrowUp');
  await expect(busyness).toHaveAttribute('aria-valuetext', 'flowing');
  await page.keyboard.press('Backspace');
  await page.keyboard.press('Enter');
  await bench(page).getByLabel('Grid of the part').selectOption('triplets');
  await bench(page).getByRole('slider', { name: 'Humanise' }).fill('0');
  await bench(page).getByRole('slider', { name: 'Lowest' }).fill('64');
  await bench(page).getByRole('button', { name: 'Back to the sentence' }).click();
  await bench(page).getByRole('button', { name: 'Draft takes' }).click();
  await expect(takes(page).getByRole('option')).toHaveCount(demoTakes('verse', 'Melody').length + 8, {
    timeout: 20_000,
  });
  await page.keyboard.press('Enter');
  await page.keyboard.press('Control+e');
  const verse = await delivered(page, 'Download Barometer Falling - Verse.mid');
  const notes = verse.notes.filter(([track]) => track === 'Melody');
  expect(notes.length).toBeGreaterThan(8);
  expect(notes.every(([, start, pitch]) => start % 160 === 0 && pitch >= 64)).toBe(true);
});

test(
  'styles are found, heard without changing anything, and applied to the song, a section or a part',
  { tag: '@sound' },
  async ({ page }) => {
    // A part that is heard alone does not silence the band of a style that is being listened to.
    await page.getByRole('button', { name: 'Mix', exact: true }).click();
    await page.getByRole('button', { name: 'Quiet: Strings' }).click();
    await page.getByRole('button', { name: 'Hear alone: Strings' }).click();
    await page.getByRole('button', { name: 'Styles', exact: true }).click();
    const drawer = page.getByRole('region', { name: 'Styles' });
    await drawer.getByLabel('Find styles by words').fill('latin 100');
    const list = drawer.getByRole('listbox', { name: 'Styles' });
    await list.focus();
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('ArrowDown');
    await expect(list.getByRole('option', { selected: true })).toContainText('Samba');
    await expect.poll(() => loudness(page, 0.5), { timeout: 20_000 }).toBeGreaterThan(0.01);
    await expect(page.getByLabel('Style', { exact: true })).toHaveValue('Singer-songwriter');
    await drawer.getByRole('button', { name: 'Only to Melody' }).click();
    await drawer.getByRole('button', { name: 'Only to Verse' }).click();
    await expect(page.getByLabel('Style', { exact: true })).toHaveValue('Singer-songwriter');
    await drawer.getByLabel('its instruments and levels').check();
    await drawer.getByLabel('parts that I lack').check();
    await drawer.getByRole('button', { name: 'Apply to the song' }).click();
    await expect(page.getByLabel('Style', { exact: true })).toHaveValue('Samba');
    await expect(page.getByRole('button', { name: /^Percussion,/ })).toBeVisible();
    await expect(page.getByLabel('Tempo', { exact: true })).toHaveValue('96');
    await page.keyboard.press('Control+z');
    await expect(page.getByRole('button', { name: /^Percussion,/ })).toBeHidden();
  },
);

test(
  'phrases are found by words and by a tapped rhythm, heard in time, turned and taken',
  { tag: '@sound' },
  async ({ page }) => {
    await page.getByRole('button', { name: /^Guitar,/ }).click();
    await page.getByRole('button', { name: 'Phrases', exact: true }).click();
    const drawer = page.getByRole('region', { name: 'Phrases' });
    await drawer.getByLabel('Find phrases by words').fill('broken sixteenths');
    const field = drawer.getByRole('listbox', { name: /^Phrases/ });
    await expect(field.getByRole('option')).toHaveCount(24);
    await field.focus();
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('y');
    await expect(field.getByRole('option', { selected: true })).toHaveAccessibleName(/sixteenths.*, kept$/);
    await expect.poll(() => loudness(page, 0.5), { timeout: 20_000 }).toBeGreaterThan(0.01);
    await drawer.getByLabel('Speed').selectOption('half speed');
    await drawer.getByLabel('bass note').check();
    await field.focus();
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('Enter');
    await expect(takes(page).getByRole('option', { selected: true })).toHaveAccessibleName(/chosen$/);
    await drawer.getByLabel('Find phrases by words').fill('');
    const tap = drawer.getByRole('button', { name: 'Tap a rhythm' });
    // Six tenths of a second apart by the page's own clock, without waiting for them.
    await tap.evaluate((button: HTMLButtonElement) => {
      const now = performance.now.bind(performance);
      for (const at of [0, 600, 1200]) {
        performance.now = () => 1000 + at;
        button.click();
      }
      performance.now = now;
    });
    await expect(drawer.getByRole('status')).toHaveText(/^x/, { timeout: 5000 });
    await drawer.getByRole('button', { name: 'Forget it' }).click();
    await drawer.getByRole('checkbox', { name: 'kept' }).check();
    await expect(field.getByRole('option')).toHaveCount(1);
    await page.reload();
    await page.getByRole('button', { name: /^Guitar,/ }).click();
    await expect(takes(page).getByRole('option', { selected: true })).toHaveAccessibleName(/chosen$/);
  },
);

test('the energy line is shaped, drawn and stepped, and what sounds follows it', async ({ page }) => {
  await page.getByRole('button', { name: 'Energy', exact: true }).click();
  await page.getByRole('menuitem', { name: 'build' }).click();
  const strips = page.getByRole('slider', { name: /^Energy of/ });
  const [first, last] = [strips.first(), strips.last()];
  const value = async (strip: typeof first) => Number(await strip.getAttribute('aria-valuenow'));
  await expect.poll(() => value(first)).toBeLessThan(30);
  await expect.poll(() => value(last)).toBeGreaterThan(85);
  await first.focus();
  await page.keyboard.press('ArrowUp');
  await expect.poll(() => value(first)).toBeGreaterThan(25);
  const box = await last.boundingBox();
  if (!box) throw new Error('no strip');
  await page.mouse.move(box.x + 4, box.y + 18);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width - 3, box.y + 18, { steps: 8 });
  await page.mouse.up();
  await expect.poll(() => value(last)).toBeLessThan(30);
  await page.keyboard.press('Control+e');
  const quiet = await delivered(page, 'Download Barometer Falling.mid');
  expect(quiet.hanging).toBe(0);
  await page.getByRole('link', { name: 'Fendro, to the song' }).click();
  await page.getByRole('button', { name: 'Energy', exact: true }).click();
  await page.getByRole('menuitem', { name: 'none: as drafted' }).click();
  await expect(first).toHaveAttribute('aria-valuetext', 'level, nothing drawn');
});
