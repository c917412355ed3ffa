// The checks that need no browser, as [title, command, arguments]: npm test and npm run check both run these.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { root, tool } from './ready.mjs';

/** What was found before is kept here, so that only what changed is looked at again. */
const kept = (name) => join(root, 'node_modules', '.cache', 'fendro', name);

const PROJECTS = ['core', 'core/tsconfig.test.json', 'server', 'tools', 'e2e', 'app/tsconfig.worklet.json'];

export const TYPES = PROJECTS.map((project) => [
  `types of ${project}`,
  tool('tsc'),
  ['-p', project, '--incremental', '--tsBuildInfoFile', kept(`${project.replaceAll('/', '-')}.tsbuildinfo`)],
]);

export const LINT = [
  ['lint', tool('eslint'), ['--cache', '--cache-location', kept('eslint'), '.']],
  ['formatting', tool('prettier'), ['--check', '--cache', '--cache-location', kept('prettier'), '.']],
  [
    'boundaries',
    tool('depcruise'),
    ['core', 'app/src', 'app/worklets', 'server', '--config', '.dependency-cruiser.cjs'],
  ],
  ['nothing unused', tool('knip'), []],
  ['notices of others', process.execPath, ['tools/make-notices.mjs', '--check']],
];

/** Runs a check and says how it went; what it printed is shown only where it failed. */
export function ran([title, command, args], env = {}) {
  const began = Date.now();
  return new Promise((resolve) => {
    const child = spawn(command, args, { cwd: root, env: { ...process.env, ...env } });
    let printed = '';
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (data) => (printed += data));
    child.on('close', (status) => {
      console.log(`${status === 0 ? 'passed' : 'FAILED'}  ${title}, ${Math.round((Date.now() - began) / 1000)} s`);
      if (status !== 0) console.log(printed);
      resolve(status === 0);
    });
  });
}

/** Runs checks in their order, `abreast` at a time; true where all passed. */
export async function allRan(checks, abreast) {
  const waiting = [...checks];
  const lane = async () => {
    let passed = true;
    for (let check = waiting.shift(); check; check = waiting.shift()) passed = (await ran(check)) && passed;
    return passed;
  };
  return (await Promise.all(Array.from({ length: abreast }, lane))).every(Boolean);
}
