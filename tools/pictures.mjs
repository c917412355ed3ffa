// npm run pictures: one picture of each main view from the demo data, 1280x800, into docs/screenshots.
import { spawn } from 'node:child_process';
import { mkdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { BROWSER } from './browser.mjs';
import { ensureBuild, ensureDebian, ensureModules, root } from './ready.mjs';

ensureModules();
ensureDebian();
ensureBuild();
const { chromium } = await import('@playwright/test');

const folder = join(root, 'docs/screenshots');
mkdirSync(folder, { recursive: true });
const port = '4178';
const server = spawn(process.execPath, ['tools/run.mjs', 'server/main.ts'], {
  cwd: root,
  env: { ...process.env, PORT: port },
  stdio: ['ignore', 'pipe', 'inherit'],
});
await new Promise((resolve) => server.stdout.once('data', resolve));
const browser = await chromium.launch(BROWSER);
const page = await (
  await browser.newContext({ viewport: { width: 1280, height: 800 }, serviceWorkers: 'block', colorScheme: 'light' })
).newPage();
page.setDefaultTimeout(20_000);
const settle = () => page.waitForTimeout(500);
const picture = async (name) => {
  await page.mouse.move(640, 780);
  await settle();
  await page.screenshot({ path: join(folder, `${name}.png`) });
};

try {
  await page.goto(`http://localhost:${port}/`);
  await page.getByRole('region', { name: 'Sheet' }).waitFor();
  await picture('first-start');
  await page.getByRole('button', { name: 'Put the first minute away' }).click();
  await page.getByRole('button', { name: /^Chorus, 8 bars, 3/ }).click();
  // A run-through: takes come in by themselves.
  await page.keyboard.press('u');
  await page.getByRole('button', { name: 'Stop', exact: true }).waitFor();
  await page.waitForTimeout(6000);
  await picture('auditioning');
  await page.keyboard.press('u');
  await page.keyboard.press(' ');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Plan', exact: true }).click();
  await page.getByRole('textbox', { name: 'Name of Hook of Chorus' }).waitFor();
  await picture('plan');
  await page.getByRole('button', { name: 'Plan', exact: true }).click();
  await page.getByRole('button', { name: 'Chords', exact: true }).click();
  await page.getByRole('button', { name: /^Bar 3 beat 1,/ }).click();
  await page.getByLabel('Chord', { exact: true }).fill('Bb/F');
  await picture('chords');
  await page.keyboard.press('Escape');
  await page.getByRole('tab', { name: 'Next' }).click();
  await page.getByRole('listbox', { name: 'What could come next' }).focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Escape');
  await page.getByRole('tab', { name: 'Voicing' }).click();
  await page.getByLabel('Voiced for').selectOption('guitar');
  await page.getByRole('button', { name: /^Bar 5 beat 1,/ }).focus();
  await page.keyboard.press('Shift+M');
  await page.getByRole('button', { name: 'Letters play' }).waitFor();
  await page.keyboard.down('e');
  await page.keyboard.down('j');
  await picture('play-desk');
  await page.keyboard.up('j');
  await page.keyboard.up('e');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Play desk', exact: true }).click();
  await page.getByRole('tab', { name: 'Draft' }).click();
  await page.keyboard.press('Control+z');
  if (await page.getByRole('button', { name: 'Stop' }).isVisible())
    await page.getByRole('button', { name: 'Stop' }).click();
  await page.getByRole('button', { name: 'Energy', exact: true }).click();
  await page.getByRole('menuitem', { name: 'arch' }).click();
  await page.getByRole('button', { name: 'Shelf', exact: true }).click();
  const shelf = page.getByRole('region', { name: 'Shelf' });
  const put = async (what, name) => {
    await shelf.getByRole('button', { name: 'Put on the shelf …' }).click();
    await page.getByRole('menuitem', { name: what }).click();
    await shelf.getByRole('textbox', { name: /^Name for / }).fill(name);
    await page.keyboard.press('Enter');
    await shelf.getByRole('option', { name }).waitFor();
  };
  await put(/^The song without/, 'Weather form');
  await put(/^The band/, 'Weather band');
  await put(/^The chords of/, 'Harbour round');
  await page.getByRole('button', { name: /^Bass,/ }).click();
  await put(/^The brief of/, 'Deep and late');
  await put(/^The phrase that/, 'Pier walk');
  await page.getByRole('button', { name: /^Drums,/ }).click();
  await put(/^The drum pattern/, 'Rain on tin');
  await shelf.getByRole('option', { name: 'Rain on tin' }).click();
  await shelf.getByLabel('Tags of this thing, with commas between them').fill('evening, slow');
  await page.keyboard.press('Enter');
  await shelf.getByLabel('Folder of this thing').fill('Sea songs');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Stop' }).waitFor();
  await page.waitForTimeout(1500);
  await picture('shelf');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Phrases', exact: true }).click();
  await page.getByRole('button', { name: /^Keys,/ }).click();
  await page
    .getByRole('listbox', { name: /^Phrases/ })
    .getByRole('option')
    .nth(20)
    .waitFor();
  await page.getByRole('listbox', { name: /^Phrases/ }).focus();
  for (let times = 0; times < 5; times++) await page.keyboard.press('ArrowRight');
  await page.waitForTimeout(1200);
  await picture('phrases');
  await page.keyboard.press('Escape');
  if (await page.getByRole('button', { name: 'Stop' }).isVisible())
    await page.getByRole('button', { name: 'Stop' }).click();
  await page.getByRole('button', { name: /^Melody,/ }).click();
  await page.getByRole('button', { name: 'Night theme' }).click();
  await page.getByRole('button', { name: 'Mix', exact: true }).click();
  await page.keyboard.press(' ');
  await page.getByRole('button', { name: 'Stop' }).waitFor();
  await page.getByRole('button', { name: 'Tone and instruments of Melody' }).click();
  await page.waitForTimeout(2500);
  await picture('mix-at-night');
  await page.keyboard.press(' ');
  await page.getByRole('button', { name: 'Day theme' }).click();
  await page.keyboard.press('Shift+o');
  await page.getByRole('application', { name: /^The whole song/ }).focus();
  for (let bar = 0; bar < 14; bar++) await page.keyboard.press('ArrowRight');
  await picture('overview');
  await page.keyboard.press('Shift+o');
  const sheet = page.getByRole('region', { name: 'Sheet' });
  await sheet.getByRole('button', { name: /^Melody,/ }).click();
  await sheet.getByRole('button', { name: /^Melody,/ }).focus();
  for (let times = 0; times < 1; times++) await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('h');
  for (const key of ['b', 'v', 'v']) {
    await page.keyboard.press(key);
    await page.waitForTimeout(1500);
  }
  await page.keyboard.press('g');
  await page.getByRole('listbox', { name: 'Heard, the newest first' }).waitFor();
  await picture('logbook');
  await page.keyboard.press('g');
  // A guide of one round.
  if (await page.getByRole('button', { name: 'Stop' }).isVisible())
    await page.getByRole('button', { name: 'Stop' }).click();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Guide', exact: true }).click();
  await page.getByLabel('Microphone').selectOption('Simulated microphone');
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await page.waitForTimeout(15_000);
  await page.getByRole('button', { name: 'End the recording' }).click();
  await page.getByRole('img', { name: /^Guide: / }).waitFor();
  await picture('guide');
  await page.getByRole('button', { name: 'Guide', exact: true }).click();
  await page.keyboard.press('Escape');
  if (await page.getByRole('button', { name: 'Stop' }).isVisible())
    await page.getByRole('button', { name: 'Stop' }).click();
  await sheet.getByRole('button', { name: /^Melody,/ }).click();
  // Two versions of the chorus, one of them without drums and in this place only, and two notes held.
  for (const key of ['.', 'j', '.', 'j', 'h', 'Escape', 'Escape', 'e']) await page.keyboard.press(key);
  await sheet.getByRole('button', { name: /^Drums,/ }).click();
  await sheet.getByRole('button', { name: /^Drums,/ }).focus();
  for (let times = 0; times < 8; times++) await page.keyboard.press('ArrowLeft');
  for (let times = 0; times < 7; times++) await page.keyboard.press('Shift+ArrowRight');
  for (const key of ['Delete', 'Escape', '1', 'Shift+Digit2']) await page.keyboard.press(key);
  await sheet.getByRole('button', { name: /^Melody,/ }).click();
  await picture('versions');
  // Four notes of the melody are picked, and the longest of them falls off at its end.
  await page.keyboard.press('z');
  const notes = page.getByRole('application');
  await notes.focus();
  for (const key of ['ArrowRight', 'ArrowRight', 'Shift+ArrowRight', 'Shift+ArrowRight', 'Shift+ArrowRight'])
    await page.keyboard.press(key);
  await page.getByRole('button', { name: 'Behind' }).click();
  await page.getByRole('menuitemcheckbox', { name: 'Strings' }).click();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Express' }).click();
  await page.getByRole('menuitem', { name: 'fall off' }).click();
  await notes.focus();
  await picture('close-up');
  await page.keyboard.press('z');
  // A bassline of four steps, one of them tied and one of them left to chance.
  await sheet.getByRole('button', { name: /^Bass,/ }).click();
  await page.keyboard.press('Shift+N');
  await page.getByRole('button', { name: 'Draw a pattern' }).click();
  await page.getByRole('spinbutton', { name: 'Notes', exact: true }).focus();
  await page.keyboard.press('ArrowUp');
  await page.getByRole('slider', { name: 'Note', exact: true }).focus();
  for (const key of [
    'ArrowRight',
    't',
    'ArrowRight',
    'ArrowUp',
    'ArrowUp',
    'ArrowRight',
    '+',
    '+',
    '+',
    'ArrowUp',
    'h',
  ])
    await page.keyboard.press(key);
  await page.getByRole('button', { name: 'Or another note' }).click();
  await page.getByRole('button', { name: 'Likelihood: a step more' }).click();
  await page.getByRole('slider', { name: 'Likelihood', exact: true }).focus();
  for (let times = 0; times < 8; times++) await page.keyboard.press('ArrowDown');
  // The bench says what its notes go through.
  await page.getByRole('button', { name: 'Treat', exact: true }).click();
  for (const name of ['Thinned by chance', 'Echo']) await page.getByRole('button', { name, exact: true }).click();
  await page.getByRole('button', { name: 'Back to the sentence' }).click();
  await page.getByRole('slider', { name: 'Note', exact: true }).focus();
  await page.waitForTimeout(1500);
  await picture('patterns');
  await page.keyboard.press('Space');
  await page.keyboard.press('Shift+N');
  await page.getByRole('link', { name: 'Devices', exact: true }).click();
  for (const name of ['keyboard', 'controller'])
    await page.getByRole('button', { name: `Plug in: Simulated ${name}` }).click();
  for (const [slider, does] of [
    [1, 'Level of Melody'],
    [2, 'Brightness of Strings'],
  ]) {
    await page.getByRole('slider', { name: `Simulated slider ${slider}` }).fill('96');
    await page.getByRole('combobox', { name: 'What it should do' }).fill(does);
    await page.getByRole('option', { name: does, exact: true }).click();
  }
  await page.getByRole('button', { name: 'Dismiss' }).first().waitFor({ state: 'detached' });
  await page.getByRole('heading', { level: 1, name: 'Devices' }).scrollIntoViewIfNeeded();
  await picture('devices');
  for (const name of ['Songs', 'Deliver', 'Help']) {
    await page.getByRole('link', { name, exact: true }).click();
    await page.getByRole('heading', { level: 1, name }).waitFor();
    await picture(name.toLowerCase());
    if (name !== 'Deliver') continue;
    const downloading = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Download Barometer Falling.mid' }).click();
    const file = await (await downloading).path();
    await page.getByRole('link', { name: 'Songs', exact: true }).click();
    await page.getByRole('link', { name: /^Bring in/ }).click();
    await page
      .getByLabel('Choose a MIDI file')
      .setInputFiles({ name: 'barometer-falling.mid', mimeType: 'audio/midi', buffer: readFileSync(file) });
    await page.getByText(/chords were found/).waitFor();
    await picture('bring-in');
  }
} finally {
  await browser.close();
  server.kill('SIGTERM');
}
