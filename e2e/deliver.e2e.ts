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
  expect((await symbols(page)).length).toBeGreaterThan(3);
});
