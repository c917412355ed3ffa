import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { loudness } from './support/recorder';
import { readWithMido, saveFile } from './support/midi';
import { expect, find, further, notice, openFendro, test, withoutGuide } from './support/test';

const bench = (page: Page) => page.getByRole('complementary', { name: 'Bench' });
const takes = (page: Page) => bench(page).getByRole('listbox', { name: 'Takes' });
const part = (page: Page, name: string) =>
  page.getByRole('region', { name: 'Sheet' }).getByRole('button', { name: new RegExp(`^${name},`) });

/** What a file of the Deliver page holds, read by another program; comes back to the song. */
async function delivered(page: Page, file: string) {
  await page.keyboard.press('Control+e');
  const downloading = page.waitForEvent('download');
  await page.getByRole('button', { name: `Download ${file}` }).click();
  const read = readWithMido(saveFile(new Uint8Array(readFileSync(await (await downloading).path())), 'mid'));
  await page.getByRole('link', { name: 'Fendro, to the song' }).click();
  return read;
}

async function view(page: Page, section: RegExp): Promise<void> {
  await page.getByRole('navigation', { name: 'Running order' }).getByRole('button', { name: section }).click();
}

/** Selects bars of the part in focus from the keyboard, counted from 1. */
async function selectBars(page: Page, name: string, from: number, to: number): Promise<void> {
  await part(page, name).focus();
  for (let bar = 1; bar < from; bar++) await page.keyboard.press('ArrowRight');
  for (let bar = from; bar < to; bar++) await page.keyboard.press('Shift+ArrowRight');
}

test.beforeEach(async ({ page }) => {
  await withoutGuide(page);
  await openFendro(page);
});

test(
  'fills are browsed and placed, drums go at half time, and single drums are swapped',
  { tag: '@sound' },
  async ({ page }) => {
    await view(page, /^Verse, 8 bars, 2/);
    await part(page, 'Drums').click();
    await bench(page).getByRole('tab', { name: 'Fills' }).click();
    await bench(page).getByLabel('Length of the fill').selectOption('two bars');
    const fills = bench(page).getByRole('listbox', { name: 'Fills' });
    await fills.focus();
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('ArrowDown');
    await expect(fills.getByRole('option', { selected: true })).toContainText('rolling down');
    await expect.poll(() => loudness(page, 0.5), { timeout: 20_000 }).toBeGreaterThan(0.01);
    await page.keyboard.press('Enter');
    await bench(page).getByRole('tab', { name: 'Takes' }).click();
    await expect(takes(page).getByRole('option', { selected: true })).toHaveAccessibleName(/chosen$/);
    await bench(page).getByRole('tab', { name: 'Kit' }).click();
    await bench(page).getByLabel('Sound of the kick').selectOption('low tom');
    const verse = await delivered(page, 'Barometer Falling - Verse.mid');
    const drums = verse.notes.filter(([track]) => track === 'Drums');
    expect(drums.some(([, , pitch]) => pitch === 36)).toBe(false);
    expect(drums.some(([, , pitch]) => pitch === 43)).toBe(true);
    // The fill's toms come in the last two bars.
    expect(drums.some(([, start, pitch]) => start >= 6 * 1920 && [50, 47].includes(pitch))).toBe(true);

    await part(page, 'Drums').click();
    await bench(page).getByRole('tab', { name: 'Takes' }).click();
    await bench(page).getByRole('spinbutton', { name: 'Busyness' }).click();
    await bench(page).getByLabel('Half or double time').selectOption('half time');
    await bench(page).getByRole('button', { name: 'Back to the sentence' }).click();
    const before = await takes(page).getByRole('option').count();
    await bench(page).getByRole('button', { name: 'Draft takes' }).click();
    await expect(takes(page).getByRole('option')).toHaveCount(before + 8, { timeout: 20_000 });
    await page.keyboard.press('Enter');
    await expect(takes(page).getByRole('option', { selected: true })).toHaveAccessibleName(/chosen$/);
    const half = await delivered(page, 'Barometer Falling - Verse.mid');
    // No back beat on two: at half time it falls on three. What is left on two is at most a brush that is felt.
    const snares = half.notes.filter(
      ([track, start, pitch]) => track === 'Drums' && [37, 38, 39].includes(pitch) && start < 6 * 1920,
    );
    const loudest = Math.max(...snares.map(([, , , , , velocity]) => velocity));
    const backbeat = snares.filter(([, , , , , velocity]) => velocity > loudest - 15).map(([, start]) => start % 1920);
    expect(backbeat.length).toBeGreaterThan(0);
    expect(backbeat).not.toContain(480);
  },
);

