// What a writer waits for, measured in the built application.
import { gzipSync } from 'node:zlib';
import { chromium } from '@playwright/test';
import { BROWSER } from '../browser.mjs';
import { measureLarge } from './large-bench.mjs';

/** Collects the longest main-thread task and the first moment at which something non-silent passed the meters. */
function watch() {
  globalThis.longest = 0;
  new PerformanceObserver((list) => {
    for (const entry of list.getEntries()) globalThis.longest = Math.max(globalThis.longest, entry.duration);
  }).observe({ entryTypes: ['longtask'] });
}

const milliseconds = (value) => `${Math.round(value)} ms`;

export async function measureBrowser(address, root) {
  const browser = await chromium.launch(BROWSER);
  const rows = [];
  /** Scripts and styles of the page itself, as they are sent, until the workspace stands. */
  const loaded = new Map();
  let counts = true;
  const open = async () => {
    const page = await (
      await browser.newContext({ viewport: { width: 1280, height: 800 }, serviceWorkers: 'block' })
    ).newPage();
    await page.addInitScript(watch);
    await page.addInitScript(() => {
      localStorage.setItem('fendro first minute', '-1');
    });
    page.on('response', async (response) => {
      if (!counts || response.frame().parentFrame() || !/\.(js|css)$/.test(response.url())) return;
      if (/worker|worklets/.test(response.url())) return;
      loaded.set(response.url(), gzipSync(await response.body()).length);
    });
    await page.goto(address);
    await page.getByRole('region', { name: 'Sheet' }).waitFor();
    counts = false;
    return page;
  };
  const timed = async (page, act, until) => {
    const since = await page.evaluate(() => performance.now());
    await act();
    await until();
    return (await page.evaluate(() => performance.now())) - since;
  };
  const task = async (page, act) => {
    await page.evaluate(() => {
      globalThis.longest = 0;
    });
    await act();
    return page.evaluate(() => globalThis.longest);
  };

  const page = await open();
  const there = await page.evaluate(() => performance.now());
  rows.push({
    what: 'all scripts and styles until then, gzip',
    value: `${Math.round([...loaded.values()].reduce((total, bytes) => total + bytes, 0) / 1024)} kB`,
    goal: '300 kB',
  });
  rows.push({ what: 'workspace with the demo song there', value: milliseconds(there), goal: 'interactive in 2 s' });
  const stop = page.getByRole('button', { name: 'Stop' });
  rows.push({
    what: 'play pressed at once, cold sounds',
    value: milliseconds(
      await timed(
        page,
        () => page.getByRole('button', { name: 'Play', exact: true }).click(),
        () => stop.waitFor(),
      ),
    ),
    goal: '1.5 s',
  });
  await stop.click();
  rows.push({
    what: 'play pressed again, warm',
    value: milliseconds(
      await timed(
        page,
        () => page.getByRole('button', { name: 'Play', exact: true }).click(),
        () => stop.waitFor(),
      ),
    ),
    goal: '100 ms',
  });
  await page.waitForTimeout(3000);
  rows.push({
    what: 'longest main-thread task in 5 s of playing',
    value: milliseconds(await task(page, () => page.waitForTimeout(5000))),
    goal: '50 ms',
  });
  rows.push({
    what: 'longest main-thread task while ten takes are switched',
    value: milliseconds(
      await task(page, async () => {
        for (let press = 0; press < 10; press++) {
          await page.keyboard.press(press % 4 < 2 ? 'ArrowDown' : 'ArrowUp');
          await page.waitForTimeout(150);
        }
      }),
    ),
    goal: '50 ms',
  });
  await stop.click();
  const options = page.getByRole('listbox', { name: 'Takes' }).getByRole('option');
  const firstTake = [];
  for (let run = 0; run < 5; run++) {
    const before = await options.count();
    firstTake.push(
      await page.evaluate(async (count) => {
        const since = performance.now();
        [...document.querySelectorAll('button')]
          .find((button) => button.textContent?.trim() === 'Draft takes')
          ?.click();
        while (document.querySelectorAll('[role="option"]').length <= count && performance.now() - since < 5000)
          await new Promise((resolve) => requestAnimationFrame(resolve));
        return performance.now() - since;
      }, before),
    );
    await page.waitForFunction(() =>
      [...document.querySelectorAll('button')].some((button) => button.textContent?.trim() === 'Draft takes'),
    );
  }
  rows.push({
    what: 'first take of a draft on screen (median of 5)',
    value: milliseconds(firstTake.sort((a, b) => a - b)[2]),
    goal: '100 ms',
  });
  rows.push({
    what: 'longest main-thread task while a band is drafted',
    value: milliseconds(
      await task(page, async () => {
        await page.getByRole('button', { name: 'Draft the band' }).click();
        await page.waitForTimeout(300);
        await page.waitForFunction(
          () => [...document.querySelectorAll('button')].some((button) => button.textContent?.trim() === 'Draft takes'),
          null,
          { timeout: 60_000 },
        );
      }),
    ),
    goal: '50 ms',
  });
  await page.context().close();
  const fresh = async () => {
    const other = await open();
    // What is fetched when the page is idle is no part of what is measured.
    await other.waitForTimeout(6000);
    return other;
  };
  rows.push(...(await measureLarge(fresh, task, root)));
  await browser.close();
  return rows;
}
