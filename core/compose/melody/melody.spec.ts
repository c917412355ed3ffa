import * as fc from 'fast-check';
import { chordMask } from '../../theory/chord';
import { coloursOver } from '../../theory/colour';
import { barTicks } from '../../theory/metre';
import { inMask } from '../../theory/pitch';
import { melodyMeasures, type Measures } from '../../study/melody-measures';
import { movesOf } from '../../study/motifs';
import { roleOf } from '../../song/roles';
import type { Asking, Brief, MotifUse, Note } from '../../song/schema';
import { groundFor } from '../../styles/band';
import type { Style } from '../../song/style';
import { STYLES, styleOf } from '../../styles/styles';
import { hashLabels } from '../../trellis/random';
import { harmonyBriefFor } from '../../song/briefs';
import { harmonyAsking, partAsking } from '../asking';
import { draft } from '../draft';
import { motifNotes } from '../motif';

const BARS = 8;

/** A melody over chords of its own in a style's usual ground. */
function melodyIn(styleId: string, number: number, brief: Partial<Brief> = {}, more: Partial<Asking> = {}) {
  const style = styleOf(styleId);
  const seed = hashLabels(number, [styleId]);
  const ground = groundFor(style, { tonic: 0, scale: style.scales[0] ?? 'major' });
  const place = { ground, bars: BARS, kind: more.kind ?? ('verse' as const) };
  const harmony = draft(
    { asking: harmonyAsking(place, harmonyBriefFor('verse', style.harmony)), seed, chords: null, beside: [] },
    0,
  );
  if (!harmony.ok || harmony.content.of !== 'harmony') throw new Error('no chords');
  const { chords } = harmony.content;
  const own = style.band.find(({ role }) => role === 'melody')?.brief;
  const part = { role: 'melody' as const, brief: { ...roleOf('melody').brief, ...own, ...brief } };
  const result = draft({ asking: { ...partAsking(place, part), ...more }, seed, chords, beside: [] }, 0);
  if (!result.ok || result.content.of !== 'part') throw new Error(result.ok ? 'no notes' : result.reason);
  const { notes } = result.content;
  const measures = melodyMeasures({ notes, chords, key: ground, metre: ground.metre, bars: BARS });
  return { notes, chords, ground, measures };
}

const median = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? NaN;
const someSeeds = [1, 2, 3, 4, 5];
const SINGING = STYLES.filter(({ band }) => band.some(({ role }) => role === 'melody'));
const all = (styles = SINGING, brief: Partial<Brief> = {}): Measures[] =>
  styles.flatMap(({ id }) => someSeeds.map((seed) => melodyIn(id, seed, brief).measures));
const medianOf = (measured: readonly Measures[], name: string): number =>
  median(measured.flatMap((measures) => measures[name] ?? []));
const meanOf = (measured: readonly Measures[], name: string): number => {
  const values = measured.flatMap((measures) => measures[name] ?? []);
  return values.reduce((sum, value) => sum + value, 0) / values.length;
};

describe('melodies on default briefs', () => {
  const measured = all();

  // The bands are those of human melodies, a little wider: these are fewer than the study's.
  it.each([
    ['steps (1-2)', 0.43, 0.68],
    ['skips (3-4)', 0.1, 0.3],
    ['leaps (5+)', 0.05, 0.2],
    ['leap recovery', 0.5, 0.85],
    ['range', 9, 16],
    ['pitch-class entropy', 2.1, 2.75],
    ['bars: rhythm heard before', 0.4, 0.75],
    ['notes in motifs of 4+ (transposable)', 0.2, 0.42],
    ['longest motif, transposable (notes)', 5, 8],
    ['chord notes, downbeat', 0.8, 0.96],
    ['chord notes, other beats', 0.75, 0.92],
    ['chord notes, off beats', 0.45, 0.75],
  ])('%s lie where people’s do', (name, low, high) => {
    const value = medianOf(measured, name);
    expect(value).toBeGreaterThanOrEqual(low);
    expect(value).toBeLessThanOrEqual(high);
  });

  it('say some bars again, but not most', () => {
    expect(meanOf(measured, 'bars: heard exactly before')).toBeGreaterThan(0.08);
    expect(meanOf(measured, 'bars: heard exactly before')).toBeLessThan(0.3);
  });
});

describe('recall', () => {
  it('goes from ever new to much that returns, and is heard', () => {
    const some = SINGING.filter((_, index) => index % 3 === 0);
    const shares = [0, 50, 100].map((recall) => meanOf(all(some, { recall }), 'notes in motifs of 4+ (transposable)'));
    expect(shares[0]!).toBeLessThan(0.1);
    expect(shares[1]!).toBeGreaterThan(shares[0]! + 0.1);
    expect(shares[2]!).toBeGreaterThan(0.35);
  });
});

describe('sections', () => {
  it('that lead into a chorus rise, and a verse does not', () => {
    const rise = (kind: Asking['kind']): number =>
      median(
        Array.from({ length: 40 }, (_, index) => {
          const { notes } = melodyIn('singer-songwriter', index + 1, {}, { kind, bound: true });
          const mean = (from: number, to: number): number => {
            const some = notes.filter(({ start }) => start >= from * 1920 && start < to * 1920);
            return some.reduce((sum, { pitch }) => sum + pitch, 0) / some.length;
          };
          return mean(4, 8) - mean(0, 4);
        }),
      );
    expect(rise('pre-chorus')).toBeGreaterThan(rise('verse') + 1);
  });
});