test(
  'chosen bars become a solo while the melody rests, and the song gets an ending',
  { tag: '@sound' },
  async ({ page }) => {
    await view(page, /^Verse, 8 bars, 2/);
    await part(page, 'Melody').click();
    await selectBars(page, 'Melody', 5, 6);
    await page.getByRole('button', { name: 'Solo here' }).click();
    await expect(bench(page).getByText('Plays bars 5–6; Melody rests there.')).toBeVisible();
    await expect(takes(page).getByRole('option')).toHaveCount(8, { timeout: 20_000 });
    await expect(takes(page).getByRole('option', { selected: true })).toHaveAccessibleName(/chosen$/);
    const inSolo = (start: number): boolean => start >= 4 * 1920 && start < 6 * 1920;
    const verse = await delivered(page, 'Barometer Falling - Verse.mid');
    expect(verse.notes.filter(([track, start]) => track === 'Melody' && inSolo(start))).toEqual([]);
    const solo = verse.notes.filter(([track]) => track === 'Solo');
    expect(solo.length).toBeGreaterThan(3);
    expect(solo.every(([, start]) => start >= 4 * 1920 - 960 && start < 6 * 1920)).toBe(true);

    await part(page, 'Melody').click();
    await expect(bench(page).getByText('Rests in bars 5–6 for Solo.')).toBeVisible();
    await bench(page).getByRole('button', { name: 'Take the solo back' }).click();
    await expect(bench(page).getByText('Rests in bars 5–6')).toBeHidden();

    await page.getByRole('button', { name: 'Add a section' }).click();
    await page.getByRole('menuitem', { name: 'End the song' }).click();
    await page.getByRole('menuitem', { name: 'dominant, then home, 2 bars' }).click();
    await expect(page.getByRole('textbox', { name: 'Section name' })).toHaveValue('Ending');
    await page.getByRole('button', { name: 'Play', exact: true }).click();
    await expect.poll(() => loudness(page, 0.5), { timeout: 20_000 }).toBeGreaterThan(0.01);
    const song = await delivered(page, 'Barometer Falling.mid');
    expect(song.hanging).toBe(0);
    const end = 58 * 1920;
    const last = song.notes.filter(([, start]) => start >= end - 1920 - 100);
    expect(new Set(last.map(([track]) => track)).size).toBeGreaterThanOrEqual(3);
    // Home in D.
    expect(last.some(([track, , pitch]) => track === 'Bass' && pitch % 12 === 2)).toBe(true);
    await page.keyboard.press('Control+z');
    await expect(
      page.getByRole('navigation', { name: 'Running order' }).getByRole('button', { name: /^Ending/ }),
    ).toHaveCount(0);
  },
);

test('what a brief cannot meet is told at its word with the nearest that can, and briefs go from part to part', async ({
  page,
}) => {
  await part(page, 'Bass').click();
  const register = bench(page).getByRole('spinbutton', { name: 'Register' });
  await register.click();
  await bench(page)
    .getByRole('slider', { name: /^Highest/ })
    .fill('31');
  await bench(page)
    .getByRole('slider', { name: /^Lowest/ })
    .fill('30');
  await bench(page).getByRole('button', { name: 'Back to the sentence' }).click();
  await bench(page).getByRole('button', { name: 'Draft takes' }).click();
  await expect(bench(page).getByRole('alert')).toContainText('does not hold every root');
  await expect(register).toHaveAttribute('aria-invalid', 'true');
  const before = await takes(page).getByRole('option').count();
  await bench(page)
    .getByRole('button', { name: /^Draft from .+ to / })
    .click();
  await expect.poll(() => takes(page).getByRole('option').count(), { timeout: 20_000 }).toBeGreaterThan(before);
  await expect(bench(page).getByRole('alert')).toHaveCount(0);
  await expect(register).not.toHaveAttribute('aria-invalid', 'true');

  await part(page, 'Melody').click();
  await bench(page).getByRole('spinbutton', { name: 'Adventure' }).click();
  await bench(page).getByRole('slider', { name: 'Adventure' }).fill('90');
  await bench(page).getByRole('button', { name: 'Save to the shelf …' }).click();
  await bench(page).getByLabel('Name of the brief').fill('Wild line');
  await page.keyboard.press('Enter');
  // The exact controls stay open from part to part.
  await part(page, 'Keys').click();
  await bench(page).getByLabel('Take the brief of').selectOption('Wild line');
  await expect(bench(page).getByRole('slider', { name: 'Adventure' })).toHaveValue('90');
  await bench(page).getByLabel('Take the brief of').selectOption('Guitar');
  await expect(bench(page).getByRole('slider', { name: 'Adventure' })).not.toHaveValue('90');
  await bench(page).getByRole('button', { name: 'Remove Wild line from the shelf' }).click();
  await expect(bench(page).getByRole('button', { name: 'Remove Wild line from the shelf' })).toHaveCount(0);
});

