import * as fc from 'fast-check';
import { WAV_BITS, writingWav, type WavBits } from './wav';

function written(channels: readonly Float32Array[], bits: WavBits, seed = 1): Uint8Array {
  const work = writingWav(channels, 48_000, bits, seed);
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
  }
}
/** The samples of a file as they are played, channel by channel. */
function read(file: Uint8Array): { rate: number; bits: number; channels: number[][] } {
  const view = new DataView(file.buffer);
  const [count, rate, bits] = [view.getUint16(22, true), view.getUint32(24, true), view.getUint16(34, true)];
  const bytes = bits / 8;
  const frames = view.getUint32(40, true) / (count * bytes);
  const at = (place: number): number =>
    bits === 16 ? view.getInt16(place, true) : view.getUint16(place, true) + view.getInt8(place + 2) * 65_536;
  const channels = Array.from({ length: count }, (_, channel) =>
    Array.from({ length: frames }, (__, frame) => at(44 + (frame * count + channel) * bytes) / (2 ** (bits - 1) - 1)),
  );
  return { rate, bits, channels };
}
const sounds = fc
  .integer({ min: 1, max: 200 })
  .chain((length) =>
    fc.array(fc.array(fc.double({ min: -1, max: 1, noNaN: true }), { minLength: length, maxLength: length }), {
      minLength: 1,
      maxLength: 2,
    }),
  )
  .map((channels) => channels.map((samples) => Float32Array.from(samples)));

describe('a WAV file', () => {
  it('holds every sample to within its dither, and says how long it is', () => {
    fc.assert(
      fc.property(sounds, fc.constantFrom(...WAV_BITS), (channels, bits) => {
        const file = written(channels, bits);
        const back = read(file);
        expect(back).toMatchObject({ rate: 48_000, bits });
        const step = 1 / (2 ** (bits - 1) - 1);
        channels.forEach((samples, channel) =>
          samples.forEach((sample, at) =>
            expect(Math.abs(back.channels[channel]![at]! - sample)).toBeLessThanOrEqual(
              (bits === 16 ? 1.5 : 0.51) * step,
            ),
          ),
        );
        expect(file.length % 2).toBe(0);
        expect(new DataView(file.buffer).getUint32(4, true)).toBe(file.length - 8);
      }),
    );
  });

  it('never goes beyond full, and keeps what is quieter than a step', () => {
    const loud = read(written([Float32Array.of(2, -2, 1, -1)], 24)).channels[0]!;
    expect(Math.max(...loud)).toBeLessThanOrEqual(1);
    expect(Math.min(...loud)).toBeGreaterThanOrEqual(-1.000_001);
    // A third of a step: without dither all of it would be lost.
    const quiet = new Float32Array(20_000).fill(1 / 3 / 32_767);
    const heard = read(written([quiet], 16)).channels[0]!;
    const mean = heard.reduce((sum, sample) => sum + sample, 0) / heard.length;
    expect(mean * 32_767).toBeCloseTo(1 / 3, 1);
  });

  it('is the same for the same sound and seed', () => {
    const sound = Float32Array.from({ length: 100 }, (_, at) => Math.sin(at / 5) / 3);
    expect(written([sound], 16, 4)).toEqual(written([sound], 16, 4));
    expect(written([sound], 16, 4)).not.toEqual(written([sound], 16, 5));
  });
});
