import { storedWav } from '@fendro/core/sounding/wav';

const RATE = 22_050;
/** Each partial of a plucked string, softer than the one below it. */
const PARTIALS = [1, 0.5, 0.3, 0.2, 0.1];

/**
 * A WAV file of chords that are plucked on every beat, four beats each, the first of them with its bass.
 *
 * @param chords  MIDI pitches, the bass first
 * @param tempo   beats a minute
 * @param lead    seconds of silence before the first
 */
export function pluckedChords(chords: readonly (readonly number[])[], tempo: number, lead: number): Buffer {
  const beat = 60 / tempo;
  const samples = new Float32Array(Math.ceil((lead + (4 * chords.length + 2) * beat) * RATE));
  const pluck = (pitch: number, at: number, seconds: number, loud: number): void => {
    const frequency = 440 * 2 ** ((pitch - 69) / 12);
    const from = Math.round(at * RATE);
    for (let index = 0; index < seconds * RATE && from + index < samples.length; index++) {
      const time = index / RATE;
      const shape = Math.min(1, time / 0.004, (seconds - time) / 0.02) * Math.exp(-2 * time);
      const wave = PARTIALS.reduce(
        (sum, part, at) => sum + part * Math.sin(2 * Math.PI * frequency * (at + 1) * time),
        0,
      );
      samples[from + index] = (samples[from + index] ?? 0) + loud * shape * wave;
    }
  };
  chords.forEach(([bass = 36, ...upper], index) => {
    for (let step = 0; step < 4; step++) {
      const at = lead + (4 * index + step) * beat;
      if (step === 0) pluck(bass, at, 4 * beat, 0.16);
      for (const pitch of upper) pluck(pitch, at, 0.95 * beat, step === 0 ? 0.11 : 0.07);
    }
  });
  return Buffer.from(
    storedWav(
      RATE,
      Int16Array.from(samples, (value) => Math.round(32_767 * value)),
    ),
  );
}
