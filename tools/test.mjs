// npm test: installs what is missing, then checks types, lint, boundaries, units, components and the whole in a browser.
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { ensureDebian, ensureModules, root, tool } from './ready.mjs';
import { CHECKS, units } from './checks.mjs';
import { allRan } from './steps.mjs';

const results = (name) => join(root, 'dist', `${name}.json`);
const node = process.execPath;

/** The end-to-end tests of a Playwright project, each with its own port, so that two can run side by side. */
const browser = (project, port, workers, more) => ({
  title: `end to end: ${project}`,
  command: tool('playwright'),
  args: [
    'test',
    '-c',
    'e2e/playwright.config.ts',
    `--project=${project}`,
    `--workers=${workers}`,
    '--reporter=list,json',
  ],
  env: { PORT: String(port), PLAYWRIGHT_JSON_OUTPUT_NAME: results(project) },
  after: ['build'],
  shown: true,
  ...more,
});

ensureModules();
ensureDebian();
mkdirSync(join(root, 'dist'), { recursive: true });
for (const name of ['core', 'app', 'quiet', 'sound']) rmSync(results(name), { force: true });
// The quiet tests of the browser take one core while everything else takes the other; what is heard needs both to be in
// time, and comes last.
const steps = [
  { title: 'build', command: node, args: ['tools/build.mjs'] },
  units('core', results('core')),
  browser('quiet', 4174, 1),
  units('app', results('app')),
  ...CHECKS,
  { title: 'lead sheets', command: node, args: ['tools/run.mjs', 'tools/lead-sheets.ts'] },
  { title: 'broken MIDI files', command: node, args: ['tools/run.mjs', 'tools/fuzz.ts', '2000'] },
  browser('sound', 4175, 2, { lanes: 2 }),
];
const passed = await allRan(steps);

const read = (name) => (existsSync(results(name)) ? JSON.parse(readFileSync(results(name), 'utf8')) : null);
const counts = [
  ...['core', 'app'].map((name) => read(name)).map((found) => [found?.numPassedTests ?? 0, found?.numFailedTests ?? 0]),
  ...['quiet', 'sound'].map((name) => read(name)?.stats).map((found) => [found?.expected ?? 0, found?.unexpected ?? 0]),
];
const sum = (at) => counts.reduce((total, count) => total + count[at], 0);
console.log(`\n${sum(0)} passed, ${sum(1)} failed`);
process.exit(passed ? 0 : 1);
