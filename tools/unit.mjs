// npm run unit: bundles the specs and lets Jest run them. `npm run unit -- core song/take` takes one project and the specs
// whose path contains a word; what begins with a dash is for Jest.
import { spawnSync } from 'node:child_process';
import { ensureModules, root, tool } from './ready.mjs';

ensureModules();
const { bundleSpecs } = await import('./specs/bundles.mjs');
const options = process.argv.slice(2).filter((word) => word.startsWith('-'));
const words = process.argv.slice(2).filter((word) => !word.startsWith('-'));
const named = ['core', 'app'].filter((project) => words.includes(project));
const paths = words.filter((word) => !named.includes(word));
const projects = [];
for (const project of named.length > 0 ? named : ['core', 'app'])
  if (await bundleSpecs(project, paths)) projects.push(project);
if (projects.length === 0) {
  console.error(`No spec has ${paths.join(' or ')} in its path.`);
  process.exit(1);
}
// Memory from the start: a heap that grows step by step is collected at each step.
const SPACE = ['--min-semi-space-size=64', '--initial-old-space-size=1000'];
const { status } = spawnSync(process.execPath, [...SPACE, tool('jest'), '--selectProjects', ...projects, ...options], {
  stdio: 'inherit',
  cwd: root,
});
process.exit(status ?? 1);
