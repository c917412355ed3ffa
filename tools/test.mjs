// npm test: installs what is missing, then checks types, lint, boundaries, units, components and the whole in a browser.
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { ensureModules, root, tool } from './ready.mjs';
import { CHECKS, units } from './checks.mjs';
import { allRan } from './steps.mjs';

const results = (name) => join(root, 'dist', `${name}.json`);
const node = process.execPath;

const DEBIAN = 'packages of Debian';

/** Ports of this machine that no other program listens at. */
async function freePorts(count) {
  const servers = Array.from({ length: count }, () => createServer().listen(0));
  const ports = await Promise.all(
    servers.map((server) => new Promise((done) => server.once('listening', () => done(server.address().port)))),
  );
  await Promise.all(servers.map((server) => new Promise((done) => server.close(done))));
  return ports;
}

/** A run of end-to-end tests, with a server of its own, so that several can go on side by side. */
const browser = (name, port, more) => ({
  title: `end to end: ${name}`,
  command: tool('playwright'),
  args: ['test', '-c', 'e2e/playwright.config.ts', '--reporter=list,json', `--project=${name}`],
  env: { PORT: String(port), PLAYWRIGHT_JSON_OUTPUT_NAME: results(name) },
  after: ['build', DEBIAN],
  shown: true,
  ...more,
});

ensureModules();
const [quietPort, soundPort] = await freePorts(2);
mkdirSync(join(root, 'dist'), { recursive: true });
for (const name of ['core', 'app', 'quiet', 'sound']) rmSync(results(name), { force: true });
// Quiet tests share the CPU with specs of core. Specs of app take both cores, so that background steps wait for the time
// that sound tests leave. Sound tests play in real time and need both cores.
const steps = [
  // Packages are waited for rather than worked at.
  { title: DEBIAN, command: node, args: ['tools/debian.mjs'], lanes: 0 },
  { title: 'build', command: node, args: ['tools/build.mjs'] },
  units('core', results('core')),
  browser('quiet', quietPort),
  units('app', results('app'), 2),
  browser('sound', soundPort, { lanes: 2 }),
  ...CHECKS,
  {
    title: 'lead sheets',
    command: node,
    args: ['tools/run.mjs', 'tools/lead-sheets.ts'],
    after: [DEBIAN],
    background: true,
  },
  { title: 'broken MIDI files', command: node, args: ['tools/run.mjs', 'tools/fuzz.ts', '2000'], background: true },
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
