import * as fc from 'fast-check';
import type { Wandering } from '../song/schema';
import { DRUM_KEYS } from '../song/style';
import { chordsOf } from '../testing/chords';
import { wanderings } from '../testing/patterns';
import { rounds } from '../testing/rounds';
import { scoreWith } from '../testing/scores';
import { chordMask } from '../theory/chord';
import { keyMask } from '../theory/key';
import { inMask } from '../theory/pitch';
import { firstWandering } from './first-pattern';
import type { Over } from './over';
import { wanderingNotes } from './wandering';

const BAR = 1920;
const ground = { tonic: 0, scale: 'major' };
const over = (text: string, pass = 0): Over => {
  const chords = chordsOf(text, BAR);
  return { chords, ground, bar: BAR, length: chords.length * BAR, pass };
};
const { parts } = scoreWith(1, 0).score;
const melody = parts.find(({ role }) => role === 'melody')!;
const drums = parts.find(({ role }) => role === 'drums')!;
const first = firstWandering(melody, 4);
const passes = (pattern: Wandering, count: number) =>
  Array.from({ length: count }, (_, pass) => wanderingNotes(pattern, over('C F', pass))).flat();

describe('wandering notes', () => {
  it('keep to their ranges of loudness, length and voices, in the chord, the scale or the kit', () => {
    fc.assert(
      fc.property(wanderings, fc.nat({ max: 5 }), (pattern, pass) => {
        const where = over('C F#dim E7', pass);
        const notes = wanderingNotes(pattern, where);
        for (const { start, duration, pitch, velocity } of notes) {
          expect(velocity >= pattern.loudness.low && velocity <= pattern.loudness.high).toBe(true);
          if (!pattern.grid) expect(duration).toBeLessThanOrEqual(pattern.length.high);
          const { chord } = where.chords[Math.floor(start / BAR)]!;
          if (pattern.tones === 'chord') expect(inMask(chordMask(chord!), pitch)).toBe(true);
          if (pattern.tones === 'scale') expect(inMask(keyMask(ground), pitch)).toBe(true);
          if (pattern.tones === 'kit') expect(Object.values(DRUM_KEYS)).toContain(pitch);
          if (pattern.grid && pattern.division === null) expect(start % 40).toBe(0);
          const sounding = notes.filter((other) => other.start <= start && other.start + other.duration > start);
          expect(sounding.length).toBeLessThanOrEqual(pattern.voices);
        }
      }),
      { numRuns: rounds(300) },
    );
  });

  it('come after gaps of the range, or by divisions of which some are cut in two', () => {
    const free = { ...first, density: 100, grid: false, gap: { low: 300, high: 500 } };
    const starts = wanderingNotes(free, over('C F')).map(({ start }) => start);
    for (const [index, start] of starts.entries())
      if (index > 0) expect(start - starts[index - 1]!).toBeGreaterThanOrEqual(300);
    expect(starts.length).toBeGreaterThan(6);
    const bar = (double: number) =>
      wanderingNotes({ ...first, density: 100, division: 320, double }, over('C')).map(({ start }) => start);
    expect(bar(0)).toEqual([0, 320, 640, 960, 1280, 1600]);
    expect(bar(100)).toEqual(Array.from({ length: 12 }, (_, index) => index * 160));
    expect(bar(40).length).toBeGreaterThan(6);
  });

  it('sound as often as their density says', () => {
    const hits = (density: number): number => passes({ ...first, division: 240, density }, 125).length;
    expect([hits(0), hits(100)]).toEqual([0, 2000]);
    for (const density of [10, 50, 80]) {
      const [hit, wanted] = [hits(density), 20 * density];
      expect((hit - wanted) ** 2 / wanted + (hit - wanted) ** 2 / (2000 - wanted)).toBeLessThan(10.8);
    }
  });

  it('go further with a wider stride', () => {
    const mean = (stride: number): number => {
      const notes = passes({ ...first, stride, division: 240, density: 100 }, 40);
      const steps = notes.slice(1).map(({ pitch }, index) => Math.abs(pitch - notes[index]!.pitch));
      return steps.reduce((all, step) => all + step, 0) / steps.length;
    };
    expect(mean(0)).toBeLessThan(3.2);
    expect(mean(100)).toBeGreaterThan(1.5 * mean(0));
  });

  it('take degrees of the scale as often as the song does', () => {
    const weights = [100, 0, 100, 0, 50, 0, 0];
    const where = { ...over('C F'), ground: { ...ground, weights } };
    const pattern = { ...first, stride: 100, division: 120, density: 100 };
    const found = Array.from({ length: 40 }, (_, pass) => wanderingNotes(pattern, { ...where, pass })).flat();
    expect(new Set(found.map(({ pitch }) => pitch % 12))).toEqual(new Set([0, 4, 7]));
  });

  it('make a fill of a kit’s drums, another in each pass', () => {
    const fill = firstWandering(drums, 8);
    const heard = [0, 1, 2].map((pass) => JSON.stringify(wanderingNotes(fill, over('C', pass))));
    expect(new Set(heard).size).toBe(3);
    expect(new Set(wanderingNotes(fill, over('C F G C')).map(({ pitch }) => pitch)).size).toBeGreaterThan(3);
  });
});
