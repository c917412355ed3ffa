import { readdirSync } from 'node:fs';
import { resolve } from 'node:path';
import type { RequestHandler } from 'express';
import { SoundBankLoader } from 'spessasynth_core';
import type { Family } from '@fendro/core/sounding/instruments';
import { bankOf } from '../../tools/sound-banks';
import { PLAIN_SOUNDS } from './recorder';

/** Frames that are left of each sample: what nobody listens to need not be read, sent and kept by every page. */
const SHORT = 256;

const files = new Set(readdirSync(resolve('app/public/sounds')));
const banks = new Map<string, Promise<ArrayBuffer>>();

/** The sounds of a family, every instrument and zone of them, decoded and cut short. */
async function shortBank(family: Family): Promise<ArrayBuffer> {
  const bank = SoundBankLoader.fromArrayBuffer(await bankOf(family));
  for (const sample of bank.samples) {
    sample.setAudioData(sample.getAudioData().slice(0, SHORT), sample.sampleRate);
    sample.loopStart = 0;
    sample.loopEnd = SHORT - 1;
  }
  return bank.writeSF2();
}

/** Gives decoded sounds to pages that ask for them; the first request of a family makes them. */
export const plainSounds: RequestHandler<{ family: string }> = (request, response, next) => {
  const { family } = request.params;
  const wanted = request.headers[PLAIN_SOUNDS];
  if ((wanted !== 'short' && wanted !== 'whole') || !files.has(`${family}.sf3`)) {
    next();
    return;
  }
  const name = `${family} ${wanted}`;
  const bank = banks.get(name) ?? (wanted === 'short' ? shortBank : bankOf)(family as Family);
  banks.set(name, bank);
  bank.then((bytes) => {
    // Saves the download after a reload.
    response.setHeader('Cache-Control', 'max-age=3600');
    response.type('application/octet-stream').end(Buffer.from(bytes));
  }, next);
};
