import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { unzipSync } from 'fflate';
import { violations } from './support/accessibility';
import { recordedFrom, recordedRate } from './support/recorder';
import { draftBand, expect, startSong, test, withoutGuide } from './support/test';

// The sounds as they ship.
test.use({ plainSounds: null });

/** The song and its parts as files of sound. */

interface Wav {
  readonly rate: number;
  readonly bits: number;
  readonly left: Float64Array;
}

/** The left channel of a WAV file, as any program reads it. */
function readWav(bytes: Uint8Array): Wav {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const word = (at: number): string => String.fromCharCode(...bytes.subarray(at, at + 4));
  expect([word(0), word(8), word(12), word(36)]).toEqual(['RIFF', 'WAVE', 'fmt ', 'data']);
  const [channels, rate, bits] = [view.getUint16(22, true), view.getUint32(24, true), view.getUint16(34, true)];
  const frame = (channels * bits) / 8;
  const left = Float64Array.from({ length: view.getUint32(40, true) / frame }, (_, index) => {
    const at = 44 + index * frame;
    return bits === 16
      ? view.getInt16(at, true) / 32_767
      : (view.getUint16(at, true) + view.getInt8(at + 2) * 65_536) / 8_388_607;
  });
  return { rate, bits, left };
}

const peakOf = (samples: Float64Array): number => samples.reduce((most, value) => Math.max(most, Math.abs(value)), 0);

async function written(page: Page, button: RegExp): Promise<{ readonly name: string; readonly bytes: Uint8Array }> {
  const downloading = page.waitForEvent('download', { timeout: 120_000 });
  await page.getByRole('button', { name: button }).click();
  const download = await downloading;
  return { name: download.suggestedFilename(), bytes: readFileSync(await download.path()) };
}

test('what is written as sound is what is heard, and its parts add up to it', { tag: '@sound' }, async ({ page }) => {
  test.setTimeout(200_000);
  await withoutGuide(page);
  await startSong(page, { title: 'Rain', key: 'C', scale: 'Major', style: 'Folk', metre: '4/4', tempo: '180' });
  await page.getByRole('spinbutton', { name: 'Bars', exact: true }).fill('2');
  await page.getByRole('spinbutton', { name: 'Bars', exact: true }).press('Enter');
  await draftBand(page);

  const rate = await test.step('the song is heard', async () => {
    await page.getByRole('button', { name: 'Loop', exact: true }).click();
    // While the chords are in focus they sound by themselves.
    await page.getByRole('button', { name: /^Melody,/ }).click();
    await page.getByRole('button', { name: 'Play', exact: true }).click();
    await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible({ timeout: 30_000 });
    await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible({ timeout: 30_000 });
    return recordedRate(page);
  });

  await page.getByRole('link', { name: 'Deliver', exact: true }).click();
  await page.getByRole('tab', { name: 'Sound' }).click();
  expect(await violations(page)).toEqual([]);
  await page.getByRole('combobox', { name: 'Samples a second' }).selectOption(rate === 44_100 ? '44.1 kHz' : '48 kHz');

  const song = await test.step('it is written as it was heard', async () => {
    const { name, bytes } = await written(page, /^Write as WAV$/);
    expect(name).toBe('Rain.wav');
    const wav = readWav(bytes);
    expect(wav).toMatchObject({ rate, bits: 24 });
    const heard = await recordedFrom(page);
    const begins = (samples: ArrayLike<number>): number =>
      Array.from(samples).findIndex((value) => Math.abs(value) > 0.001);
    const [at, from] = [begins(wav.left), begins(heard)];
    let [power, error] = [0, 0];
    for (let index = 0; index < 2 * rate; index++) {
      power += (wav.left[at + index] as number) ** 2;
      error += ((wav.left[at + index] as number) - (heard[from + index] as number)) ** 2;
    }
    const below = 10 * Math.log10(error / power);
    console.log(`what is written differs from what is heard by ${below.toFixed(1)} dB`);
    expect(below).toBeLessThan(-100);
    await expect(page.getByRole('status').filter({ hasText: 'was handed over' })).toContainText('its highest peak');
    return wav;
  });

  await test.step('its parts add up to it', async () => {
    await page.getByRole('checkbox', { name: 'Every part by itself' }).check();
    const { name, bytes } = await written(page, /^Write \d WAV files in one zip$/);
    expect(name).toBe('Rain - Sound.zip');
    const files = Object.entries(unzipSync(bytes)).map(([file, data]) => [file, readWav(data)] as const);
    expect(files.length).toBeGreaterThan(3);
    const parts = files.filter(([file]) => file !== 'Rain.wav').map(([, wav]) => wav.left);
    for (const part of parts) expect(part.length).toBe(song.left.length);
    expect(parts.filter((part) => peakOf(part) > 0.005).length).toBeGreaterThan(2);
    const apart = song.left.map((value, at) => value - parts.reduce((sum, part) => sum + (part[at] as number), 0));
    console.log(`the parts add up to the song within ${(20 * Math.log10(peakOf(apart))).toFixed(1)} dB`);
    expect(peakOf(apart)).toBeLessThan(2 ** -20);
    expect(peakOf(song.left)).toBeLessThanOrEqual(10 ** (-1 / 20) + 1e-6);
  });

  await test.step('what is looped is written twice round: the song as it was, and once more', async () => {
    await page.getByRole('checkbox', { name: 'Every part by itself' }).uncheck();
    await page.getByRole('combobox', { name: 'What is written as sound' }).selectOption('What is looped: Verse');
    await page.getByRole('spinbutton', { name: 'Times round' }).fill('2');
    await page.getByRole('spinbutton', { name: 'Times round' }).press('Enter');
    const { name, bytes } = await written(page, /^Write as WAV$/);
    expect(name).toBe('Rain - Verse.wav');
    const { left } = readWav(bytes);
    const round = Math.round((8 * 60 * rate) / 180);
    expect(Math.abs(left.length - song.left.length - round)).toBeLessThan(rate);
    const off = left.slice(0, 2 * rate).map((value, at) => value - (song.left[at] as number));
    expect(peakOf(off)).toBeLessThan(2 ** -20);
    expect(peakOf(left.slice(round, 2 * round))).toBeGreaterThan(0.05);
    await page.getByRole('checkbox', { name: 'Every part by itself' }).check();
  });

  await test.step('it can be given up', async () => {
    await page.getByRole('button', { name: /WAV files in one zip$/ }).click();
    await page.getByRole('button', { name: 'Give up' }).click();
    await expect(page.getByRole('status').filter({ hasText: 'given up' })).toBeVisible();
  });
});
