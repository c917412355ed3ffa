import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { symbols } from './support/chords';
import { loudness } from './support/recorder';
import { readWithMido, saveFile } from './support/midi';
import { expect, find, openFendro, startSong, test, withoutGuide } from './support/test';

const cell = (page: Page, bar: number, beat = 1) =>
  page.getByRole('button', { name: new RegExp(`^Bar ${bar} beat ${beat},`) });
const newSong = (page: Page) =>
  startSong(page, {
    title: 'Snow Line',
    key: 'C',
    scale: 'Major',
    style: 'Singer-songwriter',
    metre: '4/4',
    tempo: '96',
  });

test.beforeEach(async ({ page }) => {
  await withoutGuide(page);
});

test('sixteen bars with a borrowed chord, a slash chord and a half cadence, voiced for guitar, by keyboard in under a minute', async ({
  page,
}) => {
  await newSong(page);
  const since = Date.now();
  const keyboard = page.keyboard;
  // The bars field stands first in the sheet; F6 leads there from the song line.
  await page.getByRole('spinbutton', { name: 'Bars', exact: true }).focus();
  await keyboard.press('Control+a');
  await keyboard.type('16');
  await keyboard.press('Enter');
  await cell(page, 1).focus();
  await keyboard.press('Enter');
  await keyboard.type('C | Am7 | F | Fm | C/E | Am7 | Dm7 G7 | C | % | Am7 | F | Fm | C/E | Am7 | Dm7 | G');
  await keyboard.press('Enter');
  await keyboard.press('Escape');
  await keyboard.press('F6');
  for (let times = 0; times < 3; times++) await keyboard.press('ArrowRight');
  // A songwriter sees the panel before going into it.
  await expect(page.getByRole('tab', { name: 'Voicing' })).toBeFocused();
  await expect(page.getByLabel('Voiced for')).toBeVisible();
  await keyboard.press('Tab');
  await expect(page.getByLabel('Voiced for')).toBeFocused();
  await keyboard.press('g');
  await expect(page.getByLabel('Voiced for')).toHaveValue('guitar');
  expect((Date.now() - since) / 1000).toBeLessThan(60);
  await expect
    .poll(() => symbols(page))
    .toEqual([
      '1.1 C',
      '2.1 Am7',
      '3.1 F',
      '4.1 Fm',
      '5.1 C/E',
      '6.1 Am7',
      '7.1 Dm7',
      '7.3 G7',
      '8.1 C',
      '9.1 C',
      '10.1 Am7',
      '11.1 F',
      '12.1 Fm',
      '13.1 C/E',
      '14.1 Am7',
      '15.1 Dm7',
      '16.1 G',
    ]);
  await expect(page.getByText(/a voice moves [\d.]+ semitones from chord to chord/)).toBeVisible();
  // It sounds, and what is delivered can be played on six strings: never more than six notes, lowest C/E on E.
  await keyboard.press('Control+e');
  const downloading = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Download Snow Line - Chords.mid' }).click();
  const { notes, hanging } = readWithMido(
    saveFile(new Uint8Array(readFileSync(await (await downloading).path())), 'mid'),
  );
  expect(hanging).toBe(0);
  const at = (tick: number) =>
    notes
      .filter(([, start]) => start === tick)
      .map(([, , pitch]) => pitch)
      .sort((a, b) => a - b);
  for (let bar = 0; bar < 16; bar++) {
    expect(at(bar * 1920).length).toBeGreaterThanOrEqual(3);
    expect(at(bar * 1920).length).toBeLessThanOrEqual(6);
    expect(at(bar * 1920)[0]).toBeGreaterThanOrEqual(40);
  }
  expect(at(4 * 1920)[0]! % 12).toBe(4);
});

