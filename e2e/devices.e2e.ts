import type { BrowserContext, Page } from '@playwright/test';
import { violations } from './support/accessibility';
import { symbols } from './support/chords';
import { loudness, soundCameLater, watchSound } from './support/recorder';
import { expect, notice, openFendro, test, withoutGuide } from './support/test';

/** Devices, with those that come with Fendro: keys that play, controls that learn, clocks that lead and follow. */

const devices = async (page: Page): Promise<void> => {
  await page.getByRole('link', { name: 'Devices' }).click();
  await expect(page.getByRole('heading', { name: 'Devices', level: 1 })).toBeVisible();
};
const toSong = (page: Page): Promise<void> => page.getByRole('link', { name: 'Fendro, to the song' }).click();
const plug = (page: Page, device: string): Promise<void> =>
  page.getByRole('button', { name: `Plug in: ${device}` }).click();
const key = (page: Page, name: string) => page.getByRole('button', { name, exact: true });

/** The simulated studio in a tab of its own; opening it plugs it in. */
async function openStudio(page: Page, context: BrowserContext): Promise<Page> {
  const studio = await context.newPage();
  await studio.goto('/studio/index.html');
  await expect(studio.getByText('Fendro is there.')).toBeVisible();
  return studio;
}

test.beforeEach(async ({ page }) => {
  await withoutGuide(page);
  await openFendro(page);
});

test(
  'a keyboard plays the line in focus, its chords are taken, and a slider moves a level and records a move',
  { tag: '@sound' },
  async ({ page }) => {
    await devices(page);
    await expect(page.getByRole('status').filter({ hasText: 'does not see your devices yet' })).toBeVisible();
    await plug(page, 'Simulated keyboard');
    await plug(page, 'Simulated controller');
    expect(await violations(page)).toEqual([]);

    // A slider learns by being touched.
    await page.getByRole('slider', { name: 'Simulated slider 2' }).fill('30');
    const what = page.getByRole('combobox', { name: 'What it should do' });
    await what.fill('level of bass');
    await page.getByRole('option', { name: 'Level of Bass', exact: true }).click();
    await expect(notice(page, /^Controller 21, channel 1 of Simulated controller: Level of Bass/)).toBeVisible();
    await page.getByRole('slider', { name: 'Simulated slider 2' }).fill('127');

    // A button is shown in the song what it should do.
    const button = page.getByRole('button', { name: 'Simulated button 1' });
    await button.click();
    await page.getByRole('button', { name: 'Show it in the song' }).click();
    const metronome = page.getByRole('button', { name: 'Metronome', exact: true });
    await metronome.click();
    await expect(notice(page, /^Key C2, channel 10 of Simulated controller: Metronome/)).toBeVisible();
    await expect(metronome).toHaveAttribute('aria-pressed', 'false');
    await expect(notice(page, /^Press what/)).toBeHidden();
    await page.getByRole('button', { name: 'Mix', exact: true }).click();
    await expect(page.getByRole('slider', { name: 'Level of Bass' })).toHaveValue('100');

    // Chords by script, though nothing is recorded, become the section's.
    await devices(page);
    await page.getByLabel('Notes to play, a beat each').fill('F3+A3+C4 - G3+B3+D4 - A3+C4+E4 -');
    await page.getByRole('button', { name: 'Play them' }).click();
    await expect(page.getByRole('button', { name: 'Stop them' })).toBeVisible();
    await expect(page.getByRole('button', { name: 'Play them' })).toBeVisible();
    await toSong(page);
    await page.keyboard.press('Control+k');
    await page.getByRole('combobox', { name: 'What would you like to do?' }).fill('take the chords of what');
    await expect(page.getByRole('option', { selected: true })).toContainText('Take the chords');
    await page.keyboard.press('Enter');
    await expect(notice(page, /Chords/)).toBeVisible();
    await expect.poll(async () => (await symbols(page)).join(' ')).toMatch(/ F .* G .* Am$/);

    // What was learned is there again after a reload; the slider is recorded as a move while the music plays.
    await page.reload();
    await page.getByRole('button', { name: 'Mix', exact: true }).click();
    await page.getByRole('button', { name: 'Record moves' }).click();
    await devices(page);
    await plug(page, 'Simulated controller');
    await page.getByRole('button', { name: 'Simulated button 1' }).click();
    await expect(metronome).toHaveAttribute('aria-pressed', 'true');
    await metronome.click();
    await page.getByRole('button', { name: 'Play', exact: true }).click();
    await expect(page.getByRole('timer').first()).toHaveText(/\.[23]$/);
    for (const value of ['90', '60', '20']) {
      await page.getByRole('slider', { name: 'Simulated slider 2' }).fill(value);
      const beat = await page.getByRole('timer').first().textContent();
      await expect(page.getByRole('timer').first()).not.toHaveText(beat ?? '');
    }
    await page.getByRole('button', { name: 'Stop', exact: true }).click();
    await toSong(page);
    await page.getByRole('button', { name: /^Bass[,.]/ }).click();
    await expect(page.getByRole('slider', { name: 'Level of Bass' })).toHaveValue('100');
    await page.keyboard.press('Control+z');
    await expect(page.getByRole('button', { name: /^Redo: record moves/ })).toBeVisible();

    // A key sounds, once its sounds have been fetched. Before the chords it would belong to what was played with them.
    await devices(page);
    await plug(page, 'Simulated keyboard');
    await key(page, 'C4').hover();
    await expect(async () => {
      await page.mouse.up();
      await page.mouse.down();
      await expect.poll(() => loudness(page, 0.2), { timeout: 2000 }).toBeGreaterThan(0.003);
    }).toPass();
    await page.mouse.up();
    await expect.poll(() => loudness(page, 0.1)).toBeLessThan(0.001);
  },
);

