import type { Page } from '@playwright/test';
import { violations } from './support/accessibility';
import { symbols } from './support/chords';
import { loudness, strokeDelays } from './support/recorder';
import { expect, notice, openFendro, test, withoutGuide } from './support/test';

/** The play desk: chords held and struck in time, recorded, or taken though nothing was recorded. */

// Playing by hand is measured with all sounds loaded.
test.use({ savesData: false });

const desk = (page: Page) => page.getByRole('region', { name: 'Play desk' });
const takes = (page: Page) => page.getByRole('listbox', { name: 'Takes' });
const heard = (page: Page) => takes(page).getByRole('option', { selected: true });
const part = (page: Page, name: string) => page.getByRole('button', { name: new RegExp(`^${name}[,.]`) });

/** Opens the desk by its key; letters play from then on. */
async function openDesk(page: Page): Promise<void> {
  await page.keyboard.press('Shift+M');
  await expect(desk(page).getByRole('button', { name: 'Letters play' })).toBeVisible();
}

/**
 * Keys that go down at a bar and beat, as the readout says it; they come up at the next beat. While nothing is recorded
 * they do so in every round, else in the first only: how far the next has come when it is ended is the machine’s affair.
 */
type Plan = Readonly<Record<string, readonly string[]>>;

/** Plays a plan in time with the music, in the page itself, where nothing stands between the beat and the key; none ends it. */
const playAlong = (page: Page, plan: Plan | null): Promise<void> =>
  page.evaluate((keys) => {
    const playing = globalThis as unknown as { endPlaying?: () => void };
    playing.endPlaying?.();
    const [readout, record] = [document.querySelector('[role=timer]'), document.querySelector('.record')];
    if (!readout || !record || !keys) return;
    const plan = new Map(Object.entries(keys));
    let down: readonly string[] = [];
    const press = (kind: string, code: string): void => {
      document.body.dispatchEvent(
        new KeyboardEvent(kind, { code, key: code.replace('Key', '').toLowerCase(), bubbles: true, cancelable: true }),
      );
    };
    const strike = (moment: string): void => {
      for (const code of down) press('keyup', code);
      down = plan.get(moment) ?? [];
      for (const code of down) press('keydown', code);
    };
    let under = false;
    const beats = new MutationObserver(() => {
      const moment = readout.textContent;
      if (under && moment === '1.1') plan.clear();
      under ||= record.textContent.includes('End') && moment.startsWith('2.');
      strike(moment);
    });
    // While it is counted in, the readout stands at the first beat: that is struck when the recording begins.
    const begins = new MutationObserver(() => {
      if (record.textContent.includes('End')) strike('1.1');
    });
    for (const [observer, of] of [
      [beats, readout],
      [begins, record],
    ] as const)
      observer.observe(of, { childList: true, characterData: true, subtree: true });
    playing.endPlaying = () => {
      beats.disconnect();
      begins.disconnect();
      strike('');
    };
  }, plan);

test.beforeEach(async ({ page }) => {
  await withoutGuide(page);
  await openFendro(page);
  // A short section takes less time; at this tempo a beat that a busy page sees late is still that beat.
  await page
    .getByRole('button', { name: /^Intro/ })
    .first()
    .click();
  await page.getByLabel('Tempo').fill('80');
  await page.getByLabel('Tempo').press('Enter');
});

test(
  'chords are held and struck at once, by keys and by pointer, and no letter plays once the desk is disarmed',
  { tag: '@sound' },
  async ({ page }) => {
    await part(page, 'Keys').click();
    await openDesk(page);
    expect(await violations(page)).toEqual([]);

    // Sounds are fetched; from then on a stroke sounds at once.
    await expect
      .poll(
        async () => {
          await page.keyboard.down('q');
          await page.keyboard.down('l');
          const level = await loudness(page, 0.2);
          await page.keyboard.up('l');
          await page.keyboard.up('q');
          return level;
        },
        { timeout: 30_000 },
      )
      .toBeGreaterThan(0.005);
    await expect.poll(() => loudness(page, 0.3), { timeout: 10_000 }).toBeLessThan(0.001);
    const delays = await strokeDelays(page, ['KeyQ', 'KeyL'], 8);
    delays.sort((a, b) => a - b);
    expect(delays[4]).toBeLessThan(0.02);

    const [first, second] = await desk(page)
      .getByRole('button', { name: /, of this section$/ })
      .all();
    await expect(first!).toHaveClass(/under/);
    await second!.click();
    await expect(second!).toHaveClass(/under/);
    const stroke = desk(page).getByRole('button', { name: 'Stroke down' });
    await stroke.hover();
    await page.mouse.down();
    await expect.poll(() => loudness(page, 0.2)).toBeGreaterThan(0.005);
    await page.mouse.up();
    await expect.poll(() => loudness(page, 0.2)).toBeLessThan(0.001);

    await page.keyboard.press('Escape');
    await expect(desk(page).getByRole('button', { name: 'Play by letters' })).toBeVisible();
    await page.keyboard.press('m');
    await expect(page.getByRole('button', { name: /^Metronome/ })).toHaveAttribute('aria-pressed', 'true');
    await page.keyboard.press('m');
  },
);

