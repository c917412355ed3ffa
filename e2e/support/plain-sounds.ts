import { readdirSync } from 'node:fs';
import { resolve } from 'node:path';
import type { RequestHandler } from 'express';
import type { Family } from '@fendro/core/sounding/instruments';
import { bankOf } from '../../tools/sound-banks';
import { PLAIN_SOUNDS } from './recorder';

const files = new Set(readdirSync(resolve('app/public/sounds')));

/** Gives sounds decoded to pages that ask for it; the first request of a family decodes it. */
export const plainSounds: RequestHandler<{ family: string }> = (request, response, next) => {
  const { family } = request.params;
  if (request.headers[PLAIN_SOUNDS] === undefined || !files.has(`${family}.sf3`)) {
    next();
    return;
  }
  bankOf(family as Family).then((bytes) => {
    response.type('application/octet-stream').end(Buffer.from(bytes));
  }, next);
};
