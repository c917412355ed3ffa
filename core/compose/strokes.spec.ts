import * as fc from 'fast-check';
import { STYLES } from '../styles/styles';
import { barTicks, METRES } from '../theory/metre';
import { stream } from '../trellis/random';
import { drawBar, filledBar, leaned, offBeat, onGrid, thinned, usualOf, wantedOff } from './strokes';

const four = METRES[2]!;
const brief = (busyness: number, syncopation = 25) => ({ busyness, syncopation });
const bars = () =>
  fc
    .uniqueArray(fc.integer({ min: 0, max: 15 }), { minLength: 1, maxLength: 10 })
    .map((steps) => steps.sort((a, b) => a - b).map((step) => step * 120));

describe('strokes of a bar', () => {
  it('are drawn without one coming twice, inside the bar, as many as there is room for', () => {
    fc.assert(
      fc.property(fc.constantFrom(...METRES), fc.integer({ min: 0, max: 20 }), fc.integer(), (metre, count, seed) => {
        const drawn = drawBar(metre, count, brief(count), stream(seed));
        expect(new Set(drawn).size).toBe(drawn.length);
        expect(drawn.length).toBeLessThanOrEqual(count);
        expect(drawn.every((at) => at >= 0 && at < barTicks(metre))).toBe(true);
      }),
    );
  });

  it('are thinned to a part of them, and filled around them', () => {
    fc.assert(
      fc.property(bars(), fc.integer({ min: 0, max: 16 }), fc.integer(), (onsets, count, seed) => {
        const less = thinned(onsets, count, four, brief(4), stream(seed));
        expect(less.length).toBe(Math.min(count, onsets.length));
        expect(less.every((at) => onsets.includes(at))).toBe(true);
        const more = drawBar(four, count, brief(count), stream(seed), onsets);
        expect(onsets.every((at) => more.includes(at))).toBe(true);
      }),
    );
  });

  it('stay as they are where the brief comes near', () => {
    expect(filledBar([0, 480, 960], 3, 0, four, brief(3.5), stream(1))).toEqual([0, 480, 960]);
    expect(filledBar([0, 480, 960], 3, 0, four, brief(8), stream(1))).toHaveLength(8);
    expect(filledBar([0, 480, 960], 3, 1, four, brief(0.5), stream(1)).length).toBeLessThan(3);
  });

  it('lean on and off the beat as far as there is room, and keep their number', () => {
    fc.assert(
      fc.property(bars(), fc.integer(), (onsets, seed) => {
        for (const wanted of [0, 0.5, 1]) {
          const moved = leaned(onsets, wanted, four, stream(seed));
          expect(moved).toHaveLength(onsets.length);
          expect(new Set(moved).size).toBe(moved.length);
        }
        expect(leaned(onsets, offBeat(onsets, four), four, stream(seed))).toEqual(onsets);
        const off = (wanted: number): number => offBeat(leaned(onsets, wanted, four, stream(seed)), four);
        expect(off(0)).toBeLessThanOrEqual(off(1));
      }),
    );
    expect(leaned([240, 720, 1200], 0, four, stream(1)).every((at) => at % 480 === 0)).toBe(true);
    expect(leaned([0, 480, 960], 1, four, stream(1)).every((at) => at % 480 !== 0)).toBe(true);
  });

  it('are left as a style writes them where the brief asks for its usual syncopation', () => {
    expect(wantedOff(0.4, 25, 25)).toBeCloseTo(0.4);
    expect(wantedOff(0.4, 0, 25)).toBe(0);
    expect(wantedOff(0.4, 100, 25)).toBe(1);
    expect(wantedOff(0.4, 30, 0)).toBeGreaterThan(0.4);
    const style = STYLES.find(({ id }) => id === 'funk')!;
    expect(usualOf(style, 'melody')).toEqual({ busyness: 6, syncopation: 70 });
  });

  it('fall onto a grid that is asked for', () => {
    expect(onGrid([0, 160, 360, 600], 'eighths')).toEqual([0, 240, 480]);
    expect(onGrid([0, 160, 360], null)).toEqual([0, 160, 360]);
  });
});