test(
  'a progression that is played and strummed in time becomes the chords, and a bass line follows them',
  { tag: '@sound' },
  async ({ page }) => {
    await page.getByRole('button', { name: 'Chords', exact: true }).click();
    await openDesk(page);
    await playAlong(page, {
      '1.1': ['KeyW', 'KeyJ'],
      '2.1': ['KeyE', 'KeyJ'],
      '3.1': ['KeyR', 'KeyJ'],
      '3.2': ['KeyR', 'KeyK'],
      '4.1': ['KeyQ', 'KeyJ'],
      '4.3': ['KeyT', 'KeyJ'],
    });
    const offered = await desk(page)
      .getByRole('group', { name: /^Left hand/ })
      .getByRole('button')
      .evaluateAll((cells) => cells.map((cell) => cell.getAttribute('aria-label')?.split(',')[0] ?? ''));
    await page.keyboard.press('F8');
    await expect(desk(page).getByRole('button', { name: 'Counting in …' })).toBeVisible();
    await expect(desk(page).getByRole('button', { name: 'End the recording' })).toBeVisible({ timeout: 15_000 });
    // The first round is a take as soon as it is over.
    await expect(heard(page)).toHaveAccessibleName(/played by hand/, { timeout: 30_000 });
    await page.keyboard.press('F8');
    await playAlong(page, null);
    await expect(desk(page).getByRole('button', { name: 'Record' })).toBeVisible();
    const [q, w, e, r, t] = offered;
    await expect.poll(() => symbols(page)).toEqual([`1.1 ${w}`, `2.1 ${e}`, `3.1 ${r}`, `4.1 ${q}`, `4.3 ${t}`]);
    await page.keyboard.press('Escape');
    await page.keyboard.press('Enter');

    await page.keyboard.press('Space');
    await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();

    // A bass line on three keys, over the chords that were just played, while they choose.
    await part(page, 'Bass').click();
    await desk(page).getByLabel('Who chooses and who strikes').selectOption('the section’s chords choose');
    await desk(page).getByRole('button', { name: 'Play by letters' }).click();
    await playAlong(page, { '1.1': ['KeyY'], '1.3': ['KeyI'], '2.1': ['KeyY'], '3.1': ['KeyY'], '3.2': ['KeyU'] });
    await page.keyboard.press('F8');
    await expect(heard(page)).toHaveAccessibleName(/played by hand/, { timeout: 30_000 });
    await page.keyboard.press('F8');
    await playAlong(page, null);
    await page.keyboard.press('Escape');
    await expect(heard(page)).toHaveAccessibleName(/5 notes/);

    // It is there after a reload, and is chosen by Enter.
    await page.reload();
    await page
      .getByRole('button', { name: /^Intro/ })
      .first()
      .click();
    await part(page, 'Bass').click();
    await expect(heard(page)).toHaveAccessibleName(/played by hand/, { timeout: 20_000 });
    await takes(page).focus();
    await page.keyboard.press('Enter');
    await expect(page.getByRole('button', { name: 'Undo: choose a take' })).toBeEnabled();
  },
);

test(
  'what was played though nothing was recorded is taken, to the music and without it',
  { tag: '@sound' },
  async ({ page }) => {
    await part(page, 'Keys').click();
    await openDesk(page);
    await playAlong(page, { '1.1': ['KeyQ', 'KeyJ'], '2.1': ['KeyW', 'KeyJ'], '3.1': ['KeyE', 'KeyJ'] });
    await page.keyboard.press('Space');
    await expect(page.getByRole('timer')).toHaveText(/^4\./, { timeout: 20_000 });
    await page.keyboard.press('F7');
    await expect(notice(page, /^Notes of what you played are a take/)).toBeVisible();
    await expect(heard(page)).toHaveAccessibleName(/played by hand/);
    await page.keyboard.press('Space');
    await playAlong(page, null);

    // While the music stands still, a tempo is found in the playing.
    await desk(page).getByRole('button', { name: 'Letters play' }).focus();
    const begun = await page.evaluate(() => performance.now());
    for (let beat = 0; beat < 8; beat++) {
      await page.waitForFunction((due) => performance.now() >= due, begun + beat * 300);
      await page.keyboard.press(beat % 2 === 0 ? 'u' : 'i', { delay: 150 });
    }
    await page.keyboard.press('F7');
    await expect(notice(page, /found at \d+(\.\d)? BPM/)).toBeVisible();
  },
);
