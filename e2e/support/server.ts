import { resolve } from 'node:path';
import express from 'express';
import { createApp } from '../../server/app';
import { MUTE_ADDRESS, MUTE_PROCESSOR } from './mute-processor';
import { plainSounds } from './plain-sounds';
import { RECORDER_ADDRESS, RECORDER_SCRIPT } from './recorder';

/** The real server, with the recorder, which the page's policy allows from its own origin only, and sounds that
    are decoded. */
const app = express();
for (const [address, script] of [
  [RECORDER_ADDRESS, RECORDER_SCRIPT],
  [MUTE_ADDRESS, MUTE_PROCESSOR],
] as const)
  app.get(address, (_request, response) => {
    response.setHeader('Cross-Origin-Resource-Policy', 'same-origin');
    response.setHeader('Cross-Origin-Embedder-Policy', 'require-corp');
    response.type('text/javascript').send(script);
  });
app.get('/sounds/:family.sf3', plainSounds);
app.use(createApp(resolve(import.meta.dirname, '../../dist/app')));
const server = app.listen(Number(process.env['PORT'] ?? 4174));
process.on('SIGTERM', () => {
  server.close(() => process.exit(0));
  server.closeAllConnections();
});
