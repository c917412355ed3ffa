import { createHash, randomBytes } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import compression from 'compression';
import expressStaticGzip from 'express-static-gzip';
import express, { type Express, type RequestHandler } from 'express';
import helmet from 'helmet';
import * as z from 'zod';
import { PAGE_ADDRESSES } from '../app/src/pages/addresses';

const workerListSchema = z.looseObject({ hashTable: z.record(z.string(), z.string()) });

/** Built files carry a hash in their names and never change under them. */
const HASHED = /-[A-Z0-9]{8}\.\w+$|chunk-[\w-]{8}\.js$/;

/** Only the application's own scripts, styles, workers, sounds and pictures; nothing from elsewhere, nothing inline. */
const securityHeaders = (nonce: string): RequestHandler =>
  helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        baseUri: ["'self'"],
        objectSrc: ["'none'"],
        frameAncestors: ["'none'"],
        formAction: ["'self'"],
        // The sample decoder is compiled to WebAssembly.
        scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
        styleSrc: ["'self'", `'nonce-${nonce}'`],
        workerSrc: ["'self'", 'blob:'],
        imgSrc: ["'self'", 'data:', 'blob:'],
        mediaSrc: ["'self'", 'blob:'],
        fontSrc: ["'self'"],
        connectSrc: ["'self'", 'blob:'],
        manifestSrc: ["'self'"],
        requireTrustedTypesFor: ["'script'"],
        // Icons are outlines of our own, put in by Angular's components.
        trustedTypes: ['angular', 'angular#bundler', 'angular#components', 'default'],
      },
    },
    strictTransportSecurity: false,
    crossOriginEmbedderPolicy: { policy: 'require-corp' },
  }) as RequestHandler;

/**
 * Serves the built application with strict headers.
 *
 * Angular needs a style nonce. One for each start is put into the page, and the service worker's list is told the
 * page's new hash, so that it works offline too. Files that were compressed when they were built go out so (`name.br`);
 * where the browser does not take that, they are compressed on their way.
 *
 * @param folder  the built application
 */
export function createApp(folder: string): Express {
  const nonce = randomBytes(16).toString('base64');
  const page = readFileSync(resolve(folder, 'index.html'), 'utf8').replaceAll('__CSP_NONCE__', nonce);
  const workerList = workerListSchema.parse(JSON.parse(readFileSync(resolve(folder, 'ngsw.json'), 'utf8')));
  workerList.hashTable['/index.html'] = createHash('sha1').update(page).digest('hex');

  const app = express();
  app.disable('x-powered-by');
  app.use(securityHeaders(nonce));
  app.use((_request, response, next) => {
    response.setHeader('Permissions-Policy', 'midi=(self), microphone=(self), camera=(), geolocation=()');
    next();
  });
  app.use(compression());
  app.get('/api/health', (_request, response) => {
    response.json({ ok: true });
  });
  app.get('/ngsw.json', (_request, response) => {
    response.setHeader('Cache-Control', 'no-cache');
    response.json(workerList);
  });
  const sendPage: RequestHandler = (_request, response) => {
    response.setHeader('Cache-Control', 'no-cache');
    response.type('html').send(page);
  };
  app.get(['/', '/index.html'], sendPage);
  app.use(
    expressStaticGzip(folder, {
      enableBrotli: true,
      index: false,
      serveStatic: {
        setHeaders: (response, path) => {
          const kept = HASHED.test(path.replace(/\.br$/, ''));
          response.setHeader('Cache-Control', kept ? 'public, max-age=31536000, immutable' : 'no-cache');
        },
      },
    }),
  );
  // Addresses of pages lead to the application; anything else that is not there is not there.
  app.get(
    PAGE_ADDRESSES.map((address) => `/${address}`),
    sendPage,
  );
  app.use((request, response) => {
    response.status(404);
    if (request.accepts('html')) response.type('text').send('There is nothing at this address. Fendro is at /');
    else response.json({ error: 'not found' });
  });
  return app;
}
