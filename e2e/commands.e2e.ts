import type { Page } from '@playwright/test';
import { violations } from './support/accessibility';
import { stored } from './support/storage';
import { expect, openFendro, test, withoutGuide } from './support/test';

const selected = (page: Page) => page.getByRole('listbox', { name: 'Takes' }).getByRole('option', { selected: true });

test.beforeEach(async ({ page }) => {
  await withoutGuide(page);
  await openFendro(page);
});

test('whatever can be done is found by words, and keys of one’s own are kept', async ({ page }) => {
  await test.step('the list of commands', async () => {
    await page.keyboard.press('Control+k');
    const field = page.getByRole('combobox', { name: 'What would you like to do?' });
    await field.fill('metronome');
    await expect(page.getByRole('option', { selected: true })).toContainText('Metronome');
    await page.keyboard.press('Enter');
    await expect(field).toBeHidden();
    await expect(page.getByRole('button', { name: 'Metronome', pressed: true })).toBeVisible();
    await page.keyboard.press('m');
    await expect(page.getByRole('button', { name: 'Metronome', pressed: false })).toBeVisible();
  });

  await test.step('another key, after a reload too', async () => {
    await page.getByRole('link', { name: 'Help' }).click();
    await page.getByRole('searchbox', { name: 'Find a command' }).fill('metronome');
    await page.getByRole('button', { name: 'Change the keys of: Metronome' }).click();
    await expect(page.getByLabel('Press the new keys for: Metronome')).toBeFocused();
    await page.keyboard.press('y');
    await expect(page.getByRole('alert')).toContainText('Keep the heard take');
    await page.keyboard.press(';');
    await expect(page.getByRole('button', { name: 'Keys as they came for: Metronome' })).toBeVisible();
    // Whoever reloads in the same moment is quicker than the disk.
    await expect.poll(async () => JSON.stringify(await stored(page, 'shelf'))).toContain('transport.metronome');
    await page.reload();
    await page.getByRole('link', { name: 'Fendro, to the song' }).click();
    await expect(page.getByRole('button', { name: 'Metronome' })).toHaveAttribute('aria-keyshortcuts', ';');
    await page.keyboard.press('m');
    await page.keyboard.press(';');
    await expect(page.getByRole('button', { name: 'Metronome', pressed: true })).toBeVisible();
    await page.keyboard.press('?');
    await expect(page.getByRole('dialog', { name: 'Keys' })).toContainText('Metronome');
    await page.keyboard.press('Escape');
  });
});

test('keys mean what was clicked last: bars and parts on the sheet, takes in the bench', async ({ page }) => {
  const sheet = page.getByRole('region', { name: 'Sheet' });
  await expect(selected(page)).toHaveAccessibleName(/^Take 1/);
  await sheet.getByRole('button', { name: /^Melody,/ }).click();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Shift+ArrowRight');
  const strip = page.getByRole('toolbar', { name: 'Bars 2–3' });
  await expect(strip).toBeVisible();
  await expect(sheet.getByRole('button', { name: /^Melody,/, pressed: true })).toBeVisible();

  await strip.getByRole('button', { name: 'Octave up' }).click();
  await expect(page.getByRole('button', { name: 'Undo: move bars an octave up' })).toBeVisible();
  await strip.getByRole('button', { name: 'Rest', exact: true }).click();
  await expect(strip.getByRole('button', { name: 'Rest', exact: true })).toBeDisabled();
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled();

  await page.keyboard.press('ArrowDown');
  await expect(sheet.getByRole('button', { name: /^Keys,/, pressed: true })).toBeVisible();
  await page.keyboard.press('ArrowUp');
  await selected(page).click();
  await page.keyboard.press('ArrowDown');
  await expect(selected(page)).toHaveAccessibleName(/^Take 2/);
});

test('an instrument is heard before it is chosen, and a drawer stays as high as it was pulled', async ({ page }) => {
  const instrument = page.getByRole('combobox', { name: 'Instrument' });
  await instrument.focus();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible({ timeout: 20_000 });
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  await expect(instrument).toHaveValue('Flute');
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled();

  await page.getByRole('button', { name: 'Mix', exact: true }).click();
  const handle = page.getByRole('separator', { name: 'Height of the drawer' });
  await handle.focus();
  await page.keyboard.press('ArrowUp');
  await expect.poll(async () => Number(await handle.getAttribute('aria-valuenow'))).toBeGreaterThan(240);
  const height = await handle.getAttribute('aria-valuenow');
  await page.reload();
  await page.getByRole('button', { name: 'Mix', exact: true }).click();
  await expect(handle).toHaveAttribute('aria-valuenow', height ?? '');
});

