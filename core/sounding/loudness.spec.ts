import * as fc from 'fast-check';
import { levelled, loudnessOf } from './loudness';

const sine = (seconds: number, rate: number, hertz: number, peak: number): Float32Array =>
  Float32Array.from(
    { length: Math.round(seconds * rate) },
    (_, at) => peak * Math.sin((2 * Math.PI * hertz * at) / rate),
  );

describe('loudness', () => {
  it('is what the recommendation says of its own example: a full tone of 997 Hz on one side is -3.01 LUFS', () => {
    for (const rate of [32_000, 44_100, 48_000]) {
      const tone = sine(2, rate, 997, 1);
      expect(loudnessOf(tone, new Float32Array(tone.length), rate)).toBeCloseTo(-3.01, 1);
      expect(loudnessOf(tone, tone, rate)).toBeCloseTo(0, 1);
    }
  });

  it('falls by as many LU as the sound by dB', () => {
    fc.assert(
      fc.property(fc.integer({ min: -30, max: 0 }), fc.constantFrom(110, 440, 2500), (decibels, hertz) => {
        const whole = sine(1, 44_100, hertz, 1);
        const softer = whole.map((sample) => sample * 10 ** (decibels / 20));
        expect(loudnessOf(softer, softer, 44_100)! - loudnessOf(whole, whole, 44_100)!).toBeCloseTo(decibels, 1);
      }),
      { numRuns: 12 },
    );
  });

  it('does not count rests, and silence has none', () => {
    const tone = sine(1, 44_100, 440, 0.5);
    const rested = new Float32Array(4 * tone.length);
    rested.set(tone);
    expect(loudnessOf(rested, rested, 44_100)!).toBeGreaterThan(loudnessOf(tone, tone, 44_100)! - 1.5);
    expect(loudnessOf(new Float32Array(44_100), new Float32Array(44_100), 44_100)).toBeNull();
    expect(loudnessOf(new Float32Array(0), new Float32Array(0), 44_100)).toBeNull();
  });

  it('turns the louder of two down to the softer, never one up', () => {
    expect(levelled(-20, -23)).toEqual([-3, 0]);
    expect(levelled(-23, -20)).toEqual([0, -3]);
    expect(levelled(null, -20)).toEqual([0, 0]);
  });
});
