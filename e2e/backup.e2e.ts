import { readFileSync } from 'node:fs';
import { expect, startSong, test, withoutGuide } from './support/test';

test('all songs and the shelf go into one file, and come back beside what is there', async ({ page }) => {
  await withoutGuide(page);
  const song = { title: 'Fog Log', key: 'C', scale: 'Major', style: 'Folk', metre: '4/4', tempo: '96' };
  await startSong(page, song);
  await page.getByRole('link', { name: 'Songs' }).click();
  const downloading = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save everything as one file' }).click();
  const download = await downloading;
  expect(download.suggestedFilename()).toMatch(/^Fendro - everything - \d{4}-\d\d-\d\d\.zip$/);
  await expect(page.getByText('2 songs and the shelf are in one file.').last()).toBeVisible();
  const buffer = readFileSync(await download.path());

  await page.getByRole('button', { name: 'Barometer Falling', exact: true }).click();
  await expect(page.getByLabel('Song title')).toHaveValue('Barometer Falling');
  await page.getByRole('link', { name: 'Songs' }).click();
  await page.getByRole('button', { name: 'Delete Fog Log' }).click();
  await expect(page.getByRole('button', { name: 'Fog Log', exact: true })).toBeHidden();

  await page.getByLabel('Open a song file').setInputFiles({ name: 'all.zip', mimeType: 'application/zip', buffer });
  await expect(page.getByText(/^1 song came back; 1 was here already and stayed as it is;/).last()).toBeVisible();
  // It is in storage: a reload shows it too.
  await page.reload();
  await page.getByRole('button', { name: 'Fog Log', exact: true }).click();
  await expect(page.getByLabel('Song title')).toHaveValue('Fog Log');
});
