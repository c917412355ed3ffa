// npm run check: types, lint and units side by side, with what was found before kept, for while one works.
// Properties run a quarter of their rounds here; npm test runs all of them, and the browser's tests too.
import { ensureModules } from './ready.mjs';
import { CHECKS, units } from './checks.mjs';
import { allRan } from './steps.mjs';

ensureModules();
const quick = (step) => ({ ...step, env: { FENDRO_QUICK: '1' } });
process.exit((await allRan([quick(units('core')), quick(units('app')), ...CHECKS])) ? 0 : 1);
