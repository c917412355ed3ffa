// npm start: installs and builds what is missing or stale, then serves Fendro with the demo song.
import { spawn } from 'node:child_process';
import { ensureBuild, ensureModules, root } from './ready.mjs';

ensureModules({ tests: false });
ensureBuild();
const server = spawn(process.execPath, ['tools/run.mjs', 'server/main.ts'], { stdio: 'inherit', cwd: root });
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code) => process.exit(code ?? 0));
