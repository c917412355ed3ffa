import type { Page } from '@playwright/test';
import { forgetSound, loudness, secondsHeard } from './support/recorder';
import { expect, openFendro, test, withoutGuide } from './support/test';

/** What goes beyond one section: its versions, motifs made by hand, takes carried elsewhere. */

const sheet = (page: Page) => page.getByRole('region', { name: 'Sheet' });
const order = (page: Page) => page.getByRole('navigation', { name: 'Running order' });
const part = (page: Page, name: string) => sheet(page).getByRole('button', { name: new RegExp(`^${name},`) });
const versions = (page: Page) => page.getByRole('group', { name: 'Versions of the section' });

test.beforeEach(async ({ page }) => {
  await withoutGuide(page);
  await openFendro(page);
});

test(
  'a section has versions: copied, changed, switched by figures while it plays, and handed over',
  { tag: '@sound' },
  async ({ page }) => {
    await order(page)
      .getByRole('button', { name: /^Chorus, 8 bars, 3/ })
      .click();
    await page.keyboard.press('e');
    await expect(versions(page).getByRole('button', { name: 'the same' })).toHaveAttribute('aria-pressed', 'true');
    // The copy without its drums: the other is not touched.
    await part(page, 'Drums').click();
    await page.keyboard.press('Shift+ArrowRight');
    for (let bar = 0; bar < 6; bar++) await page.keyboard.press('Shift+ArrowRight');
    await page.getByRole('toolbar', { name: 'Bars 1–8' }).getByRole('button', { name: 'Rest' }).click();
    await page.keyboard.press('Escape');
    const without = versions(page).getByRole('button', { name: 'without drums' });
    await expect(without).toHaveAttribute('aria-pressed', 'true');

    await page.keyboard.press('Space');
    await expect.poll(() => loudness(page, 0.5), { timeout: 20_000 }).toBeGreaterThan(0.01);
    for (const figure of ['1', '2', '1']) {
      await forgetSound(page);
      await page.keyboard.press(figure);
      await expect.poll(() => secondsHeard(page), { timeout: 20_000 }).toBeGreaterThan(0.7);
      expect(await loudness(page, 0.4)).toBeGreaterThan(0.004);
    }
    await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible();
    await expect(versions(page).getByRole('button', { name: 'as first heard' })).toHaveAttribute(
      'aria-pressed',
      'true',
    );
    await page.keyboard.press('Space');

    // Another version for this one place; then it has a name of its own, and all of it is there after a reload.
    await page.keyboard.press('Shift+Digit2');
    await expect(order(page).getByRole('button', { name: /^Chorus, without drums, 8 bars, 3/ })).toBeVisible();
    await expect(order(page).getByRole('button', { name: /^Chorus, as first heard, 8 bars, 5/ })).toBeVisible();
    await page.getByRole('button', { name: 'Further for versions' }).click();
    await page.getByRole('menuitem', { name: 'Name this version' }).click();
    await page.getByRole('textbox', { name: 'Name of this version' }).fill('Before the storm');
    await page.keyboard.press('Enter');
    await expect(versions(page).getByRole('button', { name: 'Before the storm' })).toBeVisible();
    await expect(page.getByText('Saved', { exact: true })).toBeVisible();
    await page.reload();
    await order(page)
      .getByRole('button', { name: /^Chorus, Before the storm, 8 bars, 3/ })
      .click();
    await expect(versions(page).getByRole('button', { name: 'Before the storm' })).toHaveAttribute(
      'aria-pressed',
      'true',
    );
    await page.getByRole('link', { name: 'Deliver' }).click();
    await expect(page.getByText('Chorus, Before the storm, all parts')).toBeVisible();
    await expect(page.getByText('Chorus, as first heard, all parts')).toBeVisible();
  },
);

test(
  'single notes are held, a motif is taken from them and said elsewhere, and bars are carried to another part',
  { tag: '@sound' },
  async ({ page }) => {
    const takes = page.getByRole('listbox', { name: 'Takes' });
    const heard = takes.getByRole('option', { selected: true });
    await order(page)
      .getByRole('button', { name: /^Verse, 8 bars, 2/ })
      .click();
    await part(page, 'Melody').click();
    // Two notes, gone to and gathered by keys, are held; the draft round them keeps them.
    for (const key of ['.', 'j', '.', 'j', 'h']) await page.keyboard.press(key);
    await expect(page.getByRole('button', { name: 'Undo: hold notes' })).toBeEnabled();
    await page.keyboard.press('Escape');
    await page.keyboard.press('r');
    await expect(heard).toHaveAccessibleName(/bar 1 anew$/, { timeout: 20_000 });

    // Three notes become a motif.
    await page.keyboard.press('Escape');
    for (const key of ['.', 'j', '.', 'j', '.', 'j', 's']) await page.keyboard.press(key);
    await expect(
      page.getByRole('list', { name: 'Messages' }).getByText(/^Remembered as a motif: Melody, Verse/),
    ).toBeVisible();
    await page.keyboard.press('Escape');
    await part(page, 'Bass').click();
    await part(page, 'Bass').focus();
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('Shift+ArrowRight');
    await page.keyboard.press('Shift+S');
    await expect(heard).toHaveAccessibleName(/asked to quote “Melody, Verse, .*” in bars/, { timeout: 20_000 });
    await page.getByRole('toolbar').getByRole('button', { name: 'Further for these bars' }).click();
    await page.getByRole('menuitem', { name: 'Motif' }).click();
    await page.getByRole('menuitem', { name: /^“Melody, Verse/ }).click();
    await page.getByRole('menuitem', { name: 'Turn it upside down' }).click();
    await expect(heard).toHaveAccessibleName(/asked to turn “Melody, Verse.*” upside down/, { timeout: 20_000 });

    // What is heard here is carried to the chorus, fitted there and heard at once; Enter chooses it.
    await page.keyboard.press('Shift+C');
    const carry = page.getByRole('dialog', { name: 'Carry elsewhere' });
    await carry.getByLabel('Section', { exact: true }).selectOption('Chorus');
    await carry.getByLabel('Part', { exact: true }).selectOption('Bass');
    await carry.getByRole('button', { name: 'Carry and hear it' }).click();
    await expect(carry).toBeHidden();
    await expect(page.getByRole('textbox', { name: 'Section name' })).toHaveValue('Chorus');
    await expect(heard).toHaveAccessibleName(/Bass of Verse, take \d+, bars/);
    await expect.poll(() => loudness(page, 0.5), { timeout: 20_000 }).toBeGreaterThan(0.01);
    await page.keyboard.press('Enter');
    await expect(page.getByRole('button', { name: 'Undo: choose a take' })).toBeEnabled();

    // The part's takes over all sections, in one list that leads to each.
    await page.keyboard.press('Shift+A');
    await expect(takes.getByRole('option', { name: /Verse: asked to quote/ }).first()).toBeVisible();
    await takes
      .getByRole('option', { name: /Verse: asked to quote/ })
      .first()
      .click();
    await expect(page.getByRole('textbox', { name: 'Section name' })).toHaveValue('Verse');
  },
);