test(
  'the clock of the music leads a studio and parts go there; a studio leads the music, and stops it',
  { tag: '@sound' },
  async ({ page, context }) => {
    await devices(page);
    const studio = await openStudio(page, context);
    await page.bringToFront();
    await page.getByRole('checkbox', { name: 'Gets the clock of the music' }).check();
    await page.getByLabel('Where Bass goes').selectOption('Simulated studio');
    await page.getByRole('button', { name: 'Play', exact: true }).click();
    await watchSound(page);
    const shown = (name: string) => studio.locator('dl > div').filter({ hasText: name }).locator('dd');
    await expect(shown('Clock')).toHaveText('runs');
    await expect(shown('Its tempo')).toHaveText('96.0 BPM');
    // Bass goes on its own channel, as in files.
    const bass = studio.getByRole('row').filter({ has: studio.getByRole('cell', { name: '5', exact: true }) });
    await expect.poll(async () => Number(await bass.getByRole('cell').nth(2).textContent())).toBeGreaterThan(3);
    await page.getByRole('button', { name: 'Stop', exact: true }).click();
    await expect(shown('Clock')).toHaveText('stands');
    // Where a busy machine lets the sound itself come later, the clock has to come later with it, and by no more; by how
    // much it came is the middle of ten looks, which is told to a hundredth.
    const furthest = Number.parseFloat((await shown('Furthest').textContent()) ?? '');
    expect(furthest).toBeLessThan(1 + 1.01 * (await soundCameLater(page)));
    expect(await studio.getByRole('row').count()).toBe(3);
    await expect(bass.getByRole('cell').nth(4)).toHaveText('');

    // The studio leads at a tempo of its own.
    await page.getByRole('checkbox', { name: 'Gets the clock of the music' }).uncheck();
    await page.getByRole('checkbox', { name: 'Its clock leads the music' }).check();
    await studio.bringToFront();
    await studio.getByLabel('Tempo').fill('132');
    await studio.getByRole('button', { name: 'Start' }).click();
    const readout = page.getByRole('timer').first();
    await expect(page.getByText(/Simulated studio leads: the music follows its clock, 132/).first()).toBeVisible();
    // Both say the same place of the loop of eight bars, again and again.
    const leading = studio.locator('#leading');
    const both = async (): Promise<boolean> => {
      const [theirs, ours] = await Promise.all([leading.textContent(), readout.textContent()]);
      const [bar, beat] = (theirs ?? '').split('.').map(Number);
      return `${1 + (((bar ?? 0) - 1) % 8)}.${beat}` === ours;
    };
    for (let times = 0; times < 3; times++) {
      const before = await leading.textContent();
      await expect(leading).not.toHaveText(before ?? '');
      await expect.poll(both).toBe(true);
    }
    await studio.getByRole('button', { name: 'Stop' }).click();
    await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
    await studio.close();
    await expect(page.getByText('The simulated studio is there as long as its page is open')).toBeVisible();
  },
);
