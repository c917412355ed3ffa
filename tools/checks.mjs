// The checks that need no browser: npm test and npm run check both run these.
import { join } from 'node:path';
import { root, tool } from './ready.mjs';

/** What was found before is kept here, so that only what changed is looked at again. */
const kept = (name) => join(root, 'node_modules', '.cache', 'fendro', name);
const node = process.execPath;

/** The long ones first. None has a time limit, so all can run in the background. */
export const CHECKS = [
  // Every file by the types of its own room: core without a page or Node.js, workers without a page.
  {
    title: 'lint and types',
    command: tool('oxlint'),
    args: ['--type-check', '--report-unused-disable-directives'],
    // Rarer garbage collection saves a tenth of its CPU time, for 200 MB more memory.
    env: { GOGC: '400' },
  },
  { title: 'types of templates', command: node, args: ['tools/templates.mjs'] },
  {
    title: 'lint of templates',
    command: tool('eslint'),
    args: ['--cache', '--cache-location', kept('eslint'), 'app/src'],
  },
  { title: 'formatting', command: tool('oxfmt'), args: ['--check'] },
  {
    title: 'boundaries',
    command: tool('depcruise'),
    args: ['core', 'app/src', 'app/worklets', 'server', '--config', '.dependency-cruiser.cjs'],
  },
  { title: 'nothing unused', command: tool('knip'), args: [] },
  { title: 'notices of others', command: node, args: ['tools/make-notices.mjs', '--check'] },
].map((step) => ({ ...step, background: true }));

/** The specs of a project, on one core or on two. */
export const units = (project, results, lanes = 1) => ({
  title: `specs of ${project}`,
  command: node,
  args: ['tools/unit.mjs', project, `--maxWorkers=${lanes}`, ...(results ? ['--json', `--outputFile=${results}`] : [])],
  lanes,
});
