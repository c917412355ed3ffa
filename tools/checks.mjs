// The checks that need no browser, as [title, command, arguments]: npm test and npm run check both run these.
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
  ['formatting', tool('prettier'), ['--check', '--cache', '--cache-location', kept('prettier'), '.']],
  ['lint', tool('eslint'), ['--cache', '--cache-location', kept('eslint'), '.']],
  [
    'boundaries',
    tool('depcruise'),
    ['core', 'app/src', 'app/worklets', 'server', '--config', '.dependency-cruiser.cjs'],
  ],
  ['nothing unused', tool('knip'), []],
  ['notices of others', process.execPath, ['tools/make-notices.mjs', '--check']],
];
