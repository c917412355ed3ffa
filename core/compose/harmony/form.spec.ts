import { harmonyBriefFor } from '../../song/briefs';
import type { HarmonyBrief, SectionKind } from '../../song/schema';
import { isLoop } from '../../study/band-measures';
import { groundFor, newSection } from '../../styles/band';
import { STYLES, styleOf } from '../../styles/styles';
import { pitchClassOf } from '../../theory/pitch';
import { barTicks } from '../../theory/metre';
import { harmonyAsking } from '../asking';
import { draft } from '../draft';
import { readForm } from './form';
import { candidatesFor } from './vocabulary';

function progression(
  id: string,
  scale: string,
  seed: number,
  bars: number,
  brief: Partial<HarmonyBrief> = {},
  kind: SectionKind = 'verse',
) {
  const style = styleOf(id);
  const ground = groundFor(style, { tonic: 0, scale });
  const asking = harmonyAsking({ ground, bars, kind }, { ...harmonyBriefFor(kind, style.harmony), ...brief });
  const result = draft({ asking: { ...asking, bound: true }, seed, chords: null, beside: [] }, 0);
  if (!result.ok || result.content.of !== 'harmony') throw new Error(result.ok ? '' : result.reason);
  return { chords: result.content.chords, bar: barTicks(ground.metre) };
}
const seeds = Array.from({ length: 20 }, (_, index) => index + 1);
const share = (test: (seed: number) => boolean): number => seeds.filter(test).length / seeds.length;

describe('forms', () => {
  it('are read bar by bar, with chords of one bar and choices', () => {
    expect(readForm('1 2-5 1/5')).toEqual([[['1']], [['2'], ['5']], [['1', '5']]]);
  });

  it('give the blues twelve bars of its own sevenths', () => {
    expect(newSection(styleOf('blues'), 'verse', 'v').bars).toBe(12);
    for (const seed of seeds) {
      const { chords } = progression('blues', 'mixolydian', seed, 12);
      expect(chords).toHaveLength(12);
      const roots = chords.map(({ chord }) => pitchClassOf(chord!.root));
      expect([roots[0], roots[4], roots[6], roots[8], roots[10]]).toEqual([0, 5, 0, 7, 0]);
      expect(chords.every(({ chord }) => chord!.tones.includes('3') && chord!.tones.includes('b7'))).toBe(true);
    }
  });

  it('can be asked for in any style, and a cadence goes before the form', () => {
    const { chords } = progression('folk', 'major', 3, 12, { form: 'twelve bars', cadence: 'authentic' });
    expect(chords.map(({ chord }) => pitchClassOf(chord!.root)).slice(-2)).toEqual([7, 0]);
  });

  it('go round loops that stay the same, as often as the style does', () => {
    const loops = (id: string, brief: Partial<HarmonyBrief> = {}) =>
      share((seed) => {
        const { chords, bar } = progression(id, 'minor', seed, 8, brief);
        return isLoop(chords, 4 * bar, 8 * bar);
      });
    expect(loops('house')).toBeGreaterThan(0.5);
    expect(loops('folk')).toBeLessThan(0.5);
    expect(loops('folk', { form: 'loop of four' })).toBe(1);
    expect(loops('folk', { form: 'free' })).toBe(0);
    for (const seed of seeds.slice(0, 5)) {
      const { chords, bar } = progression('house', 'minor', seed, 8, { form: 'loop of two' });
      expect(isLoop(chords, 2 * bar, 8 * bar)).toBe(true);
    }
  });

  it('a a b a says its first unit again, but for its last cadence', () => {
    for (const seed of seeds.slice(0, 8)) {
      const { chords, bar } = progression('swing', 'major', seed, 32, { form: 'a a b a', cadence: 'authentic' });
      const unit = (from: number): string =>
        JSON.stringify(
          chords
            .filter(({ start }) => start >= from * 8 * bar && start < (from * 8 + 6) * bar)
            .map(({ chord, start }) => [start - from * 8 * bar, chord]),
        );
      expect(unit(1)).toBe(unit(0));
      expect(unit(3)).toBe(unit(0));
      expect(unit(2)).not.toBe(unit(0));
    }
  });
});

describe('dialects', () => {
  it('have the leading note in minor where the style wants it, and elsewhere keep to the scale', () => {
    const fifths = (id: string) =>
      seeds.flatMap((seed) =>
        progression(id, 'minor', seed, 8).chords.flatMap(({ chord }) =>
          pitchClassOf(chord!.root) === 7 ? [chord!.tones.includes('3')] : [],
        ),
      );
    for (const id of ['swing', 'bossa-nova', 'waltz', 'salsa']) {
      expect(fifths(id).length).toBeGreaterThan(3);
      expect(fifths(id).every(Boolean)).toBe(true);
    }
    expect(fifths('new-wave').filter(Boolean).length).toBeLessThan(fifths('new-wave').length / 2);
  });

  it('borrow a major fourth with its major seventh, and with the minor one in minor alone', () => {
    const fourth = (scale: string) =>
      candidatesFor({ tonic: 0, scale }, 'sevenths').find(
        ({ chord }) => pitchClassOf(chord.root) === 5 && chord.tones.includes('3'),
      )!.chord.tones;
    expect(fourth('minor')).toContain('b7');
    expect(fourth('mixolydian')).toContain('7');
    expect(fourth('lydian')).toContain('7');
  });

  it('never split a bar for one chord, nor begin on a diminished one', () => {
    for (const { id, scales } of STYLES)
      for (const seed of seeds) {
        const { chords, bar } = progression(id, scales[0]!, seed, 8);
        expect(chords[0]!.chord!.tones.includes('b5') && !chords[0]!.chord!.tones.includes('3')).toBe(false);
        chords.forEach(({ chord, duration }, index) => {
          const next = chords[index + 1];
          if (next && Math.min(duration, next.duration) < bar) expect(chord).not.toEqual(next.chord);
        });
      }
  });

  it('set a bridge out from elsewhere than home, and a verse mostly from there', () => {
    const homes = (kind: SectionKind): number =>
      share((seed) => pitchClassOf(progression('indie-rock', 'major', seed, 8, {}, kind).chords[0]!.chord!.root) === 0);
    expect(homes('bridge')).toBeLessThan(0.25);
    expect(homes('verse')).toBeGreaterThan(0.5);
  });

  it('are plain where nothing is to stray: chords of the scale alone', () => {
    const { chords } = progression('swing', 'minor', 4, 8, { adventure: 0, cadence: 'open' });
    expect(chords.every(({ chord }) => !(pitchClassOf(chord!.root) === 7 && chord!.tones.includes('3')))).toBe(true);
  });
});
