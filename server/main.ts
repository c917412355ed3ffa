import { existsSync } from 'node:fs';
import { resolve } from 'node:path';
import { createApp } from './app';

const folder = resolve(import.meta.dirname, '../dist/app');
const port = Number(process.env['PORT'] ?? 4173);

if (!existsSync(resolve(folder, 'index.html'))) {
  console.error('Fendro is not built yet. Run "npm start", which builds what is missing.');
  process.exit(1);
}

const server = createApp(folder).listen(port, (problem?: Error) => {
  if (problem) {
    const taken = 'code' in problem && problem.code === 'EADDRINUSE';
    console.error(
      taken
        ? `Port ${port} is taken by another program. Stop that one, or choose another port: PORT=4200 npm start`
        : problem.message,
    );
    process.exit(1);
  }
  console.log(`Fendro is ready: http://localhost:${port}`);
});

for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.on(signal, () => {
    server.close(() => process.exit(0));
    server.closeAllConnections();
  });
}
