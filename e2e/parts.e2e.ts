import { violations } from './support/accessibility';
import { expect, test } from './support/test';

/** How many colours a picture has, and which of them covers most of it. */
const coloursOf = async (png: string): Promise<{ count: number; ground: string }> => {
  const bytes = Uint8Array.from(atob(png), (letter) => letter.charCodeAt(0));
  const picture = await createImageBitmap(new Blob([bytes], { type: 'image/png' }));
  const pen = new OffscreenCanvas(picture.width, picture.height).getContext('2d')!;
  pen.drawImage(picture, 0, 0);
  const { data } = pen.getImageData(0, 0, picture.width, picture.height);
  const found = new Map<string, number>();
  for (let at = 0; at < data.length; at += 4) {
    const colour = `${data[at]} ${data[at + 1]} ${data[at + 2]}`;
    found.set(colour, (found.get(colour) ?? 0) + 1);
  }
  return { count: found.size, ground: [...found].sort(([, a], [, b]) => b - a)[0]![0] };
};

test('every small part is drawn in all its states, by day and by night', async ({ page }) => {
  await page.goto('/parts');
  const [day, night] = ['By day', 'By night'].map((name) => page.getByRole('region', { name }));
  await expect(night!).toBeVisible();
  const parts = await day!.locator('[data-specimen]').all();
  expect(parts.length).toBeGreaterThanOrEqual(8);
  for (const part of parts) {
    const name = (await part.getAttribute('data-specimen')) ?? '';
    const seen = [];
    for (const theme of [day!, night!]) {
      const shown = theme.locator(`[data-specimen="${name}"]`);
      const over = await shown.evaluate((box) => box.scrollWidth - box.clientWidth);
      expect({ name, over }).toEqual({ name, over: 0 });
      const png = (await shown.screenshot({ animations: 'disabled' })).toString('base64');
      seen.push(await page.evaluate(coloursOf, png));
    }
    // Something is there, and it wears the theme that it lies in.
    for (const { count } of seen) expect({ name, drawn: count > 8 }).toEqual({ name, drawn: true });
    expect({ name, same: seen[0]!.ground === seen[1]!.ground }).toEqual({ name, same: false });
  }
  for (const picture of await page.locator('fd-note-picture').all()) {
    const png = (await picture.screenshot()).toString('base64');
    expect((await page.evaluate(coloursOf, png)).count).toBeGreaterThan(3);
  }
  expect(await violations(page)).toEqual([]);
});

test('a field tells what it cannot take, a list is heard by keys and tabs open with the arrows', async ({ page }) => {
  await page.goto('/parts');
  const day = page.getByRole('region', { name: 'By day' });
  const tempo = day.getByLabel('Tempo');
  await tempo.fill('fast');
  await tempo.press('Enter');
  await expect(day.getByRole('alert')).toHaveText('A tempo lies from 20 to 300.');
  await day.getByRole('tab', { name: 'Second' }).focus();
  await page.keyboard.press('ArrowRight');
  await expect(day.getByRole('tab', { name: 'Third', selected: true })).toBeFocused();
  const ideas = day.getByRole('listbox', { name: 'Ideas' });
  await ideas.focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('End');
  await expect(ideas.getByRole('option', { selected: true })).toContainText('Slow turn');
  await page.keyboard.press('Escape');
  await expect(ideas.getByRole('option', { selected: true })).toHaveCount(0);
});
