import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { unzipSync } from 'fflate';
import { violations } from './support/accessibility';
import { readWithMido, saveFile } from './support/midi';
import { loudness } from './support/recorder';
import { expect, openFendro, test, withoutGuide } from './support/test';

/** Notes that are shaped one by one in the close-up, by keys and by the pointer, and what files say of them. */

const sheet = (page: Page) => page.getByRole('region', { name: 'Sheet' });
const drawer = (page: Page) => page.getByRole('region', { name: 'Close-up' });
const notes = (page: Page) => drawer(page).getByRole('application');
const told = (page: Page) => drawer(page).getByRole('status');
const undoes = (page: Page, name: string) => expect(page.getByRole('button', { name: `Undo: ${name}` })).toBeEnabled();

async function openCloseUp(page: Page, part: string): Promise<void> {
  await sheet(page)
    .getByRole('button', { name: new RegExp(`^${part},`) })
    .click();
  if (!(await drawer(page).isVisible())) await page.keyboard.press('z');
  await expect(notes(page)).toBeVisible();
}

/** A file as an independent reader finds it in what is delivered; by a part of its name. */
async function delivered(page: Page, named: string) {
  await page.keyboard.press('Control+e');
  const downloading = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Everything in one zip' }).click();
  const files = unzipSync(new Uint8Array(readFileSync(await (await downloading).path())));
  const name = Object.keys(files).find((file) => file.includes(named));
  await page.getByRole('link', { name: 'Fendro' }).click();
  await expect(sheet(page)).toBeVisible();
  return readWithMido(saveFile(files[name!]!, 'mid'));
}

