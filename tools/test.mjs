// npm test: installs what is missing, then checks types, lint, boundaries, units, components and the whole in a browser.
import { mkdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { allRan, LINT, TYPES } from './checks.mjs';
import { ensureDebian, ensureModules, root, run, tool } from './ready.mjs';

const results = (name) => join(root, 'dist', name);

function step(title, work) {
  const since = Date.now();
  console.log(`\n── ${title}`);
  work();
  console.log(`── ${title}: ${Math.round((Date.now() - since) / 1000)} s`);
}

ensureModules();
ensureDebian();
mkdirSync(join(root, 'dist'), { recursive: true });
// Each of these keeps one core busy: two of them at a time, the long ones first.
const node = process.execPath;
const alone = [
  ...LINT.slice(0, 1),
  ['build', node, ['tools/build.mjs']],
  ...LINT.slice(1),
  ...TYPES,
  ['lead sheets', node, ['tools/run.mjs', 'tools/lead-sheets.ts']],
  ['broken MIDI files', node, ['tools/run.mjs', 'tools/fuzz.ts', '2000']],
];
if (!(await allRan(alone, 2))) process.exit(1);
step('unit and component tests', () => run(tool('jest'), ['--json', `--outputFile=${results('jest.json')}`]));
step('end-to-end tests', () =>
  run(tool('playwright'), ['test', '-c', 'e2e/playwright.config.ts', '--reporter=list,json'], {
    env: { ...process.env, PLAYWRIGHT_JSON_OUTPUT_NAME: results('e2e.json') },
  }),
);

const unit = JSON.parse(readFileSync(results('jest.json'), 'utf8'));
const browser = JSON.parse(readFileSync(results('e2e.json'), 'utf8')).stats;
console.log(`\n${unit.numPassedTests + browser.expected} passed, ${unit.numFailedTests + browser.unexpected} failed`);