test('a take becomes a phrase of one’s own, is found in another song, and its notes say what they do', async ({
  page,
}) => {
  await view(page, /^Verse, 8 bars, 2/);
  await part(page, 'Melody').click();
  await further(page, 'Show note roles');
  await expect(bench(page).getByRole('list', { name: 'Signs in the pictures' })).toContainText('passing');
  await further(page, 'Save as a phrase');
  await expect(notice(page, 'Saved among your phrases')).toBeVisible();
  await view(page, /^Chorus, 8 bars, 3/);
  await part(page, 'Guitar').click();
  await page.getByRole('button', { name: 'Phrases', exact: true }).click();
  const drawer = page.getByRole('region', { name: 'Phrases' });
  await drawer.getByLabel('Kind of phrase').selectOption('own');
  const field = drawer.getByRole('listbox', { name: /^Phrases/ });
  await expect(field.getByRole('option')).toHaveCount(1);
  await field.focus();
  await page.keyboard.press('ArrowRight');
  await drawer.getByLabel('Name of your phrase').fill('Summit call');
  await page.keyboard.press('Tab');
  await expect(field.getByRole('option')).toHaveAccessibleName('Summit call');
  await field.focus();
  await page.keyboard.press('Enter');
  await expect(takes(page).getByRole('option', { selected: true })).toHaveAccessibleName(/chosen$/);
  await page.reload();
  await part(page, 'Guitar').click();
  await page.getByRole('button', { name: 'Phrases', exact: true }).click();
  await drawer.getByLabel('Find phrases by words').fill('summit');
  await expect(field.getByRole('option')).toHaveAccessibleName('Summit call');
});

test('a style is copied, changed, checked, drafted in, and goes as a file', async ({ page }) => {
  await page.getByRole('button', { name: 'Styles', exact: true }).click();
  const drawer = page.getByRole('region', { name: 'Styles' });
  await drawer.getByLabel('Find styles by words').fill('reggae');
  const list = drawer.getByRole('listbox', { name: 'Styles' });
  await list.focus();
  await page.keyboard.press('ArrowDown');
  await drawer.getByRole('button', { name: 'Make my own of it …' }).click();
  await drawer.getByLabel('Name', { exact: true }).fill('Snowed in');
  await drawer.getByRole('textbox', { name: 'Bass' }).fill('one = R..Q............ @80\ntwo = R............... @90');
  await drawer.getByRole('button', { name: 'Save as my own' }).click();
  await expect(drawer.getByRole('alert')).toContainText('bass › 1 › steps');
  await drawer.getByRole('textbox', { name: 'Bass' }).fill('one = R............... @80\ntwo = R............... @90');
  await drawer.getByRole('button', { name: 'Save as my own' }).click();
  await expect(list.getByRole('option', { selected: true })).toContainText('Snowed in');
  const downloading = page.waitForEvent('download');
  await drawer.getByRole('button', { name: 'As a file' }).click();
  const text = readFileSync(await (await downloading).path(), 'utf8');
  await drawer.getByRole('button', { name: 'Apply to the song' }).click();
  await expect(page.getByLabel('Style', { exact: true })).toHaveValue('Snowed in');

  await part(page, 'Bass').click();
  await bench(page).getByRole('spinbutton', { name: 'Busyness' }).click();
  await bench(page).getByRole('slider', { name: 'Busyness' }).fill('1');
  await bench(page).getByRole('slider', { name: 'Syncopation' }).fill('0');
  await bench(page).getByRole('button', { name: 'Back to the sentence' }).click();
  const before = await takes(page).getByRole('option').count();
  await bench(page).getByRole('button', { name: 'Draft takes' }).click();
  await expect.poll(() => takes(page).getByRole('option').count(), { timeout: 20_000 }).toBeGreaterThan(before);
  // Its own figures: one note in each of the eight bars.
  await expect(takes(page).getByRole('option', { selected: true })).toHaveAccessibleName(/, 8 notes,/);

  // The song carries its style, and the shelf has it after a reload; a damaged file is told and changes nothing.
  await page.reload();
  await expect(page.getByLabel('Style', { exact: true })).toHaveValue('Snowed in');
  await page.getByRole('button', { name: 'Styles', exact: true }).click();
  await drawer
    .getByLabel('Open a style file')
    .setInputFiles({
      name: 'broken.fendro-style',
      mimeType: 'application/json',
      buffer: Buffer.from(text.replace('"R..............."', '"R..Z"')),
    });
  await expect(drawer.getByRole('alert').first()).toContainText('broken.fendro-style was not opened');
  await drawer
    .getByLabel('Open a style file')
    .setInputFiles({ name: 'snowed-in.fendro-style', mimeType: 'application/json', buffer: Buffer.from(text) });
  await expect(drawer.getByRole('alert')).toHaveCount(0);
  await drawer.getByLabel('Find styles by words').fill('snowed');
  await expect(list.getByRole('option')).toHaveCount(2);
  await list.getByRole('option').first().click();
  await drawer.getByRole('button', { name: 'Remove' }).click();
  await expect(list.getByRole('option')).toHaveCount(1);
});

