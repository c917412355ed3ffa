import * as fc from 'fast-check';
import { NOTHING_HEARD, songTicks } from '../song/resolve';
import { scoreWith } from '../testing/scores';
import { humanised } from './humanise';
import { heardNotes } from '../testing/sounding';

const BAR = 1920;
const { score, takes } = scoreWith(3, 0);
const loose = { ...score, parts: score.parts.map((part) => ({ ...part, brief: { ...part.brief, humanise: 80 } })) };
const line = Object.values(takes).flatMap((take) => (take.of === 'part' ? [take.notes] : []))[0]!;

describe('humanising', () => {
  it('leaves all as it is at 0 %, and strays further the more is asked, never far', () => {
    expect(humanised(line, 0, 'a', BAR)).toBe(line);
    const stray = (amount: number): number =>
      Math.max(...humanised(line, amount, 'a', BAR).map(({ start }, index) => Math.abs(start - line[index]!.start)));
    expect(stray(100)).toBeGreaterThan(stray(20));
    expect(stray(100)).toBeLessThan(60);
  });

  it('is the same every time, and of its own for every part', () => {
    expect(humanised(line, 50, 'a', BAR)).toBe(humanised(line, 50, 'a', BAR));
    expect(humanised(line, 50, 'a', BAR)).not.toEqual(humanised(line, 50, 'b', BAR));
  });

  it('drifts rather than jitters: neighbours stray alike', () => {
    const strays = humanised(
      Array.from({ length: 400 }, (_, index) => ({ start: index * 240, duration: 200, pitch: 60, velocity: 80 })),
      100,
      'a',
      BAR,
    ).map(({ start }, index) => start - index * 240);
    const products = strays.slice(1).reduce((sum, value, index) => sum + value * strays[index]!, 0);
    const squares = strays.reduce((sum, value) => sum + value * value, 0);
    expect(products / squares).toBeGreaterThan(0.4);
  });

  it('loses no note at the beginning of the song, of a section or of a loop', () => {
    const counts = (one: typeof score, from: number, to: number): number =>
      heardNotes(one, takes, NOTHING_HEARD, { from, to }).length;
    for (let amount = 10; amount <= 100; amount += 10) {
      const hands = {
        ...score,
        parts: score.parts.map((part) => ({ ...part, brief: { ...part.brief, humanise: amount } })),
      };
      for (let from = 0; from < songTicks(score); from += BAR)
        expect(counts(hands, from, from + BAR)).toBe(counts(score, from, from + BAR));
    }
  });

  it('keeps the strings of a strum together and in their order', () => {
    const strum = [0, 480, 960, 1440].flatMap((beat) =>
      [0, 9, 18].map((nudge, string) => ({
        start: beat + nudge,
        duration: 400,
        pitch: 60 + 4 * string,
        velocity: 80,
        nudge,
      })),
    );
    const played = humanised(strum, 100, 'a', BAR).slice(3);
    for (let first = 0; first < played.length; first += 3)
      expect(played.slice(first, first + 3).map(({ start }) => start - played[first]!.start)).toEqual([0, 9, 18]);
  });

  it('keeps the law of neighbouring windows', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), (share) => {
        const to = songTicks(loose);
        const cut = Math.round(to * share);
        const whole = heardNotes(loose, takes, NOTHING_HEARD, { from: 0, to });
        expect([
          ...heardNotes(loose, takes, NOTHING_HEARD, { from: 0, to: cut }),
          ...heardNotes(loose, takes, NOTHING_HEARD, { from: cut, to }),
        ]).toEqual(whole);
      }),
      { numRuns: 30 },
    );
  });
});