describe('rest', () => {
  it('is found at ends of phrases: what a long last note stands on, it belongs to or colours', () => {
    const ends = SINGING.flatMap(({ id }) =>
      someSeeds.flatMap((seed) => {
        const { notes, chords } = melodyIn(id, seed);
        const last = notes.at(-1)!;
        const chord = chords.findLast(({ start }) => start <= last.start)!.chord!;
        return [inMask(chordMask(chord) | coloursOver(chord), last.pitch)];
      }),
    );
    expect(ends.every(Boolean)).toBe(true);
  });
});

const motif = {
  bars: 2,
  barTicks: 1920,
  notes: [
    { start: 0, duration: 480, step: 0 },
    { start: 480, duration: 720, step: 2 },
    { start: 1200, duration: 240, step: 1 },
    { start: 1440, duration: 480, step: -2 },
    { start: 1920, duration: 480, step: 0 },
    { start: 2400, duration: 960, step: 1 },
  ],
};
const inUse = (use: MotifUse): NonNullable<Asking['motif']> => ({ ...motif, use });
const textOf = (notes: readonly { readonly start: number }[], from: number, to: number): string =>
  notes
    .filter(({ start }) => start >= from && start < to)
    .map(({ start }) => start - from)
    .join();
const onsets = textOf(motif.notes, 0, 3840);

describe('a motif of the song', () => {
  const seeds = fc.integer({ min: 1, max: 500 });
  const said = (use: MotifUse, seed: number) =>
    melodyIn('singer-songwriter', seed, {}, { bound: true, kind: 'chorus', motif: inUse(use) });

  it('is stated in its rhythm from the first bar on, mostly on its own steps', () => {
    let whole = 0;
    for (let seed = 1; seed <= 30; seed++) {
      const { notes, ground } = said('states', seed);
      expect(textOf(notes, 0, 3840)).toBe(onsets);
      const asked = motif.notes.map(({ start, step }) => ({ start, pitch: 60 + step }));
      const steps = (line: readonly Pick<Note, 'start' | 'pitch'>[]) =>
        movesOf(line, ground).map((move) => move.split(' ')[0]);
      const heard = steps(notes.filter(({ start }) => start < 3840));
      const wanted = asked.slice(1).map((_, index) => String(motif.notes[index + 1]!.step - motif.notes[index]!.step));
      if (heard.join() === wanted.join()) whole++;
    }
    expect(whole).toBeGreaterThan(20);
  });

  it('is quoted once, and avoided where it is to be', () => {
    fc.assert(
      fc.property(seeds, (seed) => {
        expect(textOf(said('quotes', seed).notes, 4 * 1920, 6 * 1920)).toBe(onsets);
        const { notes } = said('avoids', seed);
        for (let bar = 0; bar < BARS; bar++)
          expect(textOf(notes, bar * 1920, (bar + 1) * 1920)).not.toBe(textOf(motif.notes, 0, 1920));
      }),
      { numRuns: 20 },
    );
  });

  it('is stretched to twice its times, inverted, answered in its first half only', () => {
    expect(motifNotes(inUse('stretches'), 3840, 1920).map(({ at }) => at)).toEqual([0, 960, 2400, 2880]);
    expect(motifNotes(inUse('inverts'), 3840, 1920).map(({ step }) => step)).toEqual([-0, -2, -1, 2, -0, -1]);
    expect(motifNotes(inUse('answers'), 3840, 1920).map(({ step }) => step)).toEqual([0, 2, 1, null, null, null]);
  });

  it('is cut to other bars: what does not fit is left out', () => {
    expect(motifNotes(inUse('states'), 2 * 1440, 1440).map(({ at }) => at)).toEqual([0, 480, 1200, 1440, 1920]);
    expect(motifNotes(inUse('states'), 1920, 1920)).toHaveLength(4);
  });
});

describe('rhythm', () => {
  it('of a style of one’s own is made of what it has, of common cells where it has none', () => {
    const style = styleOf('soul');
    const request = (melody: Style['melody'], bars: number) => {
      const ground = groundFor(style, { tonic: 0, scale: 'major' });
      const part = { role: 'melody' as const, brief: roleOf('melody').brief };
      const asking = partAsking({ ground, bars, kind: 'verse' }, part);
      return { asking, seed: 3, chords: null, beside: [], style: { ...style, melody } };
    };
    for (const bars of [1, 3, 8])
      for (const melody of [[], undefined, [{ name: 'two', steps: '.-.-.-.|.-x-.-x' }]]) {
        const result = draft(request(melody, bars), 0);
        expect(result.ok && result.content.of === 'part' ? result.content.notes.length : 0).toBeGreaterThan(0);
      }
  });

  it('belongs to the style: waltzes and funk have none of each other’s bars', () => {
    const bars = (style: string): Set<string> =>
      new Set(
        someSeeds.flatMap((seed) => {
          const { notes, ground } = melodyIn(style, seed);
          const bar = barTicks(ground.metre);
          return Array.from({ length: BARS }, (_, index) => textOf(notes, index * bar, (index + 1) * bar));
        }),
      );
    const [funk, folk] = [bars('funk'), bars('folk')];
    expect([...funk].filter((bar) => bar !== '' && folk.has(bar) && bar.includes(','))).toEqual([]);
  });

  it('has sixteenths and triplets where the style has them', () => {
    const finest = (style: string) =>
      new Set(someSeeds.flatMap((seed) => melodyIn(style, seed).notes.map(({ start }) => start % 240)));
    expect(finest('funk').has(120)).toBe(true);
    expect([...finest('hip-hop')].some((rest) => rest === 160 || rest === 80)).toBe(true);
    expect([...finest('folk')]).toEqual([0]);
  });
});