test('an ensemble is split into its voices, and they go as files of their own', async ({ page }) => {
  await view(page, /^Chorus, 8 bars, 3/);
  await page.getByRole('button', { name: 'Add a part' }).click();
  await page.getByRole('menuitem', { name: 'Ensemble', exact: true }).click();
  await bench(page).getByRole('button', { name: 'Draft takes' }).click();
  await expect(takes(page).getByRole('option')).toHaveCount(8, { timeout: 20_000 });
  await expect(takes(page).getByRole('option', { selected: true })).toHaveAccessibleName(/chosen$/);
  await page.keyboard.press('Control+e');
  await expect(page.getByRole('cell', { name: 'Ensemble, voice 2 alone' })).toBeVisible();
  await page.getByLabel('each voice of an ensemble as a part of its own').uncheck();
  await expect(page.getByRole('cell', { name: 'Ensemble alone' })).toBeVisible();
  await page.getByRole('link', { name: 'Fendro, to the song' }).click();
  await part(page, 'Ensemble').click();
  await bench(page).getByRole('button', { name: 'A part for each voice' }).click();
  await expect(part(page, 'Ensemble, voice 3')).toBeVisible();
  const chorus = await delivered(page, 'Barometer Falling - Chorus.mid');
  expect(chorus.notes.filter(([track]) => track === 'Ensemble, voice 1').length).toBeGreaterThan(3);
  await page.keyboard.press('Control+z');
  await expect(part(page, 'Ensemble')).toHaveCount(1);
});

test('a bass takes a way, a turnaround goes into the last bars, and the feel of a style sounds and is handed over', async ({
  page,
}) => {
  await view(page, /^Verse, 8 bars, 2/);
  await part(page, 'Bass').click();
  await bench(page).getByRole('spinbutton', { name: 'Busyness' }).click();
  await bench(page).getByLabel('Way of the bass').selectOption('walking');
  await bench(page).getByRole('slider', { name: 'Syncopation' }).fill('0');
  await bench(page).getByRole('button', { name: 'Back to the sentence' }).click();
  const before = await takes(page).getByRole('option').count();
  await bench(page).getByRole('button', { name: 'Draft takes' }).click();
  await expect.poll(() => takes(page).getByRole('option').count(), { timeout: 20_000 }).toBeGreaterThan(before);
  await bench(page).getByRole('button', { name: 'Choose', exact: true }).click();
  await expect(takes(page).getByRole('option', { selected: true })).toHaveAccessibleName(/chosen$/);
  const bassStarts = async (): Promise<number[]> =>
    (await delivered(page, 'Barometer Falling - Verse.mid')).notes
      .filter(([track]) => track === 'Bass')
      .map(([, start]) => start);
  const straight = await bassStarts();
  expect(straight.length).toBeGreaterThanOrEqual(31);
  expect(straight.every((start) => start % 480 === 0)).toBe(true);

  // Reggae sits its bass 14 ticks behind the beat; half of its feel is half of that.
  await find(page, page.getByLabel('Style', { exact: true }), 'Reggae');
  expect(await bassStarts()).toEqual(straight.map((start) => start + 14));
  await page.getByRole('button', { name: 'Mix', exact: true }).click();
  await page.getByRole('slider', { name: 'Feel of the style' }).fill('50');
  expect(await bassStarts()).toEqual(straight.map((start) => start + 7));

  await page.getByRole('button', { name: 'Chords', exact: true }).click();
  await selectBars(page, 'Bass', 7, 8);
  await page.getByRole('button', { name: 'Chords', exact: true }).click();
  await bench(page).getByRole('tab', { name: 'Pick' }).click();
  await bench(page).getByLabel('Find progressions by words').fill('turnaround minor falling');
  const found = bench(page).getByRole('listbox', { name: 'Progressions' });
  await expect(found.getByRole('option')).toHaveCount(1);
  await expect(bench(page).getByText('Goes into bars 7–8.')).toBeVisible();
  await found.focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Bar 8 beat 3, A7/ })).toBeVisible();
});