test(
  'a tune is taken by keys, changed with the pointer, bent and left to chance, and is in the files and back',
  { tag: '@sound' },
  async ({ page }) => {
    await withoutGuide(page);
    await openFendro(page);
    await page
      .getByRole('navigation', { name: 'Running order' })
      .getByRole('button', { name: /^Verse, 8 bars, 2/ })
      .click();
    await openCloseUp(page, 'Melody');
    await page.keyboard.press('F6');
    expect(await violations(page, { only: 'fd-close-up-drawer' })).toEqual([]);

    await test.step('by keys', async () => {
      await notes(page).focus();
      await drawer(page).getByRole('combobox', { name: 'Notes snap to' }).selectOption('quarters');
      await notes(page).focus();
      await page.keyboard.press('Control+a');
      await page.keyboard.press('Delete');
      await expect(told(page)).toHaveText('0 notes');
      // D E F A | F: quarters of the scale from wherever the line began.
      for (const key of ['Enter', 'Enter', 'ArrowUp', 'Enter', 'ArrowUp', 'Enter', 'ArrowUp', 'ArrowUp'])
        await page.keyboard.press(key);
      await page.keyboard.press('Enter');
      await page.keyboard.press('ArrowDown');
      await page.keyboard.press('ArrowDown');
      await expect(told(page)).toHaveText('1 of 5 picked');
      await page.keyboard.press('Control+a');
      await expect(told(page)).toHaveText('5 of 5 picked');
      await page.keyboard.press('Control+d');
      await expect(told(page)).toHaveText('5 of 10 picked');
    });

    await test.step('with the pointer', async () => {
      const canvas = notes(page).locator('canvas.hand');
      const box = (await canvas.boundingBox())!;
      const view = (await drawer(page).locator('.scroller').boundingBox())!;
      const bar = (box.width - 8) / 8;
      const middle = view.y + view.height / 2;
      // In bar 7 nothing is played: a double click adds, a drag of its end makes it longer.
      const x = box.x + 8 + 6 * bar;
      await page.mouse.dblclick(x + 4, middle);
      await expect(told(page)).toHaveText('1 of 11 picked');
      await page.mouse.move(x + bar / 4 - 2, middle);
      await page.mouse.down();
      await page.mouse.move(x + bar / 2 - 2, middle, { steps: 4 });
      await page.mouse.up();
      await undoes(page, 'change where notes end');
      // Drawn under it: up and down again.
      await drawer(page).getByRole('combobox', { name: 'Under the notes' }).selectOption('bend');
      const strip = (await drawer(page).locator('fd-close-up-strip canvas').boundingBox())!;
      await page.mouse.move(x + 2, strip.y + strip.height / 2);
      await page.mouse.down();
      await page.mouse.move(x + bar / 4, strip.y + 16, { steps: 6 });
      await page.mouse.move(x + bar / 2 - 3, strip.y + strip.height / 2, { steps: 6 });
      await page.mouse.up();
      await undoes(page, 'bend notes');
      // A box over bars 1 and 2 picks what lies in them.
      await page.mouse.move(box.x + 2 * bar, view.y + 3);
      await page.mouse.down();
      await page.mouse.move(box.x + 2, view.y + view.height - 3, { steps: 6 });
      await page.mouse.up();
      await expect(told(page)).toHaveText(/^[5-8] of 11 picked$/);
    });

    await test.step('and sounds, is delivered and comes back', async () => {
      await page.keyboard.press('Space');
      await expect.poll(() => loudness(page, 0.5), { timeout: 20_000 }).toBeGreaterThan(0.01);
      await page.keyboard.press('Space');
      await expect(page.getByText('Saved', { exact: true })).toBeVisible();
      const before = await delivered(page, ' - Verse');
      const melody = before.notes.filter(([track]) => track === 'Melody');
      expect(melody).toHaveLength(11);
      const pitches = melody.slice(0, 5).map(([, , pitch]) => pitch - melody[0]![2]);
      expect(pitches[1]).toBeGreaterThan(0);
      expect(pitches[3]).toBeGreaterThan(pitches[2]!);
      expect(pitches[4]).toBe(pitches[2]);
      expect(before.hanging).toBe(0);
      const bends = before.bends.filter(([track]) => track === 'Melody');
      expect(bends.length).toBeGreaterThan(6);
      expect(Math.max(...bends.map(([, , value]) => value))).toBeGreaterThan(2000);
      expect(bends.at(-1)![2]).toBe(0);
      expect(before.controllers.filter(([, , controller]) => controller === 6)).toHaveLength(1);
      await page.reload();
      await expect(sheet(page)).toBeVisible({ timeout: 20_000 });
      const again = await delivered(page, ' - Verse');
      expect([again.notes, again.bends]).toEqual([before.notes, before.bends]);
    });

    await test.step('drums have rows by name, and are struck where one clicks twice', async () => {
      await page
        .getByRole('navigation', { name: 'Running order' })
        .getByRole('button', { name: /^Verse, 8 bars, 2/ })
        .click();
      await openCloseUp(page, 'Drums');
      const count = Number(/\d+/.exec(await told(page).innerText())![0]);
      const snare = (await drawer(page).getByText('snare', { exact: true }).boundingBox())!;
      const box = (await notes(page).locator('canvas.hand').boundingBox())!;
      await page.mouse.dblclick(box.x + 8 + (box.width - 8) / 16 + 3, snare.y + snare.height / 2);
      await expect(told(page)).toHaveText(`1 of ${count + 1} picked`);
      await page.keyboard.press('Control+z');
      await expect(told(page)).toHaveText(new RegExp(`${count}`));
    });
  },
);

