import { readFileSync } from 'node:fs';
import type { Locator, Page } from '@playwright/test';
import { deliverSong } from '@fendro/core/files/outgoing/deliver';
import { scoreWith } from '@fendro/core/testing/scores';
import { musicOf } from '@fendro/core/testing/sounding';
import { violations } from './support/accessibility';
import { symbols } from './support/chords';
import { expect, notice, openFendro, waitForSheet, startSong, test, withoutGuide } from './support/test';

const drawer = (page: Page): Locator => page.getByRole('region', { name: 'Shelf' });
const things = (page: Page): Locator => drawer(page).getByRole('listbox', { name: 'Things on the shelf' });
const thing = (page: Page, name: string | RegExp): Locator => things(page).getByRole('option', { name });

async function openShelf(page: Page): Promise<void> {
  await page.keyboard.press('Shift+I');
  await expect(drawer(page).getByRole('heading', { name: 'Shelf' })).toBeVisible();
}

async function putThere(page: Page, what: RegExp, name: string): Promise<void> {
  await drawer(page).getByRole('button', { name: 'Put on the shelf …' }).click();
  await page.getByRole('menuitem', { name: what }).click();
  await drawer(page)
    .getByRole('textbox', { name: /^Name for / })
    .fill(name);
  await page.keyboard.press('Enter');
  await expect(thing(page, name)).toBeVisible();
}

/** A made-up song as a MIDI file. */
function midiFile(seed: number, name: string): { name: string; mimeType: string; buffer: Buffer } {
  const { score, takes } = scoreWith(seed, 0);
  return { name, mimeType: 'audio/midi', buffer: Buffer.from(deliverSong(musicOf(score, takes)).bytes) };
}

test('chords, a brief, a band and a whole start go from one song into the next, found by tags, heard before they are taken', async ({
  page,
  context,
}) => {
  await withoutGuide(page);
  await openFendro(page);
  const chords = await symbols(page);
  await openShelf(page);
  await expect(things(page)).toContainText('Nothing lies here yet');
  await putThere(page, /^The chords of /, 'Harbour round');
  await page.getByRole('button', { name: /^Bass,/ }).click();
  await putThere(page, /^The brief of Bass/, 'Deep and late');
  await putThere(page, /^The phrase that Bass plays/, 'Pier walk');
  await putThere(page, /^The band:/, 'Weather band');
  await putThere(page, /^The song without its notes/, 'Weather form');
  await expect(things(page).getByRole('option')).toHaveCount(5);

  await test.step('tags and folders are noted, and are there in another tab at once', async () => {
    await thing(page, 'Harbour round').click();
    await drawer(page).getByLabel('Tags of this thing, with commas between them').fill('evening, slow');
    await page.keyboard.press('Enter');
    await drawer(page).getByLabel('Folder of this thing').fill('Sea songs');
    await page.keyboard.press('Enter');
    await expect(thing(page, 'Harbour round')).toContainText('evening · slow');
    const second = await context.newPage();
    await openFendro(second);
    await openShelf(second);
    await expect(thing(second, 'Harbour round')).toContainText('evening · slow');
    await thing(second, 'Pier walk').click();
    await drawer(second).getByLabel('Name of this thing').fill('Quay walk');
    await second.keyboard.press('Enter');
    await expect(thing(page, 'Quay walk')).toBeVisible();
    await second.close();
  });
  expect(await violations(page, { only: 'fd-drawer-frame' })).toEqual([]);

  await test.step('in another song chords are heard, left, and taken with one key', async () => {
    const song = { title: 'Tide Table', key: 'C', scale: 'Major', style: 'Folk', metre: '4/4', tempo: '96' };
    await startSong(page, song);
    await page.reload();
    await waitForSheet(page);
    await openShelf(page);
    await drawer(page).getByRole('searchbox', { name: 'Find things by words' }).fill('slow evening');
    await expect(things(page).getByRole('option')).toHaveCount(1);
    await things(page).focus();
    await page.keyboard.press('ArrowDown');
    await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
    await expect.poll(() => symbols(page)).not.toEqual([]);
    await page.keyboard.press('Enter');
    await expect(page.getByRole('button', { name: 'Undo: take a progression' })).toBeEnabled();
    expect((await symbols(page)).length).toBeGreaterThanOrEqual(chords.length);
  });

  await test.step('a brief is heard as a take that is drafted by it, and taken with it', async () => {
    await page.getByRole('button', { name: /^Bass,/ }).click();
    await drawer(page).getByRole('searchbox', { name: 'Find things by words' }).fill('deep');
    await thing(page, 'Deep and late').click();
    const takes = page.getByRole('listbox', { name: 'Takes' }).getByRole('option');
    await expect(takes).toHaveCount(1);
    await drawer(page).getByRole('button', { name: 'Take it' }).click();
    await expect(page.getByRole('button', { name: 'Undo: take a brief' })).toBeEnabled();
    await expect(takes.first()).toHaveAccessibleName(/chosen$/);
  });

  await test.step('a band plays over the section’s chords before its sounds are the song’s', async () => {
    await drawer(page).getByRole('searchbox', { name: 'Find things by words' }).fill('weather band');
    await thing(page, 'Weather band').click();
    await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
    await expect(page.getByRole('button', { name: 'Undo: take a brief' })).toBeEnabled();
    await drawer(page).getByRole('button', { name: 'Take it' }).click();
    await expect(page.getByRole('button', { name: 'Undo: take a band set-up' })).toBeEnabled();
  });

  await test.step('a start begins a song of its own', async () => {
    await drawer(page).getByRole('searchbox', { name: 'Find things by words' }).fill('form');
    await thing(page, 'Weather form').click();
    await drawer(page).getByRole('button', { name: 'Begin a song with it' }).click();
    await expect(page.getByLabel('Song title')).toHaveValue('Weather form');
    await expect(notice(page, /is a new song/)).toBeVisible();
  });
});

