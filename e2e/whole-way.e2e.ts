import { readFileSync } from 'node:fs';
import { unzipSync } from 'fflate';
import { loudness } from './support/recorder';
import { dumpWithMidicsv, readWithMido, renderWithFluidsynth, saveFile } from './support/midi';
import { draftBand, expect, openFendro, startSong, test, withoutGuide } from './support/test';

// Shipped sounds, fetched ahead: this test runs with users' settings.
test.use({ plainSounds: null, savesData: false });

test('from a key to a song file', { tag: '@sound' }, async ({ page }) => {
  test.setTimeout(180_000);
  await withoutGuide(page);
  await openFendro(page);
  // The draft worker and the decode workers start before they are needed.
  await expect.poll(() => page.workers().length).toBeGreaterThan(2);
  await startSong(page, {
    title: 'Snow on the Mast',
    key: 'E♭',
    scale: 'Mixolydian',
    style: 'Slow ballad',
    metre: '6/8',
    tempo: '76',
  });
  const bench = page.getByRole('complementary', { name: 'Bench' });
  const takes = bench.getByRole('listbox', { name: 'Takes' });
  const draft = bench.getByRole('button', { name: 'Draft takes' });

  await test.step('chords are drafted, and one is typed over', async () => {
    await page.getByRole('spinbutton', { name: 'Bars', exact: true }).fill('4');
    await page.getByRole('spinbutton', { name: 'Bars', exact: true }).press('Enter');
    await draft.click();
    await expect(takes.getByRole('option')).toHaveCount(8);
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Enter');
    await expect(takes.getByRole('option', { name: /^Take 2 of 8.*chosen$/ })).toBeVisible();
    await page.getByRole('button', { name: /^Bar 3 beat 1,/ }).click();
    await page.getByLabel('Chord', { exact: true }).fill('Db/F');
    await page.getByLabel('Chord', { exact: true }).press('Enter');
    await page.keyboard.press('Escape');
    await expect(page.getByRole('button', { name: 'Bar 3 beat 1, D♭/F' })).toBeVisible();
  });

  await test.step('four parts are drafted, eight takes each, and three auditioned while looping', async () => {
    await page.getByRole('button', { name: 'Stop' }).click();
    for (const part of ['Melody', 'Keys', 'Bass', 'Drums']) {
      await page.getByRole('button', { name: new RegExp(`^${part},`) }).click();
      await draft.click();
      await expect(takes.getByRole('option')).toHaveCount(8);
    }
    await page.getByRole('button', { name: 'Play', exact: true }).click();
    await expect.poll(() => loudness(page, 0.5), { timeout: 20_000 }).toBeGreaterThan(0.01);
    for (const part of ['Melody', 'Keys', 'Bass']) {
      await page.getByRole('button', { name: new RegExp(`^${part},`) }).click();
      await takes.focus();
      await page.keyboard.press('ArrowDown');
      await expect(takes.getByRole('option', { selected: true })).toHaveAccessibleName(/^Take 2 of 8/);
      await page.keyboard.press('ArrowDown');
      await expect(takes.getByRole('option', { selected: true })).toHaveAccessibleName(/^Take 3 of 8/);
      expect(await loudness(page, 0.3)).toBeGreaterThan(0.003);
    }
    await page.keyboard.press('y');
    await page.keyboard.press('ArrowUp');
    await page.keyboard.press('Shift+Enter');
    await expect(page.getByRole('button', { name: /Choose all heard/ })).toBeHidden();
  });

  await test.step('verse, chorus, verse', async () => {
    await page.getByRole('button', { name: 'Add a section' }).click();
    await page.getByRole('menuitem', { name: 'New chorus' }).click();
    await page.getByRole('spinbutton', { name: 'Bars', exact: true }).fill('4');
    await page.getByRole('spinbutton', { name: 'Bars', exact: true }).press('Enter');
    await draftBand(page);
    await page.getByRole('button', { name: 'Add a section' }).click();
    await page.getByRole('menuitem', { name: 'Verse again' }).click();
    await expect(
      page.getByRole('navigation', { name: 'Running order' }).getByRole('button', { name: /bars, \d of 3/ }),
    ).toHaveText([/Verse/, /Chorus/, /Verse/]);
    if (await page.getByRole('button', { name: 'Stop' }).isVisible())
      await page.getByRole('button', { name: 'Stop' }).click();
  });

  await test.step('other programs read what is delivered', async () => {
    await page.keyboard.press('Control+e');
    const downloading = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Everything in one zip' }).click();
    const files = unzipSync(new Uint8Array(readFileSync(await (await downloading).path())));
    expect(Object.keys(files)).toEqual(
      expect.arrayContaining(['Snow on the Mast.mid', '01 Melody.mid', 'Snow on the Mast - Verse.mid']),
    );
    const song = saveFile(files['Snow on the Mast.mid']!, 'mid');
    const read = readWithMido(song);
    expect(read).toMatchObject({
      type: 1,
      metre: [6, 8],
      key: 'Ab',
      markers: ['Verse', 'Chorus', 'Verse'],
      hanging: 0,
    });
    expect(read.tempo).toBeCloseTo(76, 2);
    expect(read.names).toEqual(['Snow on the Mast', 'Melody', 'Keys', 'Strings', 'Bass', 'Drums']);
    expect(read.notes.filter(([track]) => track === 'Drums').every(([, , , , channel]) => channel === 9)).toBe(true);
    expect(read.notes.every(([, start, , duration]) => start >= 0 && duration > 0)).toBe(true);
    // The bass stands on F under the chord that was typed over, in the third bar of both verses.
    const bass = read.notes.filter(([track]) => track === 'Bass');
    const dump = dumpWithMidicsv(song);
    // A pick-up has a bar of its own before the first: bars are counted from where the first verse is marked.
    const first = Number(dump.find((line) => line.includes('Marker_t'))?.split(',')[1] ?? 0);
    for (const bar of [2, 10]) expect((bass.find((note) => note[1] === first + bar * 1440)?.[2] ?? 0) % 12).toBe(5);
    expect(dump.filter((line) => line.includes('Note_on_c')).length).toBe(read.notes.length);
    expect(dump.filter((line) => line.includes('Note_off_c')).length).toBe(read.notes.length);
    expect(dump.some((line) => line.includes('Key: E'))).toBe(true);
    const { seconds, peak } = renderWithFluidsynth(song);
    const expected = (12 * 1440 * 60) / (76 * 480);
    expect(seconds).toBeGreaterThan(expected - 1);
    expect(seconds).toBeLessThan(expected + 8);
    expect(peak).toBeGreaterThan(0.05);
  });
});
