// Bundles the audio worklet to one static file: worklets load no modules of their own.
import { build } from 'esbuild';
import { resolve } from 'node:path';

const root = resolve(import.meta.dirname, '..');
await build({
  entryPoints: [resolve(root, 'app/worklets/song-processor.ts')],
  outfile: resolve(root, 'app/public/worklets/song-processor.js'),
  bundle: true,
  format: 'esm',
  target: 'es2022',
  minify: true,
  logLevel: 'warning',
});
