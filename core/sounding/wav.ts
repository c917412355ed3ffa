import { clamp } from '../theory/units';
import { stream } from '../trellis/random';

/** Sound as a WAV file (RIFF, 1991): whole numbers of 16 or 24 bits, channel beside channel. */

export const WAV_BITS = [16, 24] as const;
export type WavBits = (typeof WAV_BITS)[number];

const HEADER = 44;

interface Format {
  /** Frames a second. */
  readonly rate: number;
  readonly channels: number;
  readonly bits: WavBits;
}

/** The bytes that stand before a number of frames. */
function headed({ rate, channels, bits }: Format, frames: number): DataView<ArrayBuffer> {
  const frame = channels * (bits / 8);
  const data = frames * frame;
  // Chunks have an even number of bytes.
  const view = new DataView(new ArrayBuffer(HEADER + data + (data & 1)));
  const text = (at: number, letters: string): void => {
    for (const [index, letter] of [...letters].entries()) view.setUint8(at + index, letter.charCodeAt(0));
  };
  text(0, 'RIFF');
  view.setUint32(4, HEADER - 8 + data + (data & 1), true);
  text(8, 'WAVEfmt ');
  view.setUint32(16, 16, true);
  view.setUint16(20, 1, true);
  view.setUint16(22, channels, true);
  view.setUint32(24, rate, true);
  view.setUint32(28, rate * frame, true);
  view.setUint16(32, frame, true);
  view.setUint16(34, bits, true);
  text(36, 'data');
  view.setUint32(40, data, true);
  return view;
}

/** Recorded sound, as it is stored, in a file of one channel and 16 bits. */
export function storedWav(rate: number, samples: Int16Array): Uint8Array<ArrayBuffer> {
  const view = headed({ rate, channels: 1, bits: 16 }, samples.length);
  for (const [index, sample] of samples.entries()) view.setInt16(HEADER + 2 * index, sample, true);
  return new Uint8Array(view.buffer);
}

/** Frames that are turned over at once, before others have their turn. */
const STEP = 65_536;

/**
 * Writes sound of −1 to 1. To 16 bits it is dithered: triangular noise of one step either way, so that what is quieter
 * than a step stays sound and does not become a distortion (Lipshitz, Wannamaker and Vanderkooy, 1992). Beyond full it
 * is held there.
 *
 * @param channels  of one length
 * @param seed      of the dither: the same sound and seed give the same file
 */
export function* writingWav(
  channels: readonly Float32Array[],
  rate: number,
  bits: WavBits,
  seed = 1,
): Generator<void, Uint8Array<ArrayBuffer>> {
  const frames = channels[0]?.length ?? 0;
  const view = headed({ rate, channels: channels.length, bits }, frames);
  const random = stream(seed, 'dither');
  const full = 2 ** (bits - 1) - 1;
  const bytes = bits / 8;
  let place = HEADER;
  for (let at = 0; at < frames; at++) {
    for (const channel of channels) {
      const dither = bits === 16 ? random.next() - random.next() : 0;
      const value = clamp(Math.round((channel[at] as number) * full + dither), -full - 1, full);
      view.setUint16(place, value & 0xffff, true);
      if (bits === 24) view.setInt8(place + 2, value >> 16);
      place += bytes;
    }
    if (at % STEP === STEP - 1) yield;
  }
  return new Uint8Array(view.buffer);
}
