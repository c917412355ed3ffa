import { typeChords } from '../song/chord-typing';
import { METRES } from '../theory/metre';
import { entropyOf, melodyMeasures } from './melody-measures';

const metre = METRES[2]!;
const key = { tonic: 0, scale: 'major' };
const chords = typeChords([], 0, 'C | G', { key, metre, length: 3840 });
const tune = (...notes: readonly (readonly [beat: number, pitch: number, beats?: number])[]) => ({
  notes: notes.map(([beat, pitch, beats = 1]) => ({ start: beat * 480, duration: beats * 480, pitch, velocity: 90 })),
  chords,
  key,
  metre,
  bars: 2,
});

describe('measures of a melody', () => {
  it('are those that human melodies were measured by', () => {
    const measures = melodyMeasures(tune([0, 60], [1, 62], [2, 67], [3, 64], [4, 67], [5, 69], [6, 74], [7, 71]));
    expect(measures).toMatchObject({
      'notes a bar': 4,
      'repeated notes': 0,
      'leap recovery': 1,
      'onsets off the beat': 0,
      'rest share': 0,
      range: 14,
      'bars: rhythm heard before': 1,
      'bars: heard exactly before': 0,
      'any bar said again': 0,
      'notes in motifs of 4+ (transposable)': 0.5,
      'chord notes, downbeat': 1,
      'climax position': 0.75,
    });
    expect(measures['chord notes, other beats']).toBeCloseTo(4 / 6);
  });

  it('count rests from an eighth on, and exact repetition', () => {
    const measures = melodyMeasures(tune([0, 60, 0.5], [2, 64, 2], [4, 60, 0.5], [6, 64, 2]));
    expect(measures['rest share']).toBeCloseTo(3 / 8);
    expect(measures['bars: heard exactly before']).toBe(1);
    expect(measures['any bar said again']).toBe(1);
  });

  it('are missing where a melody says nothing of them', () => {
    const measures = melodyMeasures(tune([0, 60], [1, 62], [2, 64]));
    expect('leap recovery' in measures).toBe(false);
    expect(melodyMeasures(tune([0, 60]))).toEqual({});
  });

  it('know entropy in bits', () => {
    expect(entropyOf([1, 1, 1])).toBeCloseTo(0);
    expect(entropyOf([1, 2, 3, 4])).toBeCloseTo(2);
  });
});
