import fc from 'fast-check';
import { BURIED, buriedIn, crowdedIn, levelDecibels, levelFor, together } from './clashes';
import { instrumentOf } from './instruments';
import { reachOf } from './reach';

const line = (pitches: readonly number[], start = 0) =>
  pitches.map((pitch, index) => ({ start: start + index * 480, duration: 480, pitch }));
const LOW = [48, 50, 52, 53, 55, 53, 52, 50];
const HIGH = [72, 74, 76, 77, 79, 77, 76, 74];
const MIDDLE = [53, 52, 50, 48, 50, 55, 53, 48];

describe('levels', () => {
  it('and dB are each other’s, by the square', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 100 }), (level) => {
        expect(levelFor(levelDecibels(level))).toBeCloseTo(level, 6);
      }),
    );
    expect(levelDecibels(50)).toBeCloseTo(-12.04, 2);
    expect(together([-20, -20])).toBeCloseTo(-16.99, 2);
  });

  it('bury what lies too far under the loudest line, and nothing after it was raised so far', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: -60, max: -5, noNaN: true }), { minLength: 1, maxLength: 8 }), (list) => {
        const loudness = new Map(list.map((each, index) => [`part-${index}`, each]));
        const found = buriedIn(loudness);
        const most = Math.max(...list);
        expect(found.map(({ part }) => part)).toEqual(
          [...loudness].filter(([, own]) => most - own > BURIED).map(([part]) => part),
        );
        const raised = new Map([...loudness].map(([part, own]) => [part, Math.max(own, most - BURIED + 0.01)]));
        expect(buriedIn(raised)).toEqual([]);
      }),
    );
    expect(buriedIn(new Map())).toEqual([]);
  });
});

describe('registers', () => {
  it('are crowded where two lines lie in one at one time, and say which', () => {
    const found = crowdedIn(
      new Map([
        ['a', line(LOW)],
        ['b', line(MIDDLE)],
        ['c', line(HIGH)],
      ]),
    );
    expect(found).toEqual([{ parts: ['a', 'b'], low: 48, high: 55 }]);
  });

  it('are not where lines take turns, double each other, or are silent', () => {
    const crowded = (a: ReturnType<typeof line>, b: ReturnType<typeof line>) =>
      crowdedIn(
        new Map([
          ['a', a],
          ['b', b],
        ]),
      );
    expect(crowded(line(LOW), line(MIDDLE, 8 * 480))).toEqual([]);
    expect(crowded(line(LOW), line(LOW))).toEqual([]);
    expect(crowded(line(LOW), [])).toEqual([]);
    expect(crowded(line(LOW), line(LOW.map((pitch) => pitch + 12)))).toEqual([]);
  });

  it('are the same whichever line comes first', () => {
    const lines = fc.array(fc.integer({ min: 40, max: 80 }), { minLength: 1, maxLength: 12 });
    fc.assert(
      fc.property(lines, lines, (a, b) => {
        const found = crowdedIn(
          new Map([
            ['a', line(a)],
            ['b', line(b)],
          ]),
        );
        const turned = crowdedIn(
          new Map([
            ['b', line(b)],
            ['a', line(a)],
          ]),
        );
        expect(turned).toEqual(found.map((each) => ({ ...each, parts: ['b', 'a'] })));
      }),
    );
  });
});

describe('what an instrument reaches', () => {
  const bass = instrumentOf('acoustic-bass');

  it('is told with the octave in which it reaches most', () => {
    expect(reachOf(HIGH, bass, 0)).toEqual({ below: 0, above: 8, better: -2 });
    expect(reachOf(HIGH, bass, -2)).toEqual({ below: 0, above: 0, better: null });
    expect(reachOf([26, 30], bass, 0)).toEqual({ below: 1, above: 0, better: 1 });
    expect(reachOf([], bass, 0).better).toBeNull();
  });

  it('is never better somewhere else once the better octave is taken', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 127 })), fc.integer({ min: -3, max: 3 }), (pitches, octave) => {
        const { better, below, above } = reachOf(pitches, bass, octave);
        if (better === null) return;
        const then = reachOf(pitches, bass, better);
        expect(then.better).toBeNull();
        expect(then.below + then.above).toBeLessThan(below + above);
      }),
    );
  });
});