test('chords are typed, marked where they cannot be read, and edited from the keyboard', async ({ page }) => {
  await newSong(page);
  await cell(page, 1).click();
  await page.keyboard.type('C Am');
  await page.keyboard.press('Enter');
  await page.keyboard.type('Gsuss4');
  await expect(page.getByRole('alert')).toContainText('↓ puts in Gsus4');
  // Down puts in one reading after the other, until it is back at the first.
  const caret = page.getByRole('textbox', { name: 'Chord', exact: true });
  const offered: string[] = [];
  for (let times = 0; times < 4; times++) {
    await page.keyboard.press('ArrowDown');
    offered.push(await caret.inputValue());
  }
  expect(new Set(offered).size).toBe(3);
  expect([offered[0], offered[3]]).toEqual(['Gsus4', 'Gsus4']);
  await caret.fill('Gsuss4');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await expect.poll(() => symbols(page)).toEqual(['1.1 C', '1.3 Am', '2.1 Gsuss4, cannot be read']);
  await page.getByRole('button', { name: 'Gsus4', exact: true }).click();
  await expect.poll(() => symbols(page)).toEqual(['1.1 C', '1.3 Am', '2.1 Gsus4']);

  const keys = async (...pressed: string[]): Promise<void> => {
    for (const key of pressed) await page.keyboard.press(key);
  };
  await cell(page, 1, 3).focus();
  await keys('Alt+ArrowRight');
  await expect.poll(() => symbols(page)).toEqual(['1.1 C', '1.4 Am', '2.1 Gsus4']);
  await keys('Alt+ArrowUp', 'Shift+Alt+ArrowDown');
  await expect.poll(() => symbols(page)).toEqual(['1.1 C', '1.4 A♯dim', '2.1 Gsus4']);
  await keys('Control+z', 'Control+z', 'Control+z');
  await expect.poll(() => symbols(page)).toEqual(['1.1 C', '1.3 Am', '2.1 Gsus4']);

  // Bars 1 and 2, selected and repeated, then reversed.
  await page.getByRole('button', { name: 'Chords', exact: true }).focus();
  await keys('Shift+ArrowRight');
  await page.getByRole('button', { name: 'Repeat', exact: true }).click();
  await expect.poll(() => symbols(page)).toEqual(['1.1 C', '1.3 Am', '2.1 Gsus4', '3.1 C', '3.3 Am', '4.1 Gsus4']);
  await page.getByRole('button', { name: 'Reverse', exact: true }).click();
  await expect
    .poll(() => symbols(page))
    .toEqual(['1.1 C', '1.3 Am', '2.1 Gsus4', '3.1 Gsus4', '4.1 Am', '4.3 C', '5.1 Gsus4']);
  await page.getByRole('button', { name: 'Copy', exact: true }).click();
  await cell(page, 7).focus();
  await keys('Escape', 'Control+v');
  await expect.poll(async () => (await symbols(page)).slice(-4)).toEqual(['5.1 Gsus4', '7.1 Gsus4', '8.1 Am', '8.3 C']);
  await page.getByLabel('Grid for chords').selectOption('triplet');
  await page.getByRole('button', { name: /^Bar 7 beat 1 and 160 ticks/ }).focus();
  await keys('s');
  await expect.poll(() => symbols(page)).toContain('7.1+160 Gsus4');
  await keys('j');
});

test('ideas are heard before they are taken, and the band follows', { tag: '@sound' }, async ({ page }) => {
  await openFendro(page);
  const bench = page.getByRole('complementary', { name: 'Bench' });
  await page.getByRole('button', { name: 'Chords', exact: true }).click();
  const before = await symbols(page);
  await bench.getByRole('tab', { name: 'Next' }).click();
  const ideas = bench.getByRole('listbox', { name: 'What could come next' });
  await ideas.focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await expect(ideas.getByRole('option', { selected: true })).toContainText('·');
  await expect.poll(() => loudness(page, 0.4), { timeout: 20_000 }).toBeGreaterThan(0.01);
  const heard = await symbols(page);
  await page.keyboard.press('ArrowDown');
  await expect.poll(() => symbols(page)).not.toEqual(heard);
  await page.keyboard.press('Escape');
  await expect.poll(() => symbols(page)).toEqual(before);
  await ideas.focus();
  for (let times = 0; times < 4; times++) await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect.poll(() => symbols(page)).not.toEqual(before);
  await page.keyboard.press('Control+z');
  await expect.poll(() => symbols(page)).toEqual(before);

  await bench.getByRole('tab', { name: 'Pick' }).click();
  await bench.getByLabel('Find progressions by words').fill('blues twelve');
  await expect(bench.getByRole('listbox', { name: 'Progressions' }).getByRole('option')).not.toHaveCount(0);
  await bench.getByLabel('Find progressions by words').fill('soul sevenths 8 bars');
  const found = bench.getByRole('listbox', { name: 'Progressions' });
  await expect(found.getByRole('option').first()).toContainText('soul');
  await found.focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('y');
  await expect(found.getByRole('option', { selected: true })).toContainText('kept');
  await page.keyboard.press('Enter');
  const taken = await symbols(page);
  expect(taken).not.toEqual(before);
  await page.getByRole('button', { name: /^Bass,/ }).click();
  await expect(bench.getByText('Moved to these chords.')).toBeVisible();
  await bench.getByRole('button', { name: 'Redraft to these chords' }).click();
  await expect(bench.getByText('Moved to these chords.')).toBeHidden();
  await page.reload();
  await page.getByRole('button', { name: 'Chords', exact: true }).click();
  await expect.poll(() => symbols(page)).toEqual(taken);
  await bench.getByRole('tab', { name: 'Pick' }).click();
  await bench.getByLabel('only what I kept').check();
  await expect(bench.getByRole('listbox', { name: 'Progressions' }).getByRole('option')).toHaveCount(1);
});

