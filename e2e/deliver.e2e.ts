import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { chordsIn, layOut, NOTHING_HEARD } from '@fendro/core/song/resolve';
import { chordSymbol, NO_CHORD } from '@fendro/core/theory/chord';
import { violations } from './support/accessibility';
import { symbols } from './support/chords';
import { demoMusic } from './support/demo';
import { expect, openFendro, test, withoutGuide } from './support/test';

/** What goes out beside MIDI files: the lead sheet, the chord chart on paper and as text. */

async function downloaded(page: Page, button: string): Promise<{ readonly name: string; readonly text: string }> {
  const downloading = page.waitForEvent('download');
  await page.getByRole('button', { name: button, exact: true }).click();
  const download = await downloading;
  return { name: download.suggestedFilename(), text: readFileSync(await download.path(), 'utf8') };
}

test('the chord chart goes out as text that comes back, and on paper; the lead sheet as MusicXML', async ({ page }) => {
  await withoutGuide(page);
  await openFendro(page);
  await page.getByRole('link', { name: 'Deliver', exact: true }).click();
  await page.getByRole('tab', { name: 'Chord chart' }).click();
  const paper = page.getByRole('article', { name: 'Chord chart' });
  await expect(paper.getByRole('heading', { level: 2, name: 'Barometer Falling' })).toBeVisible();
  expect(await violations(page)).toEqual([]);

  // On paper there is the chart alone, in black, whatever the screen shows.
  const header = page.getByRole('banner');
  await expect(header).toBeVisible();
  await page.emulateMedia({ media: 'print' });
  await expect(paper).toBeVisible();
  await expect(header).toBeHidden();
  await expect(page.getByRole('button', { name: 'Save as text' })).toBeHidden();
  await expect(paper).toHaveCSS('color', 'rgb(0, 0, 0)');
  await page.emulateMedia({ media: 'screen' });

  // The text says every chord of every bar that was written out, and makes a song again.
  const { name, text } = await downloaded(page, 'Save as text');
  expect(name).toBe('Barometer Falling - Chords.txt');
  const { score, takes } = demoMusic;
  const wanted = new Set(
    layOut(score).flatMap(({ section }) =>
      chordsIn(section, takes, NOTHING_HEARD).map(({ chord }) => (chord ? chordSymbol(chord) : NO_CHORD)),
    ),
  );
  const printed = await paper.locator('fd-chord-symbol').allTextContents();
  expect(new Set(printed.map((symbol) => symbol.trim().replaceAll(/\s/g, '')))).toEqual(wanted);
  await page.getByRole('tab', { name: 'Lead sheet' }).click();
  await expect(page.getByRole('status').filter({ hasText: /bars on paper/ })).toBeVisible();
  const notes = page.getByRole('img', { name: 'Notes of Melody' });
  await expect(notes.locator('svg').first()).toBeVisible();
  const heads = await notes.locator('.vf-stavenote').count();
  expect(heads).toBeGreaterThan(50);
  expect(await violations(page)).toEqual([]);
  const sheet = await downloaded(page, 'Save as MusicXML');
  expect(sheet.name).toBe('Barometer Falling - Melody - Lead sheet.musicxml');
  const read = await page.evaluate((xml) => {
    const document = new XMLHttpRequest();
    document.open('GET', URL.createObjectURL(new Blob([xml], { type: 'text/xml' })), false);
    document.send();
    const found = document.responseXML;
    return {
      root: found?.documentElement.localName,
      title: found?.querySelector('work-title')?.textContent,
      bars: found?.querySelectorAll('measure:not([implicit])').length,
      notes: found?.querySelectorAll('note > pitch').length,
      harmonies: found?.querySelectorAll('harmony').length,
      marks: [...(found?.querySelectorAll('rehearsal') ?? [])].map(({ textContent }) => textContent),
    };
  }, sheet.text);
  expect(read).toMatchObject({ root: 'score-partwise', title: 'Barometer Falling' });
  expect(read.marks[0]).toMatch(/Intro/);
  expect(read.notes).toBeGreaterThan(50);
  expect(read.harmonies).toBeGreaterThan(10);
  await expect(page.getByRole('status').filter({ hasText: 'was handed over' })).toBeVisible();

  await page.getByRole('link', { name: 'Songs', exact: true }).click();
  await page.getByRole('link', { name: /^Bring in/ }).click();
  await page.getByRole('tab', { name: 'Chords as text' }).click();
  await page.getByRole('textbox', { name: 'Chord chart' }).fill(text);
  await page.getByRole('button', { name: 'Make it a song of its own' }).click();
  await expect(page.getByLabel('Song title')).toHaveValue('Barometer Falling');
  await page.getByRole('button', { name: 'Chords', exact: true }).click();
  await expect.poll(async () => (await symbols(page)).length).toBeGreaterThan(3);
});

test('what is looped goes into a folder, and after one change only what changed goes there again', async ({ page }) => {
  // A folder of the browser's own stands in for one that a writer would choose.
  await page.addInitScript(() => {
    const studio = async (): Promise<FileSystemDirectoryHandle> =>
      (await navigator.storage.getDirectory()).getDirectoryHandle('Studio', { create: true });
    Object.assign(globalThis, { showDirectoryPicker: studio });
  });
  await withoutGuide(page);
  await openFendro(page);
  await page.getByRole('link', { name: 'Deliver', exact: true }).click();
  const inFolder = (name: string): Promise<readonly string[]> =>
    page.evaluate(async (folder) => {
      const root = await navigator.storage.getDirectory();
      const studio = await root.getDirectoryHandle('Studio');
      const own = await studio.getDirectoryHandle(folder);
      const names: string[] = [];
      for await (const file of (own as unknown as { keys(): AsyncIterable<string> }).keys()) names.push(file);
      return names.sort();
    }, name);
  await page.getByRole('combobox', { name: 'What is handed over' }).selectOption({ label: 'What is looped: Verse' });
  await expect(page.getByRole('cell', { name: 'Barometer Falling - Verse.mid', exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Into a folder …' }).click();
  await expect(
    page.getByRole('status').filter({ hasText: 'into the folder “Barometer Falling - Verse”' }),
  ).toBeVisible();
  expect(await inFolder('Barometer Falling - Verse')).toContain('01 Melody - Verse.mid');

  await page.getByRole('combobox', { name: 'What is handed over' }).selectOption({ index: 0 });
  await expect(page.getByRole('cell', { name: 'Barometer Falling.mid', exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Into a folder …' }).click();
  await expect(page.getByText('Nothing has changed since.')).toBeVisible();
  const all = await inFolder('Barometer Falling');
  expect(all.length).toBeGreaterThan(10);

  // One part is made softer: the song, that part and the sections that it plays in go again, after a way to the sheet.
  await page.getByRole('link', { name: 'Fendro, to the song' }).click();
  await page.getByRole('button', { name: /^Strings,/ }).click();
  await page.keyboard.press('-');
  await page.getByRole('link', { name: 'Deliver', exact: true }).click();
  const again = page.getByRole('button', { name: /^Only what changed \(\d+\), into “Studio”$/ });
  await expect(page.getByRole('cell', { name: /Strings alone.*changed/ })).toBeVisible();
  await expect(page.getByRole('cell', { name: /Bass alone/ })).not.toContainText('changed');
  const marked = await page.getByRole('cell', { name: /changed$/ }).count();
  expect(marked).toBeLessThan(all.length / 2 + 4);
  await again.click();
  await expect(page.getByText('Nothing has changed since.')).toBeVisible();
  await expect(page.getByRole('status').filter({ hasText: `${marked} files were handed over` })).toBeVisible();
});
