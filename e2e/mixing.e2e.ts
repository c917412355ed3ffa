import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { violations } from './support/accessibility';
import { readWithMido, saveFile } from './support/midi';
import { loudness } from './support/recorder';
import { expect, openFendro, test, withoutGuide } from './support/test';

/** Tones, instruments together, the whole song at a glance, drawn tempos and chords as blocks: on the page and in files. */

const sheet = (page: Page) => page.getByRole('region', { name: 'Sheet' });
const order = (page: Page) => page.getByRole('navigation', { name: 'Running order' });
const mix = (page: Page) => page.getByRole('region', { name: 'Mix' });
const undoes = (page: Page, name: string) => expect(page.getByRole('button', { name: `Undo: ${name}` })).toBeEnabled();

/** The song as an independent reader finds it; comes back to the song. */
async function delivered(page: Page, prepare: () => Promise<void> = () => Promise.resolve()) {
  await page.keyboard.press('Control+e');
  await prepare();
  const downloading = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Download Barometer Falling.mid', exact: true }).click();
  const read = readWithMido(saveFile(new Uint8Array(readFileSync(await (await downloading).path())), 'mid'));
  await page.getByRole('link', { name: 'Fendro, to the song' }).click();
  await expect(sheet(page)).toBeVisible();
  return read;
}

/** What controllers of a track say at its beginning. */
const settings = (file: Awaited<ReturnType<typeof delivered>>, track: string): Record<number, number> =>
  Object.fromEntries(
    file.controllers
      .filter(([name, at]) => name === track && at === 0)
      .map(([, , controller, value]) => [controller, value]),
  );

test.beforeEach(async ({ page }) => {
  await withoutGuide(page);
  await openFendro(page);
});

test(
  'a part gets a tone and a second instrument, the whole is turned down: heard, delivered and back',
  { tag: '@sound' },
  async ({ page }) => {
    await sheet(page).getByRole('button', { name: 'Mix', exact: true }).click();
    await mix(page).getByRole('button', { name: 'Tone and instruments of Melody' }).click();
    const slide = async (name: string, key: string, times: number): Promise<void> => {
      await mix(page).getByRole('slider', { name, exact: true }).focus();
      for (let step = 0; step < times; step++) await page.keyboard.press(key);
    };
    await slide('Brightness of Melody', 'Home', 1);
    await slide('Room of Melody', 'End', 1);
    await mix(page).getByRole('combobox', { name: 'A further instrument for Melody' }).click();
    await page.keyboard.type('violin');
    await page.keyboard.press('Enter');
    await expect(mix(page).getByRole('button', { name: 'Take instrument 2 off Melody' })).toBeVisible();
    await mix(page).getByRole('combobox', { name: 'Octave of instrument 2 of Melody' }).selectOption('an octave lower');
    await slide('Level of all together', 'ArrowLeft', 20);
    await undoes(page, 'set the level of the whole');
    expect(await violations(page, { only: 'fd-mix-drawer' })).toEqual([]);
    // Every part is measured by itself; nothing of the demo drowns.
    await expect(mix(page).getByText('Nothing is buried, nothing sits on another')).toBeVisible({ timeout: 30_000 });

    await page.getByRole('button', { name: 'Play', exact: true }).click();
    await expect.poll(() => loudness(page, 0.5), { timeout: 20_000 }).toBeGreaterThan(0.01);
    await expect
      .poll(async () =>
        mix(page).getByRole('meter', { name: 'Sounding level of all together' }).getAttribute('aria-valuenow'),
      )
      .not.toBe('0');
    await page.getByRole('button', { name: 'Stop', exact: true }).click();

    await expect(page.getByText('Saved', { exact: true })).toBeVisible();
    await page.reload();
    await expect(sheet(page)).toBeVisible({ timeout: 20_000 });
    const file = await delivered(page);
    expect(settings(file, 'Melody')).toMatchObject({ 74: 1, 91: 127 });
    expect(settings(file, 'Melody, Violin')).toMatchObject({ 74: 1, 91: 127 });
    const of = (track: string) => file.notes.filter(([name]) => name === track);
    expect(of('Melody, Violin').map(([, start, pitch]) => [start, pitch])).toEqual(
      of('Melody').map(([, start, pitch]) => [start, pitch - 12]),
    );
    expect(of('Melody, Violin')[0]![4]).not.toBe(of('Melody')[0]![4]);
    expect(file.exclusive).toEqual([[0x7f, 0x7f, 4, 1, 0, 102]]);

    const together = await delivered(page, async () => {
      await page.getByRole('checkbox', { name: /^all instruments of a part in one track/ }).check();
      await page.getByRole('checkbox', { name: /^every drum as a track of its own/ }).check();
      await expect(page.getByRole('cell', { name: 'Drums, kick alone' })).toBeVisible({ timeout: 20_000 });
    });
    expect(together.names).not.toContain('Melody, Violin');
    expect(together.names).toContain('Drums, kick');
    expect(together.notes).toHaveLength(file.notes.length);
    expect(new Set(together.notes.filter(([name]) => name === 'Melody').map(([, , , , channel]) => channel)).size).toBe(
      2,
    );
    expect(new Set(together.notes.filter(([name]) => name === 'Drums, kick').map(([, , pitch]) => pitch)).size).toBe(1);
  },
);

