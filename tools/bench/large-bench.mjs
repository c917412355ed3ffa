// What a writer waits for in songs that are larger than usual, and while much is done in one sitting.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';

const SECONDS_PLAYED = 6;
const DRAFTS = 60;

/**
 * @param fresh  opens the application anew
 * @param task   gives the longest main-thread task while something is done, in ms
 * @returns rows of what was measured
 */
export async function measureLarge(fresh, task, root) {
  const folder = join(root, 'dist');
  spawnSync(process.execPath, ['tools/run.mjs', 'tools/bench/large-songs.ts', folder], { cwd: root, stdio: 'inherit' });
  const rows = [];
  const row = (what, value, goal) => rows.push({ what, value: `${Math.round(value)} ms`, goal });
  const openFile = async (page, name, title) => {
    await page.getByRole('link', { name: 'Songs' }).click();
    await page.getByLabel('Open a song file').setInputFiles(join(folder, name));
    await page.waitForFunction(
      (wanted) => document.querySelector('[aria-label="Song title"]')?.value === wanted,
      title,
    );
    await page.getByRole('listbox', { name: 'Takes' }).waitFor();
  };

  let page = await fresh();
  row(
    '200 bars and 8 parts: longest task of opening the file',
    await task(page, () => openFile(page, 'long.fendro', 'Long')),
    '50 ms',
  );
  row(
    '… of the Deliver page',
    await task(page, async () => {
      await page.getByRole('link', { name: 'Deliver' }).click();
      await page.getByRole('cell', { name: 'The song in one track' }).waitFor();
    }),
    '50 ms',
  );
  row(
    '… of the zip',
    await task(page, async () => {
      const download = page.waitForEvent('download');
      await page.getByRole('button', { name: /one zip/ }).click();
      await download;
    }),
    '50 ms',
  );
  await page.context().close();

  for (const count of [1000, 5000]) {
    page = await fresh();
    const title = `Full ${count}`;
    const open = await task(page, () => openFile(page, `full-${count}.fendro`, title));
    row(`${count} takes: longest task of opening the file`, open, '50 ms');
    await page.waitForTimeout(2500);
    row(
      '… of ten takes switched',
      await task(page, async () => {
        for (let press = 0; press < 10; press++) {
          await page.keyboard.press(press % 4 < 2 ? 'ArrowDown' : 'ArrowUp');
          await page.waitForTimeout(150);
        }
      }),
      '50 ms',
    );
    await page.keyboard.press(' ');
    row(
      '… of a draft',
      await task(page, async () => {
        await page.keyboard.press('d');
        await page.waitForTimeout(300);
        await page.getByRole('button', { name: 'Draft takes' }).waitFor();
      }),
      '50 ms',
    );
    row(
      '… of the mix opened',
      await task(page, async () => {
        await page.getByRole('button', { name: 'Mix', exact: true }).click();
        await page.waitForTimeout(600);
      }),
      '50 ms',
    );
    await page.context().close();
  }

  page = await fresh();
  const devtools = await page.context().newCDPSession(page);
  await devtools.send('Performance.enable');
  const metrics = async () =>
    Object.fromEntries((await devtools.send('Performance.getMetrics')).metrics.map(({ name, value }) => [name, value]));
  const playing = async (what) => {
    const before = await metrics();
    await page.waitForTimeout(SECONDS_PLAYED * 1000);
    const after = await metrics();
    const of = (name) => (after[name] - before[name]) / (after.Timestamp - before.Timestamp);
    rows.push({
      what: `main thread busy while ${what}`,
      value: `${(100 * of('TaskDuration')).toFixed(0)} %`,
      goal: '20 %',
    });
    rows.push({ what: '… style recalculations a second', value: of('RecalcStyleCount').toFixed(0), goal: '60' });
  };
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await page.getByRole('button', { name: 'Stop' }).waitFor();
  await page.waitForTimeout(3000);
  await playing('playing');
  await page.getByRole('button', { name: 'Mix', exact: true }).click();
  await page.waitForTimeout(1500);
  await playing('playing with the mix open');
  await page.getByRole('button', { name: 'Mix', exact: true }).click();
  await page.getByRole('button', { name: 'Stop' }).click();

  const listeners = async () => {
    await devtools.send('HeapProfiler.collectGarbage');
    return (await metrics()).JSEventListeners;
  };
  const drafts = async (count) => {
    for (let draft = 0; draft < count; draft++) {
      await page.keyboard.press('d');
      await page.waitForTimeout(50);
      await page.waitForFunction(() =>
        [...document.querySelectorAll('button')].some((button) => button.textContent?.trim() === 'Draft takes'),
      );
    }
  };
  await drafts(DRAFTS / 4);
  const before = await listeners();
  const longest = await task(page, () => drafts(DRAFTS));
  row(`${DRAFTS} drafts in a row: longest task`, longest, '50 ms');
  rows.push({ what: '… listeners before and after', value: `${before} and ${await listeners()}`, goal: 'no growth' });
  await page.context().close();
  return rows;
}
