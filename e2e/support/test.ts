import { expect, test as base, type Locator, type Page } from '@playwright/test';
import { MUTE_ADDRESS, playMute } from './mute-processor';
import { PLAIN_SOUNDS, RECORDER_ADDRESS, recordSound } from './recorder';
import { skipDecoding, saveData } from './page-setup';

/** What is tagged so is recorded as it sounds, and runs when nothing else takes the machine's time. */
const SOUND = '@sound';

/** Messages that say nothing about Fendro: Playwright's about service workers that it keeps out. */
const EXPECTED = [/Service Worker registration blocked/];

/**
 * Every test fails on errors and warnings in the console, on requests that leave the page's origin, and on policy
 * violations.
 */
export const test = base.extend<{
  problems: string[];
  troubled: boolean;
  savesData: boolean;
  plainSounds: 'short' | 'whole' | null;
}>({
  serviceWorkers: 'block',
  /** How the sounds come decoded, which takes a page two seconds: short where nobody listens; not at all where null. */
  plainSounds: [async ({}, use, { tags }) => use(tags.includes(SOUND) ? 'whole' : 'short'), { option: true }],
  extraHTTPHeaders: async ({ plainSounds }, use) => use(plainSounds ? { [PLAIN_SOUNDS]: plainSounds } : {}),
  /** Whether the data saver is on. Without fetching ahead a test needs a fifth less CPU time. */
  savesData: [true, { option: true }],
  /** True where a test makes trouble that the console tells of. */
  troubled: [false, { option: true }],
  problems: [
    async ({ page, baseURL, troubled, savesData, plainSounds }, use, { tags }) => {
      const problems: string[] = [];
      if (savesData) await page.addInitScript(saveData);
      if (plainSounds) await page.addInitScript(skipDecoding);
      if (plainSounds === 'short') await page.addInitScript(playMute, MUTE_ADDRESS);
      page.on('console', (message) => {
        if (['error', 'warning'].includes(message.type()) && !EXPECTED.some((known) => known.test(message.text())))
          problems.push(`${message.type()}: ${message.text()}`);
      });
      page.on('pageerror', (error) => problems.push(`page error: ${error.message}`));
      page.on('request', (request) => {
        const own = [baseURL, 'data:', `blob:${baseURL}`].some((origin) => origin && request.url().startsWith(origin));
        if (!own) problems.push(`left the origin: ${request.url()}`);
      });
      if (tags.includes(SOUND)) await listenIn(page);
      await use(problems);
      if (!troubled) expect(problems).toEqual([]);
    },
    { auto: true },
  ],
});

/** Records what a page plays from its first sound on. */
export async function listenIn(page: Page): Promise<void> {
  await page.addInitScript(recordSound, RECORDER_ADDRESS);
}

/** Opens Fendro and waits until a song is there. */
export async function openFendro(page: Page, path = '/'): Promise<void> {
  await page.goto(path);
  await waitForSheet(page);
}

/**
 * Waits until a song is open. `expect` would take a slow snapshot of the whole page at every failed attempt.
 */
export const waitForSheet = (page: Page): Promise<void> =>
  page.getByRole('region', { name: 'Sheet' }).waitFor({ timeout: 30_000 });

/** Waits until the music has come to these places, as the readout says them, one after the other; it misses none. */
export const passes = (page: Page, places: readonly string[]): Promise<void> =>
  page.evaluate(async (wanted) => {
    const readout = document.querySelector('[role=timer]');
    if (!readout) throw new Error('there is no readout');
    for (const place of wanted)
      await new Promise<void>((come) => {
        const look = (): void => {
          if (readout.textContent.trim() !== place) return;
          observer.disconnect();
          come();
        };
        const observer = new MutationObserver(look);
        observer.observe(readout, { characterData: true, childList: true, subtree: true });
        look();
      });
  }, places);

/**
 * Clicks a button in a region as soon as it appears. Call it before the action that brings the button: a click from
 * outside the page could come when the work to be cancelled is over.
 */
export const clickAsItComes = (region: Locator, name: string): Promise<void> =>
  region.evaluate(
    (box, wanted) =>
      new Promise<void>((done) => {
        const look = (): void => {
          const button = [...box.querySelectorAll('button')].find(({ textContent }) => textContent.trim() === wanted);
          if (!button) return;
          observer.disconnect();
          button.click();
          done();
        };
        const observer = new MutationObserver(look);
        observer.observe(box, { childList: true, subtree: true });
        look();
      }),
    name,
  );

/** Puts the guided strip away, which would take room in every other test. */
export async function withoutGuide(page: Page): Promise<void> {
  await page.addInitScript(() => {
    localStorage.setItem('fendro first minute', '-1');
  });
}

export interface NewSong {
  readonly title: string;
  readonly key: string;
  readonly scale: string;
  readonly style: string;
  readonly metre: string;
  readonly tempo: string;
}

/** Finds something in a long list by its name, and takes it. */
export async function find(page: Page, field: Locator, name: string): Promise<void> {
  await field.fill(name);
  await page.getByRole('option', { name, exact: true }).click();
  await expect(field).toHaveValue(name);
}

/** A notice that is open. The announcer says it too, which nobody sees. */
export const notice = (page: Page, text: string | RegExp): Locator =>
  page.getByRole('list', { name: 'Messages' }).getByText(text);

/** Does something of the menu that stands beside the verdict on a take. */
export async function further(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name: 'Further for takes' }).click();
  await page.getByRole('menuitem', { name, exact: true }).click();
}

/** What that menu offers now. */
export async function furtherItems(page: Page): Promise<readonly string[]> {
  await page.getByRole('button', { name: 'Further for takes' }).click();
  const items = await page.getByRole('menuitem').allInnerTexts();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('menu')).toBeHidden();
  // Escape gives the focus back to the button; the writer goes on with the takes.
  await page.getByRole('listbox', { name: 'Takes' }).focus();
  return items.map((text) => text.trim());
}

/** Starts a song on the Songs page. Where nothing is open yet, that page is: drawing another song first takes longer. */
export async function startSong(page: Page, song: NewSong): Promise<void> {
  if (page.url() === 'about:blank') await page.goto('/songs');
  else await page.getByRole('link', { name: 'Songs' }).click();
  const form = page.getByRole('form', { name: 'New song' });
  // The page stands before its form is bound to it: what is typed in that moment is lost. A style is shown once it is.
  await expect(form.getByLabel('Style')).not.toHaveValue('');
  await form.getByLabel('Title').fill(song.title);
  await find(page, form.getByLabel('Style'), song.style);
  await find(page, form.getByLabel('Scale'), song.scale);
  await form.getByLabel('Key').selectOption(song.key);
  await form.getByLabel('Metre').selectOption(song.metre);
  await form.getByLabel('Tempo').fill(song.tempo);
  await form.getByRole('button', { name: 'Start the song' }).click();
  await expect(page.getByLabel('Song title')).toHaveValue(song.title);
  await waitForSheet(page);
}

/** Drafts the whole band of the section in view, and waits until all of it is there. */
export async function draftBand(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Draft the band' }).click();
  // Two pictures later the page shows that it is at work.
  await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  const bench = page.getByRole('complementary', { name: 'Bench' });
  await bench.getByRole('button', { name: 'Draft takes' }).waitFor({ timeout: 60_000 });
}

export { expect };
