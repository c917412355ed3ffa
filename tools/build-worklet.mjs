// Bundles what is not part of the application's own build, each to one static file: the audio worklet, since worklets load
// no modules, and the page of the simulated studio.
import { build } from 'esbuild';
import { resolve } from 'node:path';

const root = resolve(import.meta.dirname, '..');
const BUNDLES = [
  ['app/worklets/song-processor.ts', 'app/public/worklets/song-processor.js'],
  ['app/worklets/recorder.ts', 'app/public/worklets/recorder.js'],
  ['app/studio/studio.ts', 'app/public/studio/studio.js'],
];
for (const [from, to] of BUNDLES)
  await build({
    entryPoints: [resolve(root, from)],
    outfile: resolve(root, to),
    bundle: true,
    format: 'esm',
    target: 'es2022',
    minify: true,
    logLevel: 'warning',
  });
