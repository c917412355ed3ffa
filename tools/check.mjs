// npm run check: types, lint and units side by side, with what was found before kept, for while one works.
// Properties run a quarter of their rounds here; npm test runs all of them, and the browser's tests too.
import { ensureModules, tool } from './ready.mjs';
import { allRan, LINT, ran, TYPES } from './checks.mjs';

ensureModules();
const since = Date.now();
const results = await Promise.all([
  allRan([...TYPES, ...LINT], 1),
  ran(['unit and component tests', tool('jest'), []], { FENDRO_QUICK: '1' }),
]);
console.log(`${Math.round((Date.now() - since) / 1000)} s in all`);
process.exit(results.every(Boolean) ? 0 : 1);
