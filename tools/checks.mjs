// The checks that need no browser: npm test and npm run check both run these.
import { join } from 'node:path';
import { root, tool } from './ready.mjs';

/** What was found before is kept here, so that only what changed is looked at again. */
const kept = (name) => join(root, 'node_modules', '.cache', 'fendro', name);
const node = process.execPath;

const types = (title, project) => ({
  title: `types of ${title}`,
  command: tool('tsc'),
  args: ['-p', project, '--incremental', '--tsBuildInfoFile', kept(`${title}.tsbuildinfo`)],
});

/** The long ones first. */
export const CHECKS = [
  { title: 'lint', command: tool('eslint'), args: ['--cache', '--cache-location', kept('eslint'), '.'] },
  { title: 'types and templates', command: tool('ngc'), args: ['-p', '.', '--noEmit'] },
  {
    title: 'formatting',
    command: tool('prettier'),
    args: ['--check', '--cache', '--cache-location', kept('prettier'), '.'],
  },
  types('core, without DOM or Node', 'core'),
  types('workers', 'app/tsconfig.worker.json'),
  types('worklets', 'app/tsconfig.worklet.json'),
  {
    title: 'boundaries',
    command: tool('depcruise'),
    args: ['core', 'app/src', 'app/worklets', 'server', '--config', '.dependency-cruiser.cjs'],
  },
  { title: 'nothing unused', command: tool('knip'), args: [] },
  { title: 'notices of others', command: node, args: ['tools/make-notices.mjs', '--check'] },
];

/** The specs of a project, one core each. */
export const units = (project, results) => ({
  title: `specs of ${project}`,
  command: node,
  args: ['tools/unit.mjs', project, '--maxWorkers=1', ...(results ? ['--json', `--outputFile=${results}`] : [])],
});