test('voicing, rhythm and facts of chords are set in the bench and given to a part', async ({ page }) => {
  await openFendro(page);
  const bench = page.getByRole('complementary', { name: 'Bench' });
  await page.getByRole('button', { name: 'Chords', exact: true }).click();
  await cell(page, 2).focus();
  await bench.getByRole('tab', { name: 'Facts' }).click();
  await expect(bench.getByText(/% against the key/)).toBeVisible();
  await bench.getByRole('tab', { name: 'Voicing' }).click();
  await bench.getByLabel('Inversion').selectOption({ label: 'third lowest' });
  await bench.getByLabel('Spread', { exact: true }).selectOption('drop 2');
  await bench.getByLabel('lead smoothly').uncheck();
  await bench.getByLabel('lead smoothly').check();
  const lowest = bench.getByRole('row').last();
  const name = await lowest.getByRole('cell').first().textContent();
  await lowest.getByRole('button', { name: /up$/ }).click();
  await expect(lowest.getByRole('cell').first()).not.toHaveText(name ?? '');
  await bench.getByRole('button', { name: 'Let it lead by itself again' }).click();
  await bench.getByRole('tab', { name: 'Rhythm' }).click();
  await bench.getByLabel('Find rhythms by words').fill('off-beat');
  await bench.getByRole('listbox', { name: 'Rhythms' }).focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(bench.getByText(/^Now: off-beat/)).toBeVisible();
  await bench.getByRole('button', { name: 'Sixteenth 1: sounds on' }).click();
  await expect(bench.getByText(/^Now: own rhythm/)).toBeVisible();
  await bench.getByLabel('Name for the rhythm').fill('Sleet');
  await bench.getByRole('button', { name: 'Save', exact: true }).click();
  await bench.getByLabel('Find rhythms by words').fill('sleet');
  await expect(bench.getByRole('listbox', { name: 'Rhythms' }).getByRole('option')).toHaveCount(1);
  await bench.getByRole('tab', { name: 'Voicing' }).click();
  await bench.getByRole('button', { name: 'Keys', exact: true }).click();
  await page.getByRole('button', { name: /^Keys,/ }).click();
  await expect(
    bench.getByRole('listbox', { name: 'Takes' }).getByRole('option', { selected: true }),
  ).toHaveAccessibleName(/chosen$/);
});

test('a change of key asks once how the music follows, is heard, and can be left', async ({ page }) => {
  await openFendro(page);
  await page.getByRole('button', { name: 'Chords', exact: true }).click();
  const before = await symbols(page);
  await page.getByLabel('Key', { exact: true }).selectOption('E');
  const ask = page.getByRole('region', { name: 'How the music follows the change' });
  await expect(ask).toContainText('from D dorian to E dorian');
  const moved = await symbols(page);
  expect(moved).not.toEqual(before);
  await ask.getByRole('radio', { name: 'stays as it is' }).check();
  await expect.poll(() => symbols(page)).toEqual(before);
  await ask.getByRole('radio', { name: 'moves by the interval' }).check();
  await ask.getByRole('button', { name: 'Change', exact: true }).click();
  await expect(ask).toBeHidden();
  await expect.poll(() => symbols(page)).toEqual(moved);
  await page.keyboard.press('Control+z');
  await expect.poll(() => symbols(page)).toEqual(before);
  await find(page, page.getByLabel('Scale', { exact: true }), 'Phrygian');
  await expect(ask.getByRole('radio', { name: 'is re-fitted to the scale' })).toBeChecked();
  await ask.getByRole('button', { name: 'Leave as it was' }).click();
  await expect.poll(() => symbols(page)).toEqual(before);

  // One section on ground of its own.
  await page.getByRole('button', { name: /^Own key/ }).click();
  await page.getByLabel('Section metre').selectOption('3/4');
  await page.getByLabel('Section tempo').fill('70');
  await page.getByLabel('Section tempo').press('Enter');
  await expect(page.getByRole('button', { name: '3/4, ♩ = 70' })).toBeVisible();
  await page.getByRole('link', { name: 'Deliver' }).click();
  await expect(page.getByText('Sections with a key, metre or tempo of their own carry it.')).toBeVisible();
});

