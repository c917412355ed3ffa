import { symbols } from './support/chords';
import { violations } from './support/accessibility';
import { pluckedChords } from './support/recording';
import { expect, openFendro, test, withoutGuide } from './support/test';

/** C Am F G, twice, after a third of a second. */
const ROUND = [
  [36, 60, 64, 67],
  [45, 57, 60, 64],
  [41, 57, 60, 65],
  [43, 55, 59, 62],
];
const recording = pluckedChords([...ROUND, ...ROUND], 126, 0.34);

test('a recording is listened to, set right, and becomes a song with the recording under it', async ({ page }) => {
  await withoutGuide(page);
  await openFendro(page);
  await page.getByRole('link', { name: 'Songs' }).click();
  await page.getByRole('link', { name: /^Bring in/ }).click();
  const choose = page.getByLabel('Choose a MIDI file');
  const file = { name: 'harbour rehearsal.wav', mimeType: 'audio/wav', buffer: recording };

  // It can be given up on the way, and a file that is no sound is refused; neither changes anything.
  await choose.setInputFiles(file);
  await expect(page.getByRole('progressbar', { name: 'Listening to the recording' })).toBeVisible();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByText('Listening …')).toBeHidden();
  await choose.setInputFiles({ ...file, name: 'torn.wav', buffer: Buffer.from(recording.subarray(0, 30)) });
  await expect(page.getByRole('alert')).toContainText('torn.wav: the browser cannot read its sound');

  await choose.setInputFiles(file);
  const heard = page.getByRole('region', { name: 'What was heard' });
  const chords = heard.getByRole('list', { name: 'Chords that were heard' }).getByRole('listitem');
  await expect(chords).toHaveText(['C', 'Am', 'F', 'G', 'C', 'Am', 'F', 'G'], { timeout: 60_000 });
  await expect(page.getByText(/8 bars of 4\/4, 126 beats a minute.*C major/)).toBeVisible();
  expect(await violations(page)).toEqual([]);

  // Each thing is set right by itself, and back.
  await heard.getByRole('button', { name: 'Half as fast' }).click();
  await expect(page.getByText(/4 bars of 4\/4, 63 beats a minute/)).toBeVisible();
  await heard.getByRole('textbox', { name: 'Tempo of the recording' }).fill('126');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/8 bars of 4\/4, 126 beats a minute/)).toBeVisible();
  await heard.getByRole('button', { name: 'A beat later' }).click();
  await expect(page.getByText(/9 bars of 4\/4/)).toBeVisible();
  await heard.getByRole('button', { name: 'A beat earlier' }).click();
  await expect(page.getByText(/8 bars of 4\/4/)).toBeVisible();

  await page.getByRole('button', { name: 'Make it a song of its own' }).click();
  await expect(page.getByLabel('Song title')).toHaveValue('harbour rehearsal');
  await expect
    .poll(async () => (await symbols(page)).join(', '))
    .toBe('1.1 C, 2.1 Am, 3.1 F, 4.1 G, 5.1 C, 6.1 Am, 7.1 F, 8.1 G');
  const guide = page.getByRole('region', { name: 'Guide' });
  await page.getByRole('button', { name: 'Guide', exact: true }).click();
  await expect(guide.getByRole('img')).toHaveCount(1);
  await expect(page.getByText('Saved')).toBeVisible();
  await page.reload();
  await expect(page.getByLabel('Song title')).toHaveValue('harbour rehearsal');
  await page.getByRole('button', { name: 'Guide', exact: true }).click();
  await expect(guide.getByRole('textbox', { name: 'Name of harbour rehearsal' })).toHaveValue('harbour rehearsal');
  await expect(guide.getByRole('img')).toHaveCount(1);
});
