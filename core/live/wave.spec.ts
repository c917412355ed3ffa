import * as fc from 'fast-check';
import { storedWav } from '../sounding/wav';
import { joined, peaksOf, playing, storing, toStored } from './wave';

const done = <T>(work: Generator<void, T>): T => {
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
  }
};

describe('recorded sound', () => {
  it('comes back as it was stored, within a sixteen-bit step, and never beyond full', () => {
    fc.assert(
      fc.property(fc.float32Array({ min: -3, max: 3, noNaN: true }), (samples) => {
        const back = done(playing(done(storing(samples))));
        expect(back).toHaveLength(samples.length);
        back.forEach((value, at) => {
          const kept = Math.max(-1, Math.min(1, samples[at]!));
          expect(Math.abs(value - kept)).toBeLessThan(1 / 32_000);
        });
      }),
    );
  });

  it('is joined from blocks in any order, between any two frames, with silence where none came', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 500 }),
        fc.integer({ min: 0, max: 900 }),
        fc.shuffledSubarray([0, 1, 2, 3, 4, 5, 6, 7]),
        (from, to, order) => {
          const blocks = order.map((index) => ({
            frame: 64 * index,
            samples: Int16Array.from({ length: 64 }, (_, at) => 1 + 64 * index + at),
          }));
          const whole = joined(blocks, from, to);
          expect(whole).toHaveLength(Math.max(0, to - from));
          whole.forEach((value, at) => {
            const frame = from + at;
            expect(value).toBe(order.includes(Math.floor(frame / 64)) ? 1 + frame : 0);
          });
        },
      ),
    );
  });

  it('is drawn by the greatest sample of each stretch', () => {
    const samples = toStored(Float32Array.of(0, 0.5, -1, 0, 0.25, 0));
    expect(peaksOf({ rate: 6, samples }, 3).map((peak) => Math.round(100 * peak))).toEqual([50, 100, 25]);
    expect(peaksOf({ rate: 6, samples: new Int16Array(0) }, 2)).toEqual([0, 0]);
  });

  it('is a WAV file that says what it is', () => {
    const bytes = storedWav(44_100, Int16Array.of(1, -2, 300));
    const view = new DataView(bytes.buffer);
    expect(String.fromCharCode(...bytes.subarray(0, 4), ...bytes.subarray(8, 12))).toBe('RIFFWAVE');
    expect([view.getUint32(4, true), view.getUint32(24, true), view.getUint32(40, true)]).toEqual([42, 44_100, 6]);
    expect([0, 1, 2].map((at) => view.getInt16(44 + 2 * at, true))).toEqual([1, -2, 300]);
  });
});
