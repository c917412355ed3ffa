import * as fc from 'fast-check';
import { typeChords } from '../song/chord-typing';
import { roleOf } from '../song/roles';
import type { Brief } from '../song/schema';
import { barsAgain, rootsInOctaves } from '../study/band-measures';
import { groundFor } from '../styles/band';
import { STYLES, styleOf } from '../styles/styles';
import { partAsking } from './asking';
import { draft } from './draft';

const seeds = () => fc.integer({ min: 1, max: 1_000 });

/** A bassline over a loop of four chords that goes round twice. */
function bassline(id: string, seed: number, brief: Partial<Brief> = {}) {
  const style = styleOf(id);
  const ground = groundFor(style, { tonic: 0, scale: 'major' });
  const { beats, unit } = ground.metre;
  const bar = (beats * 1920) / unit;
  const chords = typeChords([], 0, 'C | Am | F | G | C | Am | F | G', {
    key: ground,
    metre: ground.metre,
    length: 8 * bar,
  });
  const own = style.band.find(({ role }) => role === 'bass')?.brief;
  const part = { role: 'bass' as const, brief: { ...roleOf('bass').brief, ...own, ...brief } };
  const result = draft({ asking: partAsking({ ground, bars: 8, kind: 'verse' }, part), seed, chords, beside: [] }, 0);
  if (!result.ok || result.content.of !== 'part') throw new Error('no bass');
  return { notes: result.content.notes, chords, ground };
}

describe('basslines', () => {
  it('keep their roots in one octave where chords arrive', () => {
    fc.assert(
      fc.property(fc.constantFrom(...STYLES), seeds(), ({ id }, seed) => {
        const { notes, chords } = bassline(id, seed);
        expect(rootsInOctaves(notes, chords)).toBe(0);
      }),
      { numRuns: 60 },
    );
  });

  it('keep their figure: what goes round is said again, but for phrase ends', () => {
    const again = STYLES.map(({ id }) => {
      const { notes, ground } = bassline(id, 7, { adventure: 0 });
      return barsAgain(notes, ground.metre, 8);
    });
    expect(again.filter((share) => share >= 3 / 7).length).toBeGreaterThan(STYLES.length * 0.7);
  });

  it('walk without striking a note twice', () => {
    fc.assert(
      fc.property(seeds(), (seed) => {
        const { notes, chords } = bassline('swing', seed, { way: 'walking', adventure: 0, syncopation: 25 });
        const arrivals = new Set(chords.map(({ start }) => start));
        const twice = notes
          .slice(1)
          .filter(({ pitch, start }, index) => pitch === notes[index]?.pitch && !arrivals.has(start));
        expect(twice).toEqual([]);
      }),
      { numRuns: 40 },
    );
  });

  it('last as long as they are asked to', () => {
    const sounding = (length: number): number =>
      bassline('country', 3, { length }).notes.reduce((sum, { duration }) => sum + duration, 0);
    expect(sounding(10)).toBeLessThan(sounding(60));
    expect(sounding(100)).toBeGreaterThan(sounding(60));
  });

  it('lead on by other steps as adventure grows', () => {
    const foreign = (adventure: number): number =>
      Array.from({ length: 12 }, (_, seed) => bassline('soul', seed + 1, { adventure }).notes)
        .flat()
        .filter(({ pitch }) => ![0, 2, 4, 5, 7, 9, 11].includes(pitch % 12)).length;
    expect(foreign(0)).toBe(0);
    expect(foreign(90)).toBeGreaterThan(5);
  });
});
