import * as fc from 'fast-check';
import { chordsOf } from '../testing/chords';
import { secondsPerTick } from '../sounding/tempo-map';
import { certaintiesOf } from './certainty';
import { HOP, KEYS, LOWEST, RATE, type Activations } from './frames';
import type { HeardNote } from './heard-note';
import { laidUnder } from './laid-under';
import { strokesIn } from './strokes';
import { notesIn } from './transcribed';
import { voicesOf } from './voices';

/** What the model would say of keys that are struck and held, in frames. */
function activationsOf(
  keys: readonly { readonly pitch: number; readonly from: number; readonly to: number }[],
): Activations {
  const frames = 20 + Math.max(0, ...keys.map(({ to }) => to));
  const [notes, onsets] = [new Float32Array(frames * KEYS), new Float32Array(frames * KEYS)];
  for (const { pitch, from, to } of keys) {
    const key = pitch - LOWEST;
    for (const [beside, value] of [
      [-1, 0.4],
      [0, 0.9],
      [1, 0.4],
    ] as const)
      if (from + beside >= 0) onsets[(from + beside) * KEYS + key] = value;
    for (let frame = from; frame < to; frame++) notes[frame * KEYS + key] = 0.8;
  }
  return { frames, notes, onsets };
}

describe('what a recording is heard as', () => {
  it('has every key that is struck, when and as long as it sounds', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(
          fc.record({
            pitch: fc.integer({ min: 21, max: 108 }),
            from: fc.integer({ min: 0, max: 300 }),
            length: fc.integer({ min: 8, max: 60 }),
          }),
          { selector: ({ pitch }) => pitch, maxLength: 12 },
        ),
        (struck) => {
          const heard = notesIn(
            activationsOf(struck.map(({ pitch, from, length }) => ({ pitch, from, to: from + length }))),
          );
          expect(heard.map(({ pitch }) => pitch).sort((a, b) => a - b)).toEqual(
            struck.map(({ pitch }) => pitch).sort((a, b) => a - b),
          );
          for (const { pitch, start, end } of heard) {
            const own = struck.find((key) => key.pitch === pitch)!;
            expect(Math.abs(start * (RATE / HOP) - own.from)).toBeLessThan(1.01);
            expect(Math.abs(end * (RATE / HOP) - own.from - own.length)).toBeLessThan(2);
          }
        },
      ),
    );
  });

  it('has a key that is struck again twice', () => {
    const heard = notesIn(
      activationsOf([
        { pitch: 60, from: 5, to: 30 },
        { pitch: 60, from: 30, to: 60 },
      ]),
    );
    expect(heard.map(({ start }) => Math.round(start * (RATE / HOP)))).toEqual([5, 30]);
  });

  it('has its strokes where something becomes louder, low ones and high ones apart', () => {
    const samples = new Float32Array(3 * RATE);
    const burst = (at: number, pitch: number): void => {
      for (let index = 0; index < 2000; index++)
        samples[at * RATE + index] = 0.5 * Math.exp(-index / 500) * Math.sin((2 * Math.PI * pitch * index) / RATE);
    };
    burst(1, 60);
    burst(2, 6000);
    const { all, low, high } = strokesIn(samples);
    const strongest = (values: Float32Array): number => (values.indexOf(Math.max(...values)) * HOP) / RATE;
    expect(Math.abs(strongest(low) - 1)).toBeLessThan(0.04);
    expect(Math.abs(strongest(high) - 2)).toBeLessThan(0.04);
    expect(all.reduce((sum, value) => sum + value, 0) / all.length).toBeCloseTo(1, 3);
    expect(strokesIn(new Float32Array(RATE)).all.every((value) => value === 0)).toBe(true);
  });
});

describe('voices of a recording', () => {
  const tune = [60, 62, 64, 65, 67, 65, 64, 62].map((pitch, at): HeardNote => ({
    start: at / 2,
    end: at / 2 + 0.45,
    pitch,
    strength: 0.7,
  }));

  it('are one line where no two notes sound together, whatever overtones seem to', () => {
    const overtones = tune.map((note) => ({ ...note, pitch: note.pitch + 12, strength: 0.75, end: note.end - 0.1 }));
    const heard = [...tune, ...overtones].sort((a, b) => a.start - b.start || a.pitch - b.pitch);
    expect(voicesOf(heard)).toEqual([{ plays: 'single line', notes: tune }]);
    expect(voicesOf([])).toEqual([]);
  });

  it('are a bass, chords and an upper line that moves by itself', () => {
    const chords = [0, 2].flatMap((start) =>
      [36, 52, 55, 59].map((pitch): HeardNote => ({ start, end: start + 1.9, pitch, strength: 0.7 })),
    );
    const above = tune.map((note) => ({
      ...note,
      start: note.start + 0.25,
      end: note.end + 0.2,
      pitch: note.pitch + 12,
    }));
    const heard = [...chords, ...above].sort((a, b) => a.start - b.start || a.pitch - b.pitch);
    const voices = voicesOf(heard);
    expect(voices.map(({ plays }) => plays)).toEqual(['bass', 'chords', 'upper line']);
    expect(voices[0]!.notes.map(({ pitch }) => pitch)).toEqual([36, 36]);
    expect(voices[2]!.notes.map(({ pitch }) => pitch)).toEqual(above.map(({ pitch }) => pitch));
  });
});

describe('chords of a recording', () => {
  const notes = (...pitches: readonly number[]) => pitches.map((pitch) => ({ start: 0, duration: 1920, pitch }));

  it('are sure where their notes sound, and a guess where others do', () => {
    const [c] = [chordsOf('C', 1920)];
    expect(certaintiesOf(c, notes(48, 60, 64, 67))).toEqual(['sure']);
    expect(certaintiesOf(c, notes(48, 60, 64, 67, 69, 62))).toEqual(['likely']);
    expect(certaintiesOf(c, notes(49, 54, 61))).toEqual(['a guess']);
    expect(certaintiesOf(c, [])).toEqual(['a guess']);
    expect(certaintiesOf([{ start: 0, duration: 1920, chord: null }], notes(60))).toEqual([null]);
  });
});

describe('a recording under its song', () => {
  it('has its first bar line where the song begins', () => {
    fc.assert(
      fc.property(fc.double({ min: -9, max: 9, noNaN: true }), fc.integer({ min: 40, max: 240 }), (first, tempo) => {
        const { leftOut, at, offset } = laidUnder(first, tempo);
        expect(Math.abs(at * secondsPerTick(tempo) + offset / 1000 - leftOut + first)).toBeLessThan(0.001);
        expect(Math.abs(Math.min(leftOut, at))).toBe(0);
      }),
    );
  });
});
