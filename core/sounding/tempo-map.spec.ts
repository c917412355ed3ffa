import * as fc from 'fast-check';
import { secondsPerTick, tempoMap, type TempoStretch } from './tempo-map';

const tempos = fc.double({ min: 20, max: 300, noNaN: true });
/** Neighbouring stretches, some on one tempo and some that change on the way. */
const stretches = fc
  .array(fc.record({ length: fc.integer({ min: 1, max: 20_000 }), tempo: tempos, endTempo: fc.option(tempos) }), {
    minLength: 1,
    maxLength: 6,
  })
  .map((raw) => {
    let start = 0;
    return raw.map(({ length, tempo, endTempo }): TempoStretch => {
      const stretch = { start, end: start + length, tempo, ...(endTempo === null ? {} : { endTempo }) };
      start += length;
      return stretch;
    });
  });

describe('a tempo map', () => {
  it('finds every tick again from its seconds, before, within and after all stretches, and never goes back', () => {
    fc.assert(
      fc.property(stretches, fc.integer({ min: -4000, max: 130_000 }), (list, tick) => {
        const { secondsAt, tickAt } = tempoMap(list);
        expect(Math.abs(tickAt(secondsAt(tick)) - tick)).toBeLessThan(1e-3);
        expect(secondsAt(tick + 1)).toBeGreaterThan(secondsAt(tick));
      }),
    );
  });

  it('counts steady tempos as their ticks do', () => {
    const { secondsAt } = tempoMap([
      { start: 0, end: 1920, tempo: 120 },
      { start: 1920, end: 3840, tempo: 60 },
    ]);
    expect(secondsAt(1920)).toBeCloseTo(2);
    expect(secondsAt(2400)).toBeCloseTo(3);
    expect(secondsAt(3840 + 480)).toBeCloseTo(7);
    expect(secondsAt(-480)).toBeCloseTo(-0.5);
    expect(secondsPerTick(120) * 480).toBeCloseTo(0.5);
  });

  it('passes through a gradual change as fine steps would', () => {
    fc.assert(
      fc.property(tempos, tempos, (from, to) => {
        const steps = 4000;
        const slow = Array.from({ length: steps }, (_, index) => {
          const tempo = from + ((to - from) * (index + 0.5)) / steps;
          return { start: index * 4, end: (index + 1) * 4, tempo };
        });
        const exact = tempoMap([{ start: 0, end: steps * 4, tempo: from, endTempo: to }]).secondsAt(steps * 4);
        expect(Math.abs(tempoMap(slow).secondsAt(steps * 4) / exact - 1)).toBeLessThan(1e-5);
      }),
      { numRuns: 20 },
    );
  });

  it('needs a stretch', () => {
    expect(() => tempoMap([])).toThrow(RangeError);
  });
});