test('one place is lifted, rests and fades, a section slows down, chords are moved note by note: all of it in the file', async ({
  page,
}) => {
  await withoutGuide(page);
  await openFendro(page);
  const order = page.getByRole('navigation', { name: 'Running order' });
  const before = await delivered(page, 'Barometer Falling.mid');

  await test.step('the last chorus', async () => {
    await order.getByRole('button', { name: /^Chorus, 8 bars, 7/ }).click();
    await sheet(page)
      .getByRole('button', { name: /^Drums,/ })
      .click();
    await page.keyboard.press('Alt+PageUp');
    await page.keyboard.press('Alt+PageUp');
    // Bar 1, where the cursor stands: there and back.
    await page.keyboard.press('Shift+ArrowRight');
    await page.keyboard.press('Shift+ArrowLeft');
    await page.keyboard.press('Shift+q');
    await expect(page.getByRole('note', { name: 'In this place' })).toContainText(
      '2 semitones up; without Drums in bar 1',
    );
    await page.keyboard.press('Escape');
    await sheet(page)
      .getByRole('button', { name: /^Melody,/ })
      .click();
    await page.keyboard.press('Shift+f');
    await expect(
      order.getByRole('button', { name: /2 semitones up, without Drums in bar 1, level of Melody/ }),
    ).toBeVisible();
  });

  await test.step('the bridge slows down', async () => {
    await order.getByRole('button', { name: /^Bridge,/ }).click();
    await page.getByRole('button', { name: 'Own key …' }).click();
    await page.getByRole('textbox', { name: 'Tempo at the section’s end' }).fill('64');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('button', { name: 'to ♩ = 64' })).toBeVisible();
  });

  await test.step('a bar of seven eighths stands in the verse', async () => {
    await order.getByRole('button', { name: /^Verse, 8 bars, 2/ }).click();
    await sheet(page)
      .getByRole('button', { name: /^Melody,/ })
      .click();
    await page.keyboard.press('F6');
    await sheet(page)
      .getByRole('button', { name: /^Melody,/ })
      .focus();
    for (let bar = 0; bar < 3; bar++) await page.keyboard.press('ArrowRight');
    await page.getByRole('button', { name: 'What is otherwise in this place' }).click();
    await page.getByRole('menuitem', { name: 'Bar 4 in a metre of its own' }).click();
    await page.getByRole('menuitem', { name: '7/8', exact: true }).click();
    await expect(order.getByRole('button', { name: /^Verse bar 4, 1 bars, 3/ })).toBeVisible();
  });

  await test.step('the top of a chord is moved', async () => {
    await sheet(page).getByRole('button', { name: 'Chords', exact: true }).first().click();
    await page.keyboard.press('z');
    await notes(page).focus();
    for (const key of ['ArrowRight', 'ArrowRight', 'ArrowRight', 'Shift+ArrowUp', 'Shift+ArrowUp'])
      await page.keyboard.press(key);
    await undoes(page, 'move notes by semitones');
    await expect(drawer(page).getByRole('button', { name: 'In their rhythm again' })).toBeEnabled();
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Shift+Control+z');
    await expect(drawer(page).getByRole('button', { name: 'In their rhythm again' })).toBeEnabled();
  });

  await test.step('and the file says so, after a reload too', async () => {
    await expect(page.getByText('Saved', { exact: true })).toBeVisible();
    await page.reload();
    await expect(sheet(page)).toBeVisible({ timeout: 20_000 });
    const after = await delivered(page, 'Barometer Falling.mid');
    const bar = 1920;
    // Two verses are an eighth shorter each.
    const shorter = 2 * 240;
    const [from, to] = [44 * bar - shorter, 52 * bar - shorter];
    const inside = ([, start]: (typeof after.notes)[number]) => start >= from - 40 && start < to - 40;
    const part = (file: typeof after, name: string) => file.notes.filter((note) => note[0] === name && inside(note));
    const as = before.notes.filter(
      ([track, start]) => track === 'Melody' && start >= 44 * bar - 40 && start < 52 * bar - 40,
    );
    expect(part(after, 'Melody').map(([, , pitch]) => pitch)).toEqual(as.map(([, , pitch]) => pitch + 2));
    expect(after.metres.map(([, metre]) => metre).slice(0, 5)).toEqual(['4/4', '7/8', '4/4', '7/8', '4/4']);
    expect(after.metres[1]).toEqual([7 * bar, '7/8']);
    expect(part(after, 'Drums').filter(([, start]) => start < from + bar - 40)).toEqual([]);
    expect(part(after, 'Drums').length).toBeGreaterThan(20);
    const levels = after.controllers.filter(
      ([track, at, controller]) => track === 'Melody' && controller === 7 && at > 0,
    );
    expect(levels.length).toBeGreaterThan(20);
    expect(levels.findLast(([, at]) => at < to)![3]).toBeLessThan(4);
    expect(levels.at(-1)).toEqual([
      'Melody',
      to,
      7,
      before.controllers.find(([track, , own]) => track === 'Melody' && own === 7)![3],
    ]);
    // The bridge is the sixth place, bars 37 to 44: over its last two bars it slows down, then the chorus is in time again.
    const slow = after.tempos.filter(([at]) => at >= 42 * bar - shorter && at < from).map(([, tempo]) => tempo);
    expect(slow.length).toBeGreaterThan(10);
    expect([Math.max(...slow) < 97, Math.min(...slow) > 63, Math.min(...slow) < 68]).toEqual([true, true, true]);
    expect(after.tempos.at(-1)).toEqual([from, expect.closeTo(96, 1)]);
    expect(after.keys.map(([at]) => at).slice(-2)).toEqual([from, to]);
    expect(after.hanging).toBe(0);
  });
});
