import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { SoundBankLoader } from 'spessasynth_core';
import type { Family } from '@fendro/core/sounding/instruments';

const banks = new Map<Family, ArrayBuffer>();
/** The plain samples of a family's sounds, read once. */
export async function bankOf(family: Family): Promise<ArrayBuffer> {
  const known = banks.get(family);
  if (known) return known;
  const file = readFileSync(resolve(import.meta.dirname, `../app/public/sounds/${family}.sf3`));
  const bank = SoundBankLoader.fromArrayBuffer(file.buffer.slice(file.byteOffset, file.byteOffset + file.byteLength));
  await bank.setSampleFormat({ format: 'pcm' });
  const bytes = bank.writeSF2();
  banks.set(family, bytes);
  return bytes;
}
