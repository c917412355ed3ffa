// Runs one of the project's TypeScript programs with Fendro's own import paths, and passes signals on to it.
import { spawn } from 'node:child_process';
import { resolve } from 'node:path';

const root = resolve(import.meta.dirname, '..');
const [program, ...rest] = process.argv.slice(2);
const child = spawn(process.execPath, ['--import', 'tsx', resolve(root, program ?? ''), ...rest], {
  stdio: 'inherit',
  cwd: root,
  env: { ...process.env, TSX_TSCONFIG_PATH: resolve(root, 'tsconfig.base.json') },
});
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal));
child.on('exit', (code) => process.exit(code ?? 1));