test('own scales and weights of degrees are obeyed by what is drafted', async ({ page }) => {
  await newSong(page);
  await page.getByRole('button', { name: 'Weights and own scales' }).click();
  await page.getByLabel('Name of your scale').fill('Graupel');
  await page.getByLabel('Degrees of your scale').fill('1 3 2');
  await page.getByRole('button', { name: 'Use it' }).click();
  await expect(page.getByRole('alert')).toContainText('rise from 1');
  await page.getByLabel('Degrees of your scale').fill('1 2 b3 5 b6 b7');
  await page.getByRole('button', { name: 'Use it' }).click();
  await expect(page.getByLabel('Scale', { exact: true })).toHaveValue('Graupel');
  await page.getByLabel('Weight of 2 D in %').fill('0');
  await page.getByLabel('Weight of 2 D in %').press('Enter');
  await page.getByRole('button', { name: /^Melody,/ }).click();
  await page.getByRole('button', { name: 'Draft takes' }).click();
  await expect(page.getByRole('listbox', { name: 'Takes' }).getByRole('option')).toHaveCount(8);
  await page.keyboard.press('Enter');
  await page.keyboard.press('Control+e');
  const downloading = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Download 01 Melody.mid' }).click();
  const { notes } = readWithMido(saveFile(new Uint8Array(readFileSync(await (await downloading).path())), 'mid'));
  expect(notes.length).toBeGreaterThan(5);
  expect(notes.every(([, , pitch]) => pitch % 12 !== 2)).toBe(true);
});

test('chords go under a melody in several readings with reasons, and held chords stay', async ({ page }) => {
  await openFendro(page);
  const bench = page.getByRole('complementary', { name: 'Bench' });
  await page.getByRole('button', { name: 'Chords', exact: true }).click();
  const first = (await symbols(page))[0];
  await cell(page, 1).focus();
  await page.keyboard.press('h');
  await expect(cell(page, 1)).toHaveAccessibleName(/held$/);
  await bench.getByLabel('Chords under a melody').selectOption('Melody');
  await bench.getByRole('button', { name: 'Draft takes' }).click();
  await expect(bench.getByText(/% of the melody in its chord/)).toBeVisible();
  for (let times = 0; times < 4; times++) {
    await page.keyboard.press('ArrowDown');
    expect((await symbols(page))[0]?.replace(', held', '')).toBe(first);
  }
});

