import { readFileSync } from 'node:fs';
import { requestAgain } from '@fendro/core/compose/asking';
import { draft } from '../core/compose/draft';
import { openSong } from '../core/song/song-file';
import { demoTakes } from './support/demo';
import { forgetSound, loudness, onsets, peak, secondsHeard } from './support/recorder';
import { clickAsItComes, expect, furtherItems, openFendro, startSong, test, withoutGuide } from './support/test';

test.beforeEach(async ({ page }) => {
  await withoutGuide(page);
  await openFendro(page);
});

test(
  'takes are heard, judged and chosen from the keyboard, and all of it can be undone',
  { tag: '@sound' },
  async ({ page }) => {
    const takes = page.getByRole('listbox', { name: 'Takes' });
    const selected = takes.getByRole('option', { selected: true });
    await expect(selected).toHaveAccessibleName(/^Take 1 of 6, kept, \d+ notes, .*chosen$/);
    await page.keyboard.press('ArrowDown');
    await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible({ timeout: 20_000 });
    await expect(selected).toHaveAccessibleName(/^Take 2/);
    await expect.poll(() => loudness(page, 0.5), { timeout: 20_000 }).toBeGreaterThan(0.01);

    await page.keyboard.down('c');
    await expect(selected).toHaveAccessibleName(/^Take 1/);
    await page.keyboard.up('c');
    await expect(selected).toHaveAccessibleName(/^Take 2/);

    await page.keyboard.press('n');
    await expect(selected).toHaveAccessibleName(/^Take 3 of 6/);
    await expect.poll(() => furtherItems(page)).toContain('Show 1 discarded');
    await page.keyboard.press('Enter');
    await expect(selected).toHaveAccessibleName(/chosen$/);
    await page.keyboard.press('Control+z');
    await expect(selected).toHaveAccessibleName(/^Take 1 .*chosen$/);
    await page.keyboard.press('Control+z');
    await expect.poll(() => furtherItems(page)).not.toContain('Show 1 discarded');
    await page.keyboard.press('Control+Shift+z');
    await page.keyboard.press('Control+Shift+z');
    await expect.poll(() => furtherItems(page)).toContain('Show 1 discarded');

    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Escape');
    await expect(selected).toHaveAccessibleName(/chosen$/);
    await page.keyboard.press(' ');
    await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  },
);

test('a reload brings everything back, heard takes among it', async ({ page }) => {
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await page.getByLabel('Song title').fill('Barometer Rising');
  await page.getByLabel('Song title').press('Enter');
  await page.reload();
  await expect(page.getByLabel('Song title')).toHaveValue('Barometer Rising');
  await expect(
    page.getByRole('listbox', { name: 'Takes' }).getByRole('option', { name: /^Take 3 of 6.*chosen$/ }),
  ).toBeVisible();
});

test('drafts in the browser are the same notes as in Node, and never what was shown before', async ({ page }) => {
  for (const part of ['Melody', 'Guitar', 'Bass', 'Drums']) {
    await page.getByRole('button', { name: new RegExp(`^${part},`) }).click();
    await page.getByRole('button', { name: 'Draft takes' }).click();
    await expect(page.getByRole('listbox', { name: 'Takes' }).getByRole('option')).toHaveCount(
      demoTakes('verse', part).length + 8,
    );
  }
  await page.getByRole('link', { name: 'Deliver' }).click();
  await page.getByRole('tab', { name: 'Song file' }).click();
  const downloading = page.waitForEvent('download');
  await page.getByRole('button', { name: /song file/ }).click();
  const opened = openSong(JSON.parse(readFileSync(await (await downloading).path(), 'utf8')));
  if (!opened.ok) throw new Error(opened.reason);
  const { score, ledger } = opened.song;
  const { takes } = ledger;
  const drafted = Object.values(takes).filter(({ origin }) => origin.asking !== null);
  const shipped = demoTakes().filter(({ origin }) => origin.asking !== null);
  expect(drafted.length).toBe(shipped.length + 4 * 8);
  const texts = drafted.map((take) => {
    const again = draft(requestAgain({ score, takes }, take)!, 0);
    if (!again.ok) throw new Error(again.reason);
    expect(again.content.of === 'part' ? again.content.notes : again.content.chords).toEqual(
      take.of === 'part' ? take.notes.map(({ id: _id, ...note }) => note) : take.chords,
    );
    return take.of === 'part' && take.section === 'verse'
      ? JSON.stringify([take.part, take.notes.map(({ start, duration, pitch }) => [start, duration, pitch])])
      : take.id;
  });
  expect(new Set(texts).size).toBe(texts.length);
});

test('the metronome strikes on the beat, and stopping leaves nothing sounding', { tag: '@sound' }, async ({ page }) => {
  await startSong(page, {
    title: 'Clockwork',
    key: 'C',
    scale: 'Major',
    style: 'Singer-songwriter',
    metre: '4/4',
    tempo: '120',
  });
  await page.getByRole('button', { name: 'Metronome' }).click();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect.poll(async () => (await onsets(page)).length, { timeout: 20_000 }).toBeGreaterThan(10);
  const struck = (await onsets(page)).slice(1);
  const gaps = struck.slice(1).map((time, index) => time - struck[index]!);
  for (const gap of gaps) expect(Math.abs(gap - 0.5)).toBeLessThan(0.004);
  await page.getByRole('button', { name: 'Stop' }).click();
  // What rings on dies away; then two and a half seconds of the sound itself, whatever they take here, are still.
  await expect.poll(() => peak(page, 0.4), { timeout: 20_000 }).toBeLessThan(0.001);
  await forgetSound(page);
  await expect.poll(() => secondsHeard(page), { timeout: 20_000 }).toBeGreaterThan(2.5);
  expect(await peak(page, 2.5)).toBeLessThan(0.001);
});