test('things are shared as files, and come off the shelf and back', async ({ page }) => {
  await withoutGuide(page);
  await openFendro(page);
  await openShelf(page);
  await putThere(page, /^The chords of /, 'Harbour round');
  await thing(page, 'Harbour round').click();
  await drawer(page).getByLabel('Tags of this thing, with commas between them').fill('evening');
  await page.keyboard.press('Enter');
  const downloading = page.waitForEvent('download');
  await drawer(page).getByRole('button', { name: 'As a file' }).click();
  const download = await downloading;
  expect(download.suggestedFilename()).toBe('Harbour round.fendro-shelf');
  const buffer = readFileSync(await download.path());

  await drawer(page).getByRole('button', { name: 'Take off the shelf' }).click();
  await expect(thing(page, 'Harbour round')).toBeHidden();
  await page.getByRole('list', { name: 'Messages' }).getByRole('button', { name: 'Put it back' }).click();
  await expect(thing(page, 'Harbour round')).toContainText('evening');
  await thing(page, 'Harbour round').click();
  await drawer(page).getByRole('button', { name: 'Take off the shelf' }).click();
  await expect(thing(page, 'Harbour round')).toBeHidden();

  const opening = drawer(page).getByLabel('Files of the shelf to open');
  await opening.setInputFiles([
    { name: 'shared.fendro-shelf', mimeType: 'application/json', buffer },
    { name: 'odd.fendro-shelf', mimeType: 'application/json', buffer: Buffer.from('{}') },
  ]);
  await expect(drawer(page).getByText('shared.fendro-shelf: 1 thing came onto the shelf.')).toBeVisible();
  await expect(drawer(page).getByText(/^odd.fendro-shelf: This is no file/)).toBeVisible();
  await expect(thing(page, 'Harbour round')).toContainText('evening');
});

test('a folder of MIDI files becomes a bank of phrases and drum patterns, without doubles', async ({ page }) => {
  await withoutGuide(page);
  await openFendro(page);
  await openShelf(page);
  await drawer(page).getByRole('button', { name: 'Files of the shelf', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Bring in a folder of MIDI files …' }).click();
  const form = drawer(page).getByRole('form', { name: 'Bring in a folder of MIDI files' });
  await form.getByLabel('Where they come from').fill('Attic tapes');
  await form.getByLabel('Licence').fill('my own');
  const files = [
    midiFile(5, 'slow river.mid'),
    midiFile(6, 'low cloud.mid'),
    { name: 'broken.mid', mimeType: 'audio/midi', buffer: Buffer.from('MThd') },
    { name: 'notes.txt', mimeType: 'text/plain', buffer: Buffer.from('nothing') },
  ];
  await form.getByLabel('MIDI files', { exact: true }).setInputFiles(files);
  const told = drawer(page).getByText(
    /^\d+ phrases and \d+ drum patterns? came from 2 files;.*broken\.mid could not be read\.$/,
  );
  await expect(told).toBeVisible();
  const count = await things(page).getByRole('option').count();
  expect(count).toBeGreaterThan(6);

  await form.getByLabel('MIDI files', { exact: true }).setInputFiles(files);
  await expect(
    drawer(page).getByText(/^0 phrases and 0 drum patterns came from 2 files; \d+ doubles stayed out;/),
  ).toBeVisible();
  await expect(things(page).getByRole('option')).toHaveCount(count);
  await form.getByRole('button', { name: 'Close' }).click();

  await drawer(page)
    .getByRole('combobox', { name: 'Folder' })
    .or(drawer(page).getByLabel('Folder', { exact: true }))
    .selectOption('Attic tapes');
  await drawer(page).getByRole('searchbox', { name: 'Find things by words' }).fill('drum pattern');
  await page.getByRole('button', { name: /^Drums,/ }).click();
  await things(page).getByRole('option').first().click();
  await expect(
    drawer(page)
      .getByText(/Attic tapes, my own/)
      .first(),
  ).toBeVisible();
  await expect(drawer(page).getByRole('alert')).toBeHidden();
  await drawer(page).getByRole('button', { name: 'Take it' }).click();
  await expect(page.getByRole('button', { name: 'Undo: choose a take' })).toBeEnabled();
});
