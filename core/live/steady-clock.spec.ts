import fc from 'fast-check';
import { stream } from '../trellis/random';
import { isSteady, lookedAgain, NO_LOOKS, offsetOf, type Looks } from './steady-clock';

const looksAt = (measures: readonly number[], before: Looks = NO_LOOKS): Looks =>
  measures.reduce((looks, measured) => lookedAgain(looks, measured), before);

describe('the clock of the sound', () => {
  it('is steady though each look at it trembles, and goes along with one that runs faster', () => {
    const roll = stream(3, 'looks');
    let looks = NO_LOOKS;
    // Fifty millionths faster, for five minutes, looked at fifty times a second.
    const truth = (look: number): number => 500 + look * 20 * 50e-6;
    for (let look = 0; look < 15_000; look++) {
      looks = lookedAgain(looks, truth(look) + 6 * (roll.next() - 0.5));
      if (look > 100) expect(Math.abs(offsetOf(looks)! - truth(look))).toBeLessThan(1);
    }
  });

  it('is not moved by looks that came late, wherever they are, the first one too', () => {
    const late = fc.uniqueArray(fc.nat(39), { maxLength: 3 });
    fc.assert(
      fc.property(late, fc.double({ min: 1, max: 200, noNaN: true }), (places, by) => {
        const roll = stream(places.length, 'late');
        let looks = NO_LOOKS;
        for (let look = 0; look < 40; look++) {
          looks = lookedAgain(looks, 1200 + 0.04 * (roll.next() - 0.5) + (places.includes(look) ? by : 0));
          // Three of twelve are as many as it bears.
          if (look >= 12) expect(Math.abs(offsetOf(looks)! - 1200)).toBeLessThan(0.04);
        }
      }),
    );
  });

  it('is not set by a few that came late while the others happen to lie high', () => {
    const before = looksAt(Array.from({ length: 20 }, (_, look) => 1200 + (look % 5) / 100));
    const looks = looksAt([1200.041, 1200.042, 1200.041, 1201, 1200.042, 1201, 1201, 1200.041], before);
    expect(Math.abs(offsetOf(looks)! - 1200)).toBeLessThan(0.045);
  });

  it('is set within eight looks where the sound comes later from then on, however little, one far off among them', () => {
    const before = looksAt(Array.from({ length: 128 }, (_, look) => 1200 + (look % 3) / 100));
    for (const by of [0.2, 1.3, -1.3, 40, 9000])
      for (const odd of [null, 0, 4, 7]) {
        const later = Array.from({ length: 8 }, (_, look) => 1200 + by + (look % 3) / 100 - (look === odd ? 1591 : 0));
        expect(offsetOf(looksAt(later, before))).toBeCloseTo(1200 + by + 0.01, 1);
        expect(offsetOf(looksAt(later, looksAt([1234])))).toBeCloseTo(1200 + by + 0.01, 1);
      }
  });

  it('believes estimates only until it is told better', () => {
    const estimated = [1207, 1210, 1211].reduce((looks, measured) => lookedAgain(looks, measured, true), NO_LOOKS);
    expect(offsetOf(estimated)).toBeCloseTo(1209.3, 1);
    const told = lookedAgain(estimated, 1202);
    expect(offsetOf(told)).toBe(1202);
    expect(offsetOf(lookedAgain(told, 1300, true))).toBe(1202);
  });

  it('is known after a few looks, and not before the first', () => {
    expect(offsetOf(NO_LOOKS)).toBeNull();
    expect(isSteady(looksAt([1, 1, 1]))).toBe(false);
    expect(isSteady(looksAt([1, 1, 1, 1, 1, 1, 1, 1]))).toBe(true);
  });
});
