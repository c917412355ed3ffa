import { defineConfig } from '@playwright/test';
import { BROWSER } from '../tools/browser.mjs';

const port = Number(process.env['PORT'] ?? 4174);

/**
 * Test pages live for seconds. Later optimization and rarer garbage collection save a tenth of their CPU time.
 */
const SHORT_LIVED = '--js-flags=--invocation-count-for-maglev=4000,--interrupt-budget=1000000,--min-semi-space-size=16';

export default defineConfig({
  testDir: '.',
  testMatch: '**/*.e2e.ts',
  // What is listened to needs the machine for itself; the other tests run beside whatever else there is to check.
  projects: [
    { name: 'quiet', grepInvert: /@sound/, outputDir: '../dist/e2e-results/quiet' },
    { name: 'sound', grep: /@sound/, outputDir: '../dist/e2e-results/sound' },
  ],
  fullyParallel: true,
  workers: 2,
  // Machines that run this share their cores with others: what is waited for may come late, but it must come.
  timeout: 150_000,
  expect: { timeout: 15_000 },
  reporter: [['list']],
  use: {
    baseURL: `http://localhost:${port}`,
    viewport: { width: 1280, height: 800 },
    // Tracing every step costs as much as the steps themselves: `TRACE=1 npm run e2e` looks closer.
    trace: process.env['TRACE'] ? 'retain-on-failure' : 'off',
    screenshot: 'only-on-failure',
    browserName: 'chromium',
    // Menus and drawers are there at once.
    contextOptions: { reducedMotion: 'reduce' },
    launchOptions: { ...BROWSER, args: [...BROWSER.args, SHORT_LIVED] },
  },
  webServer: {
    command: 'node tools/run.mjs e2e/support/server.ts',
    cwd: '..',
    url: `http://localhost:${port}/api/health`,
    reuseExistingServer: false,
    gracefulShutdown: { signal: 'SIGTERM', timeout: 3000 },
    timeout: 30_000,
    env: { PORT: String(port) },
  },
});
