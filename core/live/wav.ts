import type { Wave } from './wave';

const HEADER = 44;
const BITS = 16;

/** Recorded sound as a WAV file of one channel and 16 bits (RIFF, 1991). */
export function writeWav({ rate, samples }: Wave): Uint8Array<ArrayBuffer> {
  const data = samples.length * (BITS / 8);
  const view = new DataView(new ArrayBuffer(HEADER + data));
  const text = (at: number, letters: string): void => {
    for (const [index, letter] of [...letters].entries()) view.setUint8(at + index, letter.charCodeAt(0));
  };
  text(0, 'RIFF');
  view.setUint32(4, HEADER - 8 + data, true);
  text(8, 'WAVEfmt ');
  view.setUint32(16, 16, true);
  view.setUint16(20, 1, true);
  view.setUint16(22, 1, true);
  view.setUint32(24, rate, true);
  view.setUint32(28, rate * (BITS / 8), true);
  view.setUint16(32, BITS / 8, true);
  view.setUint16(34, BITS, true);
  text(36, 'data');
  view.setUint32(40, data, true);
  for (const [index, sample] of samples.entries()) view.setInt16(HEADER + 2 * index, sample, true);
  return new Uint8Array(view.buffer);
}
