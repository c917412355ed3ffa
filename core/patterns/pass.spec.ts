import * as fc from 'fast-check';
import { patternSchema, ROLES } from '../song/schema';
import { chordsOf } from '../testing/chords';
import { patterns } from '../testing/patterns';
import { rounds } from '../testing/rounds';
import { scoreWith } from '../testing/scores';
import { firstLoops, firstPattern, firstWandering } from './first-pattern';
import type { Over } from './over';
import { patternNotes } from './pass';

const [part] = scoreWith(1, 0).score.parts;

/** Sections of any length in any metre, with chords over some of their bars. */
const overs: fc.Arbitrary<Over> = fc
  .record({
    bars: fc.integer({ min: 1, max: 5 }),
    pass: fc.nat({ max: 6 }),
    bar: fc.constantFrom(1440, 1920, 1680),
    chords: fc.constantFrom('C', 'Dm7 G7/B', 'C F#dim E7 Am'),
  })
  .map(({ bars, bar, pass, chords }) => ({
    chords: chordsOf(chords, bar).slice(0, bars),
    ground: { tonic: 0, scale: 'major' },
    bar,
    length: bars * bar,
    pass,
  }));

describe('whatever goes on by itself', () => {
  it('gives notes of its section in order, in its range, each with an end before its pitch comes again', () => {
    fc.assert(
      fc.property(patterns(), overs, (pattern, over) => {
        const ends = new Map<number, number>();
        let before = 0;
        for (const { start, duration, pitch, velocity, strikes = 1 } of patternNotes(pattern, over)) {
          expect(start).toBeGreaterThanOrEqual(before);
          expect(duration).toBeGreaterThan(0);
          expect(Number.isInteger(start) && Number.isInteger(duration)).toBe(true);
          expect(start + duration).toBeLessThanOrEqual(over.length);
          expect(start).toBeGreaterThanOrEqual(ends.get(pitch) ?? 0);
          expect(velocity >= 1 && velocity <= 127).toBe(true);
          expect(strikes).toBeLessThanOrEqual(duration);
          const fixed = pattern.of === 'drawn' && pattern.degrees === 'fixed';
          if (!fixed) expect(pitch >= pattern.low && pitch <= pattern.high).toBe(true);
          before = start;
          ends.set(pitch, start + duration);
        }
      }),
      { numRuns: rounds(600) },
    );
  });

  it('gives the same notes for the same pass, whatever was played before', () => {
    fc.assert(
      fc.property(patterns(), overs, fc.array(fc.nat({ max: 9 }), { maxLength: 5 }), (pattern, over, others) => {
        const copy = patternSchema.parse(JSON.parse(JSON.stringify(pattern)));
        for (const pass of others) patternNotes(copy, { ...over, pass });
        expect(patternNotes(copy, { ...over, chords: [...over.chords] })).toEqual(patternNotes(pattern, over));
      }),
      { numRuns: rounds(200) },
    );
  });

  it('can be begun by every part, in its register', () => {
    for (const role of ROLES)
      for (const begin of [firstPattern, firstLoops, firstWandering]) {
        const pattern = patternSchema.parse(begin({ ...part!, role }, 3));
        expect(pattern.high - pattern.low).toBeGreaterThanOrEqual(11);
        const over = { chords: chordsOf('C F G C', 1920), ground: { tonic: 0, scale: 'major' }, bar: 1920 };
        expect(patternNotes(pattern, { ...over, length: 7680, pass: 0 }).length).toBeGreaterThan(3);
      }
  });
});
