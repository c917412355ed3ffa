// npm run bench: speed and size, as plain milliseconds and as ratios to a fixed workload timed in the same run.
// Writes docs/figures.md.
import { spawn, spawnSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { build } from 'esbuild';
import { ensureBuild, ensureDebian, ensureModules, root } from './ready.mjs';
import { writeFigures } from './write-figures.mjs';
import { measureBrowser } from './bench/browser-bench.mjs';

ensureModules();
ensureDebian();
ensureBuild();

// Bundled as the workers are: how modules are loaded while developing would slow the innermost loops.
const bundle = join(root, 'dist/core-bench.mjs');
await build({
  entryPoints: [join(root, 'tools/bench/core-bench.ts')],
  outfile: bundle,
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  alias: { '@fendro/core': join(root, 'core') },
  logLevel: 'error',
});
const core = JSON.parse(
  spawnSync(process.execPath, [bundle], { cwd: root, encoding: 'utf8' }).stdout.trim().split('\n').at(-1),
);
const { reference, ...times } = core;
const GOALS = {
  'first take of an 8-bar melody': '',
  '64 takes of an 8-bar melody, diverse (256 draws)': '250 ms',
  'two bars of it drafted again 64 times, the rest held (256 draws)': '250 ms',
  '64 variations of it by a quarter (256 draws)': '250 ms',
  '200 takes laid out by likeness': '300 ms',
  'a whole band: 5 parts, 8 takes each, 8 bars (800 draws)': '1 s (6 parts)',
  'MIDI file of 100,000 notes written': '200 ms',
  'the same file read behind the guard': 'a third over the library',
};

const sounds = readdirSync(join(root, 'app/public/sounds'))
  .filter((name) => name.endsWith('.sf3'))
  .reduce((total, name) => total + readFileSync(join(root, 'app/public/sounds', name)).length, 0);

const port = '4179';
const server = spawn(process.execPath, ['tools/run.mjs', 'server/main.ts'], {
  cwd: root,
  env: { ...process.env, PORT: port },
  stdio: ['ignore', 'pipe', 'inherit'],
});
await new Promise((resolve) => server.stdout.once('data', resolve));
const browser = await measureBrowser(`http://localhost:${port}`, root).finally(() => server.kill('SIGTERM'));

const rows = [
  ...Object.entries(times).map(([what, ms]) => [
    what,
    `${ms.toFixed(1)} ms`,
    (ms / reference).toFixed(3),
    GOALS[what] ?? '',
  ]),
  ['ten families of sounds', `${(sounds / 1024 / 1024).toFixed(1)} MiB`, '', ''],
  ...browser.map(({ what, value, goal }) => [what, value, '', goal]),
];
const table = [
  '| what | measured | ratio to the reference | goal |',
  '|---|---|---|---|',
  ...rows.map((row) => `| ${row.join(' | ')} |`),
].join('\n');
console.log(`Reference workload: ${reference.toFixed(1)} ms\n\n${table}`);
writeFigures(
  'Speed and size',
  `On two shared cores. The reference (sorting 300,000 numbers) took ${reference.toFixed(1)} ms in this run.\n\n${table}`,
);
process.exit(0);
