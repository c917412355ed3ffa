import { typeChords } from '../song/chord-typing';
import { METRES } from '../theory/metre';
import { barsAgain, differsFromUsual, grooveConsistency, isLoop, risingFourths, rootsInOctaves } from './band-measures';

const metre = METRES[2]!;
const key = { tonic: 0, scale: 'major' };
const typed = (text: string, bars: number) => typeChords([], 0, text, { key, metre, length: bars * 1920 });
const strokes = (...places: readonly (readonly [start: number, pitch: number])[]) =>
  places.map(([start, pitch]) => ({ start, duration: 100, pitch, velocity: 90 }));

describe('measures of a band', () => {
  it('compare bars with what was heard before, with their neighbours and with the usual one', () => {
    const four = [0, 1, 2, 3].map((bar) => [bar * 1920, 36] as const);
    const plain = strokes(...four);
    expect(barsAgain(plain, metre, 4)).toBe(1);
    expect(grooveConsistency(plain, metre, 4)).toBe(1);
    expect(differsFromUsual(plain, metre, 4, 3)).toBe(0);
    const filled = strokes(...four, [3 * 1920 + 960, 38]);
    expect(barsAgain(filled, metre, 4)).toBeCloseTo(2 / 3);
    expect(differsFromUsual(filled, metre, 4, 3)).toBe(0.5);
    expect(grooveConsistency(filled, metre, 4)).toBeCloseTo(1 - 1 / 48);
    expect(barsAgain([], metre, 1)).toBe(0);
    expect(differsFromUsual([], metre, 2, 1)).toBe(0);
  });

  it('find roots struck in several octaves', () => {
    const chords = typed('C | G | C | G', 4);
    expect(rootsInOctaves(strokes([0, 36], [1920, 31], [3840, 36], [5760, 31]), chords)).toBe(0);
    expect(rootsInOctaves(strokes([0, 36], [1920, 31], [3840, 48], [5760, 31]), chords)).toBe(0.5);
  });

  it('count root moves that rise by a fourth, chords said twice once', () => {
    expect(risingFourths(typed('C | C | F | G | C', 5))).toBeCloseTo(2 / 3);
    expect(risingFourths(typed('C', 1))).toBeUndefined();
  });

  it('know a loop from what only begins like one', () => {
    const loop = typed('C | G | Am | F | C | G | Am | F', 8);
    expect(isLoop(loop, 4 * 1920, 8 * 1920)).toBe(true);
    expect(isLoop(typed('C | G | Am | F | C | G | Am | G', 8), 4 * 1920, 8 * 1920)).toBe(false);
  });
});