test('the whole song is gone over, a tempo drawn, a section played again and made longer, chords moved as blocks', async ({
  page,
}) => {
  await test.step('the whole song at a glance', async () => {
    await order(page)
      .getByRole('button', { name: /whole song at a glance, 56 bars/ })
      .click();
    const overview = page.getByRole('region', { name: 'Whole song' });
    const song = overview.getByRole('application');
    await song.focus();
    await page.keyboard.press('Home');
    for (let bar = 0; bar < 12; bar++) await page.keyboard.press('ArrowRight');
    await expect(overview.getByRole('status')).toHaveText(/^Chorus, bar 1: Melody, \d+ notes, /);
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Enter');
    await expect(order(page).getByRole('button', { name: /^Chorus, 8 bars, 3/ })).toHaveAttribute(
      'aria-current',
      'true',
    );
    await expect(sheet(page).getByRole('button', { name: /^Keys,/ })).toHaveAttribute('aria-pressed', 'true');
    // In the drawing: the bass of the bridge, then closer and out again.
    const box = (await overview.locator('canvas').boundingBox())!;
    await page.mouse.click(box.x + (37.5 * box.width) / 56, box.y + box.height - 45);
    await expect(overview.getByRole('status')).toHaveText(/^Bridge, bar 2: Bass, /);
    await page.mouse.wheel(0, -400);
    await page.mouse.click(box.x + box.width / 2, box.y + box.height - 45);
    await expect(overview.getByRole('status')).not.toHaveText(/^Bridge, bar 2: Bass, /);
    expect(await violations(page, { only: 'fd-overview-drawer' })).toEqual([]);
    await page.keyboard.press('Shift+o');
    await expect(overview).toBeHidden();
  });

  await test.step('a tempo is drawn over the bridge, and the outro plays twice', async () => {
    await page.getByRole('button', { name: 'Energy', exact: true }).click();
    await page.getByRole('menuitem', { name: 'Show the tempo' }).click();
    const strip = page.getByRole('slider', { name: 'Tempo of Bridge' });
    const box = (await strip.boundingBox())!;
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width - 1, box.y + box.height - 1, { steps: 6 });
    await page.mouse.up();
    await undoes(page, 'draw the tempo');
    await order(page)
      .getByRole('button', { name: /^Outro,/ })
      .click();
    await page.getByRole('button', { name: 'What is otherwise in this place' }).click();
    await page.getByRole('menuitem', { name: 'Plays once' }).click();
    await page.getByRole('menuitem', { name: '2 times', exact: true }).click();
    await expect(order(page).getByRole('button', { name: /^Outro,/ })).toHaveCount(2);
  });

  await test.step('the intro gets two bars more, which are drafted', async () => {
    await order(page)
      .getByRole('button', { name: /^Intro,/ })
      .click();
    await page.getByRole('spinbutton', { name: 'Bars' }).fill('6');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('note', { name: 'Missing bars' })).toContainText('Bars 5 to 6 are empty');
    await page.getByRole('button', { name: 'Draft the missing bars' }).click();
    await expect(page.getByRole('button', { name: /^Choose all heard/ })).toBeVisible({ timeout: 30_000 });
    await expect(page.getByRole('note', { name: 'Missing bars' })).toBeHidden({ timeout: 30_000 });
    await page.getByRole('button', { name: /^Choose all heard/ }).click();
  });

  await test.step('chords of the verse are moved as blocks', async () => {
    await order(page)
      .getByRole('button', { name: /^Verse, 8 bars, 2/ })
      .click();
    await sheet(page).getByRole('button', { name: 'Chords', exact: true }).first().click();
    await sheet(page).getByRole('button', { name: 'Close-up', exact: true }).click();
    const blocks = page.getByRole('listbox', { name: 'Chords as blocks' }).getByRole('option');
    await expect(blocks.nth(1)).toHaveAccessibleName('Em, from bar 2, 1 bar');
    const box = (await blocks.nth(1).boundingBox())!;
    await page.mouse.move(box.x + box.width - 3, box.y + 10);
    await page.mouse.down();
    await page.mouse.move(box.x + 1.5 * box.width, box.y + 10, { steps: 5 });
    await page.mouse.up();
    await expect(blocks.nth(1)).toHaveAccessibleName('Em, from bar 2, 1.5 bars');
    await blocks.nth(1).click();
    await page.keyboard.press('Enter');
    await page.keyboard.type('Bb');
    await page.keyboard.press('Enter');
    await expect(blocks.nth(1)).toHaveAccessibleName('B♭, from bar 2, 1.5 bars');
    expect(await violations(page, { only: 'fd-close-up-drawer' })).toEqual([]);
  });

  await test.step('and all of it is in the file', async () => {
    const file = await delivered(page);
    const bar = 1920;
    expect(file.markers.filter((name) => name === 'Outro')).toHaveLength(2);
    expect(file.notes.some(([, start]) => start >= 4 * bar && start < 6 * bar)).toBe(true);
    // The bridge begins two bars later than it did, and slows down to a half in its second half.
    const tempos = file.tempos.filter(([at]) => at >= 38 * bar && at < 46 * bar).map(([, tempo]) => tempo);
    expect(tempos[0]).toBeCloseTo(96, 0);
    expect(Math.min(...tempos)).toBeLessThan(56);
    expect(file.tempos.find(([at]) => at >= 46 * bar)![1]).toBeCloseTo(96, 0);
  });
});
