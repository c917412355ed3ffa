// npm run check: types, lint and units side by side, with what was found before kept, for while one works.
// Properties run a quarter of their rounds here; npm test runs all of them, and the browser's tests too.
import { spawn } from 'node:child_process';
import { ensureModules, root, tool } from './ready.mjs';
import { LINT, TYPES } from './checks.mjs';

ensureModules();
const since = Date.now();

/** Runs a command and says how it went; what it printed is shown only where it failed. */
function ran([title, command, args], env = {}) {
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

async function inTurn(checks) {
  let passed = true;
  for (const check of checks) passed = (await ran(check)) && passed;
  return passed;
}

const results = await Promise.all([
  inTurn([...TYPES, ...LINT]),
  ran(['unit and component tests', tool('jest'), []], { FENDRO_QUICK: '1' }),
]);
console.log(`${Math.round((Date.now() - since) / 1000)} s in all`);
process.exit(results.every(Boolean) ? 0 : 1);