test('exact settings take the focus and give it back, and the sheet of keys leads to one’s own', async ({ page }) => {
  const word = page.getByRole('spinbutton', { name: 'Busyness' });
  await word.focus();
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Enter');
  const exact = page.getByRole('region', { name: 'Exactly: Melody' });
  await expect(exact).toBeFocused();
  await page.keyboard.press('Escape');
  await expect(exact).toBeHidden();
  await expect(word).toBeFocused();

  await page.keyboard.press('?');
  await page.getByRole('dialog', { name: 'Keys' }).getByRole('link', { name: 'Change keys' }).click();
  const own = page.getByRole('region', { name: 'Your own keys' });
  await expect(own).toBeFocused();
  await expect(own).toBeInViewport({ ratio: 0.2 });
});

const SIZES = [
  [1280, 720],
  [1024, 700],
  [1024, 768],
  [768, 1024],
  [640, 400],
  [400, 800],
] as const;

test('in every size nothing is cut off, scrolled sideways or out of reach', async ({ page }) => {
  test.setTimeout(240_000);
  const to = (name: string | RegExp) => page.getByRole('link', { name }).first();
  const ways = {
    song: null,
    Songs: to('Songs'),
    'Bring in': to(/^Bring in/),
    Deliver: to('Deliver'),
    Help: to('Help'),
  };
  for (const [title, way] of Object.entries(ways)) {
    await way?.click();
    if (way) await expect(page.getByRole('heading', { level: 1, name: title })).toBeVisible();
    for (const [width, height] of SIZES) {
      await page.setViewportSize({ width, height });
      const at = `${title} at ${width} by ${height}`;
      const sideways = await page.evaluate(() =>
        [document.documentElement, document.getElementById('main')!].map((box) => box.scrollWidth - box.clientWidth),
      );
      expect({ at, sideways }).toEqual({ at, sideways: [0, 0] });
      const adding = way === null ? [page.getByRole('button', { name: 'Add a section' })] : [];
      for (const control of [...['Deliver', 'Help', 'Songs'].map(to), ...adding]) {
        const box = await control.first().boundingBox();
        expect({ at, left: (box?.x ?? -1) >= 0 }).toEqual({ at, left: true });
        expect({ at, right: (box?.x ?? 0) + (box?.width ?? 0) <= width }).toEqual({ at, right: true });
      }
      if (way === null) expect({ at, violations: await violations(page) }).toEqual({ at, violations: [] });
    }
  }
});

test.describe('on a tablet', () => {
  test.use({ hasTouch: true, isMobile: true, viewport: { width: 768, height: 1024 } });

  test('whatever is touched is 44 px high, and nothing is asked of a mouse', async ({ page }) => {
    const low = (): Promise<readonly string[]> =>
      page.evaluate(() =>
        [
          ...document.querySelectorAll(
            'button, input, select, a[href], [role=slider], [role=spinbutton], [role=option]',
          ),
        ]
          .filter((control) => control.checkVisibility() && control.closest('.spoken-only, .skip, p, li') === null)
          .concat([...document.querySelectorAll('[role=spinbutton]')])
          .flatMap((control) => {
            const { width, height } = (control.closest('mat-form-field') ?? control).getBoundingClientRect();
            const name = control.getAttribute('aria-label') ?? control.textContent.trim();
            return width > 1 && height < 43.5 ? [`${name}: ${height}`] : [];
          }),
      );
    expect(await low()).toEqual([]);
    await page.getByRole('button', { name: 'Chords', exact: true }).tap();
    await page.getByRole('tab', { name: 'Next' }).tap();
    await page.getByRole('listbox', { name: 'What could come next' }).getByRole('option').nth(1).tap();
    await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible({ timeout: 20_000 });
    expect(await low()).toEqual([]);
    await page.getByRole('button', { name: 'Stop' }).tap();
    await page.getByRole('button', { name: /^Melody,/ }).tap();
    await page.getByRole('listbox', { name: 'Takes' }).getByRole('option').nth(1).tap();
    await page.getByRole('button', { name: 'Keep' }).tap();
    await expect(page.getByRole('option', { name: /^Take 2 .*kept/ })).toBeVisible();
  });
});