test('quiet and alone change what sounds', { tag: '@sound' }, async ({ page }) => {
  await page.getByRole('button', { name: 'Mix', exact: true }).click();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect.poll(() => loudness(page, 0.5), { timeout: 20_000 }).toBeGreaterThan(0.01);
  for (const part of ['Melody', 'Keys', 'Guitar', 'Strings', 'Bass', 'Drums'])
    await page.getByRole('button', { name: `Quiet: ${part}` }).click();
  await expect.poll(() => loudness(page, 0.3), { timeout: 15_000 }).toBeLessThan(0.002);
  await page.getByRole('button', { name: 'Quiet: Drums' }).click();
  await expect.poll(() => loudness(page, 1), { timeout: 20_000 }).toBeGreaterThan(0.003);
  await page.getByRole('button', { name: 'Hear alone: Strings' }).click();
  await expect.poll(() => loudness(page, 0.3), { timeout: 15_000 }).toBeLessThan(0.002);
  await expect(page.getByRole('meter', { name: 'Sounding level of Drums' })).toHaveAttribute('aria-valuenow', '0', {
    timeout: 10_000,
  });
});

test('a take switched while playing comes in without a gap', { tag: '@sound' }, async ({ page }) => {
  await page.keyboard.press('ArrowDown');
  await expect.poll(() => loudness(page, 0.5), { timeout: 20_000 }).toBeGreaterThan(0.01);
  for (let press = 0; press < 6; press++) {
    await forgetSound(page);
    await page.keyboard.press(press % 2 === 0 ? 'ArrowDown' : 'ArrowUp');
    await expect.poll(() => secondsHeard(page), { timeout: 20_000 }).toBeGreaterThan(0.7);
    expect(await loudness(page, 0.4)).toBeGreaterThan(0.004);
  }
});

test('a take picture can be dragged out as a MIDI file', async ({ page }) => {
  const box = (await page.getByRole('listbox', { name: 'Takes' }).getByRole('option').first().boundingBox())!;
  await page.mouse.move(box.x + 80, box.y + 20);
  // What writes files is fetched when the pointer comes near, or before.
  await expect(async () => {
    const offered = page.evaluate(
      () =>
        new Promise<string>((resolve) => {
          document.addEventListener(
            'dragstart',
            (event) => {
              resolve(event.dataTransfer?.getData('DownloadURL') ?? '');
            },
            { once: true },
          );
        }),
    );
    await page.mouse.move(box.x + 80, box.y + 20);
    await page.mouse.down();
    await page.mouse.move(box.x - 60, box.y + 60, { steps: 6 });
    await page.mouse.up();
    expect(await offered).toMatch(/^audio\/midi:Barometer Falling - Melody - Verse\.mid:blob:/);
  }).toPass({ timeout: 30_000 });

  // Selected bars are dragged out by their name.
  await page
    .getByRole('region', { name: 'Sheet' })
    .getByRole('button', { name: /^Melody,/ })
    .click();
  await page.keyboard.press('Shift+ArrowRight');
  const grip = page.getByRole('toolbar', { name: /^Bars/ }).locator('.grip');
  const from = (await grip.boundingBox())!;
  const offered = page.evaluate(
    () =>
      new Promise<string>((resolve) => {
        document.addEventListener('dragstart', (event) => {
          resolve(event.dataTransfer?.getData('DownloadURL') ?? '');
        });
      }),
  );
  await page.mouse.move(from.x + 4, from.y + 4);
  await page.mouse.down();
  await page.mouse.move(from.x - 60, from.y + 60, { steps: 6 });
  await page.mouse.up();
  expect(await offered).toMatch(/^audio\/midi:Barometer Falling - Melody - Verse, Bars? [\d–]+\.mid:blob:/);
});

test('drafting can be cancelled and leaves what was made', async ({ page }) => {
  // The data saver is on: no worker starts before it is needed.
  expect(page.workers()).toHaveLength(0);
  await page.getByRole('button', { name: 'Add a section' }).click();
  await page.getByRole('menuitem', { name: 'New bridge' }).click();
  await page.getByRole('spinbutton', { name: 'Bars', exact: true }).fill('64');
  await page.getByRole('spinbutton', { name: 'Bars', exact: true }).press('Enter');
  const cancelled = clickAsItComes(page.getByRole('complementary', { name: 'Bench' }), 'Cancel');
  await page.getByRole('button', { name: 'Draft the band' }).click();
  await cancelled;
  await expect(page.getByRole('button', { name: 'Draft takes' })).toBeEnabled();
  await expect(page.getByRole('button', { name: 'Cancel' })).toHaveCount(0);
});
