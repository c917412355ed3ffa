import { readFileSync } from 'node:fs';
import type { Locator, Page } from '@playwright/test';
import { unzipSync } from 'fflate';
import { violations } from './support/accessibility';
import { draftBand, expect, openFendro, waitForSheet, test, withoutGuide } from './support/test';

/** Goes by Tab until an element has the focus, back by Shift+Tab where it stands before what has it. */
async function tabTo(page: Page, target: Locator): Promise<void> {
  await expect(target).toBeVisible();
  // To look for it by its role and name after each of some hundred steps would take most of the test's time.
  let element = await target.elementHandle();
  for (let step = 0; step < 250; step++) {
    const way = await element.evaluate((node) => {
      const from = document.activeElement ?? document.body;
      if (node === from) return 'none';
      if (!node.isConnected) return 'gone';
      return node.compareDocumentPosition(from) & Node.DOCUMENT_POSITION_FOLLOWING ? 'Shift+Tab' : 'Tab';
    });
    if (way === 'none') return;
    if (way === 'gone') element = await target.elementHandle();
    else await page.keyboard.press(way);
  }
  throw new Error(`Tab never came to ${target.toString()}`);
}

/** What has the focus: its name or text, or the page's body. */
const focused = (page: Page): Promise<string> =>
  page.evaluate(() => {
    const element = document.activeElement;
    if (element === document.body) return 'the body';
    return [element?.getAttribute('aria-label'), element?.textContent.trim(), element?.id].find((text) => text) ?? '';
  });
const press = async (page: Page, target: Locator): Promise<void> => {
  await tabTo(page, target);
  await page.keyboard.press('Enter');
};
const button = (page: Page, name: string | RegExp): Locator =>
  page.getByRole('button', { name, exact: typeof name === 'string' });

test('the whole way from a new song to delivered files, and the focus never falls to the page’s body', async ({
  page,
}) => {
  test.setTimeout(180_000);
  await withoutGuide(page);
  await openFendro(page);

  await test.step('a song is started and its band drafted', async () => {
    await press(page, page.getByRole('link', { name: 'Songs' }));
    await expect(page.getByRole('form', { name: 'New song' })).toBeVisible();
    await expect.poll(() => focused(page)).not.toBe('the body');
    await tabTo(page, page.getByRole('form', { name: 'New song' }).getByLabel('Title'));
    await page.keyboard.type('By Touch');
    await press(page, button(page, 'Start the song'));
    await expect(page.getByLabel('Song title')).toHaveValue('By Touch');
    await waitForSheet(page);
    await expect.poll(() => focused(page)).not.toBe('the body');
    await press(page, button(page, 'Draft the band'));
    await expect(page.getByText(/takes drafted for/)).toBeAttached();
    await expect(button(page, 'Draft the band')).not.toHaveAttribute('aria-disabled');
    expect(await focused(page)).toBe('Draft the band');
  });

  await test.step('takes of one part are drafted and cancelled', async () => {
    await press(page, button(page, 'Draft takes'));
    await expect(button(page, 'Draft takes')).toBeVisible();
    await expect.poll(() => focused(page)).not.toBe('the body');
  });

  await test.step('a section comes and goes', async () => {
    await press(page, button(page, 'Add a section'));
    await expect(page.getByRole('menu')).toBeVisible();
    expect(await violations(page, { rules: ['region', 'aria-required-children', 'aria-required-parent'] })).toEqual([]);
    while ((await focused(page)) !== 'New chorus') await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('textbox', { name: 'Section name' })).toHaveValue('Chorus');
    await expect.poll(() => focused(page)).toBe('Add a section');
    await press(page, button(page, 'Take Chorus out of the running order'));
    await expect(page.getByRole('textbox', { name: 'Section name' })).toHaveValue('Verse');
    await expect.poll(() => focused(page)).not.toBe('the body');
  });

  await test.step('a part goes, a drawer closes', async () => {
    await press(page, button(page, 'Mix'));
    const mix = page.getByRole('region', { name: 'Mix' });
    const removers = mix.getByRole('button', { name: /^Remove / });
    // Long lists grow: all of the band is there before one of it goes.
    await expect(removers).toHaveCount(5);
    await press(page, removers.first());
    await expect(removers).toHaveCount(4);
    await expect.poll(() => focused(page)).not.toBe('the body');
    expect(
      await page.evaluate(() => document.activeElement?.closest('[data-region]')?.getAttribute('aria-label')),
    ).toBe('Mix');
    await press(page, button(page, 'Close the mix'));
    await expect(mix).toBeHidden();
    await expect.poll(() => focused(page)).toBe('Mix');
  });

  await test.step('everything is delivered', async () => {
    await page.keyboard.press('Control+e');
    await expect(page.getByRole('heading', { name: 'Deliver' })).toBeVisible();
    await expect.poll(() => focused(page)).not.toBe('the body');
    await tabTo(page, button(page, 'Everything in one zip'));
    const downloading = page.waitForEvent('download');
    await page.keyboard.press('Enter');
    expect(Object.keys(unzipSync(readFileSync(await (await downloading).path()))).length).toBeGreaterThan(5);
    expect(await focused(page)).not.toBe('the body');
  });

  await test.step('a song is deleted and put back', async () => {
    await press(page, page.getByRole('link', { name: 'Songs' }));
    await press(page, button(page, 'Delete Barometer Falling'));
    await expect(button(page, 'Delete Barometer Falling')).toBeHidden();
    await expect.poll(() => focused(page)).not.toBe('the body');
    await press(page, button(page, 'Put it back'));
    await expect(button(page, 'Delete Barometer Falling')).toBeVisible();
    await expect.poll(() => focused(page)).not.toBe('the body');
  });
});

test('after a click the page has the focus, so that keys go on working', async ({ page }) => {
  await withoutGuide(page);
  await openFendro(page);
  await button(page, 'Mix').click();
  await button(page, 'Remove Drums').click();
  await expect(button(page, 'Remove Drums')).toBeHidden();
  await button(page, 'Close the mix').click();
  expect(await page.evaluate(() => document.activeElement?.id)).toBe('main');
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('button', { name: /Choose all heard \(1\)/ })).toBeVisible();
  await draftBand(page);
  await page.keyboard.press('Control+e');
  await page.getByRole('button', { name: 'Everything in one zip' }).click();
  await page.getByRole('link', { name: 'Songs' }).click();
  await expect(page.getByRole('heading', { name: 'Songs', exact: true })).toBeVisible();
  await expect.poll(() => page.evaluate(() => document.activeElement !== document.body)).toBe(true);
});

test('every page opens at its own address', async ({ page }) => {
  await withoutGuide(page);
  for (const [address, heading] of [
    ['/bring-in', 'Bring in'],
    ['/songs', 'Songs'],
    ['/deliver', 'Deliver'],
    ['/help', 'Help'],
  ] as const) {
    expect((await page.goto(address))?.status()).toBe(200);
    await expect(page.getByRole('heading', { name: heading, level: 1 })).toBeVisible();
  }
});
