/** Arrows point one way: app and server use core, core uses nothing of theirs; inside core the folders are layered. */
const layer = (name, folder, ...allowed) => ({
  name: `core-${name}-stays-low`,
  severity: 'error',
  from: { path: `^core/${folder}/`, pathNot: '\\.spec\\.ts$' },
  to: { path: '^core/', pathNot: `^core/(${[folder, ...allowed].join('|')})/` },
});

const appRoom = (name, ...allowed) => ({
  name: `app-${name}-knows-its-neighbours`,
  severity: 'error',
  from: { path: `^app/src/${name}/`, pathNot: '\\.spec\\.ts$' },
  to: { path: '^app/src/[^/]+/', pathNot: `^app/src/(${[name, ...allowed].join('|')})(/|\\.ts$)` },
});

/** @type {import('dependency-cruiser').IConfiguration} */
module.exports = {
  forbidden: [
    { name: 'no-circular', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'core-is-pure',
      severity: 'error',
      from: { path: '^core', pathNot: '\\.spec\\.ts$' },
      to: {
        path: '^(app|server|e2e|tools)/|node_modules/(@angular|@ngrx|express|localforage|rxjs|d3|spessasynth_core)',
      },
    },
    {
      name: 'core-needs-no-platform',
      severity: 'error',
      from: { path: '^core', pathNot: '\\.spec\\.ts$' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'testing-is-for-specs',
      severity: 'error',
      from: { path: '^(app/src|core)/', pathNot: '\\.(spec|mock)\\.ts$|/testing/|^app/src/test-setup\\.ts$' },
      to: { path: '^(app/src|core)/testing/' },
    },
    { name: 'app-not-server', severity: 'error', from: { path: '^app' }, to: { path: '^server' } },
    // The list of addresses is all that the two must agree on.
    {
      name: 'server-not-app',
      severity: 'error',
      from: { path: '^server' },
      to: { path: '^app', pathNot: '^app/src/pages/addresses\\.ts$' },
    },
    // Upwards from what knows least: each room may look into those below it only.
    appRoom('ui'),
    appRoom('storage', 'ui'),
    appRoom('work', 'ui'),
    appRoom('devices', 'ui'),
    appRoom('store', 'storage', 'ui'),
    appRoom('sound', 'store', 'storage', 'work', 'ui'),
    appRoom('desks', 'sound', 'store', 'storage', 'devices', 'work', 'ui'),
    appRoom('commands', 'desks', 'sound', 'store', 'ui'),
    appRoom('drawers', 'commands', 'desks', 'sound', 'store', 'work', 'ui'),
    appRoom('workspace', 'drawers', 'commands', 'desks', 'sound', 'store', 'ui'),
    appRoom('pages', 'commands', 'desks', 'sound', 'store', 'devices', 'work', 'ui'),
    layer('theory', 'theory'),
    layer('trellis', 'trellis', 'theory'),
    layer('song', 'song', 'theory'),
    layer('listen', 'listen', 'files', 'study', 'song', 'theory'),
    layer('settings', 'settings', 'theory'),
    layer('lean', 'lean', 'settings', 'song', 'theory', 'trellis'),
    layer('treat', 'treat', 'settings', 'song', 'theory', 'trellis'),
    layer('patterns', 'patterns', 'lean', 'settings', 'song', 'theory', 'trellis'),
    layer('styles', 'styles', 'song', 'theory'),
    layer('study', 'study', 'song', 'theory', 'trellis'),
    layer('voicing', 'voicing', 'song', 'theory', 'styles', 'trellis'),
    layer('sounding', 'sounding', 'patterns', 'treat', 'song', 'theory', 'study', 'styles', 'trellis', 'voicing'),
    layer('compose', 'compose', 'lean', 'song', 'theory', 'study', 'styles', 'trellis', 'voicing'),
    layer('live', 'live', 'compose', 'shaping', 'song', 'sounding', 'study', 'theory', 'trellis', 'voicing'),
    layer('notation', 'notation', 'song', 'sounding', 'theory'),
    layer('files', 'files', 'notation', 'song', 'theory', 'study', 'sounding', 'styles'),
    layer('shaping', 'shaping', 'song', 'theory'),
  ],
  options: {
    tsConfig: { fileName: 'tsconfig.base.json' },
    tsPreCompilationDeps: true,
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '^app/public' },
  },
};