test(
  'a MIDI file is looked at, heard and brought in, as a song or into this one, in one step',
  { tag: '@sound' },
  async ({ page }) => {
    await openFendro(page);
    await page.keyboard.press('Control+e');
    const downloading = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Download Barometer Falling.mid' }).click();
    const bytes = readFileSync(await (await downloading).path());
    await page.getByRole('link', { name: 'Songs' }).click();
    await page.getByRole('link', { name: /^Bring in/ }).click();
    const choose = page.getByLabel('Choose a MIDI file');
    await choose.setInputFiles({ name: 'broken.mid', mimeType: 'audio/midi', buffer: bytes.subarray(0, 100) });
    await expect(page.getByRole('alert')).toContainText('ends before its first note');
    const most = bytes.subarray(0, Math.round(bytes.length * 0.8));
    await choose.setInputFiles({ name: 'torn.mid', mimeType: 'audio/midi', buffer: most });
    await expect(page.getByText(/The file breaks off in “.+”/)).toBeVisible();
    await choose.setInputFiles({ name: 'storm.mid', mimeType: 'audio/midi', buffer: bytes });
    await expect(page.getByText(/It says that it is in D dorian/i)).toBeVisible();
    await expect(page.getByRole('checkbox', { name: /^Bring in/ })).toHaveCount(6);
    await page.getByRole('button', { name: 'Hear what is picked' }).click();
    await expect.poll(() => loudness(page, 0.5), { timeout: 20_000 }).toBeGreaterThan(0.01);
    await page.getByRole('checkbox', { name: 'Bring in Strings' }).uncheck();
    await page.getByRole('button', { name: 'Bring it into this song' }).click();
    const order = page.getByRole('navigation', { name: 'Running order' });
    await expect(order.getByRole('button', { name: /bars, \d+ of 16/ })).toHaveCount(16);
    await page.keyboard.press('Control+z');
    await expect(order.getByRole('button', { name: /bars, \d+ of 8/ })).toHaveCount(8);

    await page.getByRole('link', { name: 'Songs' }).click();
    await page.getByRole('link', { name: /^Bring in/ }).click();
    await choose.setInputFiles({ name: 'storm.mid', mimeType: 'audio/midi', buffer: bytes });
    for (const line of ['Strings', 'Bass', 'Keys', 'Guitar'])
      await page.getByRole('checkbox', { name: `Bring in ${line}` }).uncheck();
    await page.getByRole('checkbox', { name: 'Fit a band to it' }).check();
    const told = page.getByText(/^As a song of its own: .*Bass.* drafted to its tempo, key/);
    await expect(told).toBeVisible();
    await page.getByRole('button', { name: 'Make it a song of its own' }).click();
    await expect(page.getByLabel('Song title')).toHaveValue('storm');
    await expect(order.getByRole('button', { name: /bars, \d+ of 8/ })).toHaveCount(8);
    // What it lacked is drafted beside what it has, which has its one take still.
    await page.getByRole('button', { name: /^Bass,/ }).click();
    const takes = page.getByRole('listbox', { name: 'Takes' });
    await expect(takes.getByRole('option')).toHaveCount(2, { timeout: 60_000 });
    await page.getByRole('button', { name: /^Melody,/ }).click();
    await expect(takes.getByRole('option')).toHaveCount(1);
    await page.getByRole('button', { name: 'Chords', exact: true }).click();
    await expect.poll(async () => (await symbols(page)).length).toBeGreaterThan(6);
  },
);

test('a chord chart is written, stays over a reload, and becomes a song or the end of this one', async ({ page }) => {
  await openFendro(page);
  const order = page.getByRole('navigation', { name: 'Running order' });
  const open = async (): Promise<void> => {
    await page.getByRole('link', { name: 'Songs' }).click();
    await page.getByRole('link', { name: /^Bring in/ }).click();
    await page.getByRole('tab', { name: 'Chords as text' }).click();
  };
  await open();
  const chart = page.getByRole('textbox', { name: 'Chord chart' });
  await chart.fill('It snows again.');
  await expect(page.getByRole('status').filter({ hasText: 'No chords were found' })).toBeVisible();
  await chart.fill('Mast in the Fog\nKey: G  Tempo: 92\n[Verse]\nG / / D/F# | H7 | C6(9) | D\nChorus x2\n|: 4 | 5 :|');
  await expect(page.getByText('“H7” in Verse could not be read')).toBeVisible();
  await page.getByRole('checkbox', { name: 'H is B, and B is B♭' }).check();
  await expect(page.getByRole('list', { name: 'Bars of Verse' }).getByRole('listitem')).toHaveText([
    /G\s*D\s*\/F♯/,
    /B\s*7/,
    /C\s*6\/9/,
    /D/,
  ]);
  await page.reload();
  await page.getByRole('tab', { name: 'Chords as text' }).click();
  await expect(page.getByText('2 sections, 12 bars of 4/4 as they are played, 92 beats a minute.')).toBeVisible();
  await page.getByRole('button', { name: 'Put it at the end of “Barometer Falling”' }).click();
  await expect(order.getByRole('button', { name: /bars, \d+ of 11/ })).toHaveCount(11);
  await page.keyboard.press('Control+z');
  await expect(order.getByRole('button', { name: /bars, \d+ of 8/ })).toHaveCount(8);
  await open();
  await page.getByRole('button', { name: 'Make it a song of its own' }).click();
  await expect(page.getByLabel('Song title')).toHaveValue('Mast in the Fog');
  await expect(order.getByRole('button', { name: /bars, \d+ of 3/ })).toHaveCount(3);
  await page.getByRole('button', { name: 'Chords', exact: true }).click();
  await expect.poll(() => symbols(page)).toEqual(['1.1 G', '1.4 D/F♯', '2.1 B7', '3.1 C6/9', '4.1 D']);
});
