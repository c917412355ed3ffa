import * as fc from 'fast-check';
import {
  boundsOf,
  DEGREES_OF,
  DIRECTIONS,
  FURTHEST_LOOP,
  LOOP_COUNT,
  LOOP_DEGREES,
  LOOP_STARTS,
  MEETINGS,
  RATES,
  STRIPS,
  WANDERING_TONES,
  type DegreesOf,
  type DrawnPattern,
  type Loop,
  type Loops,
  type OtherNote,
  type Pattern,
  type Strip,
  type StripName,
  type Wandering,
} from '../song/schema';

import { leaning } from './leans';

const step = fc.nat({ max: 8 });
const percent = fc.integer({ min: 0, max: 100 });
const bars = fc.option(fc.integer({ min: 1, max: 4 }));

function stripsFor(name: StripName, degrees: DegreesOf): fc.Arbitrary<Strip> {
  const { low, high } = boundsOf(name, degrees);
  const value = fc.integer({ min: low, max: high });
  return fc
    .record({
      values: fc.array(value, { minLength: 1, maxLength: 9 }),
      ends: fc.tuple(value, value),
      held: fc.uniqueArray(step, { maxLength: 4 }),
      still: fc.boolean(),
    })
    .map(({ ends, ...rest }) => ({ ...rest, low: Math.min(...ends), high: Math.max(...ends) }));
}

function othersFor(degrees: DegreesOf): fc.Arbitrary<readonly OtherNote[]> {
  const { low, high } = boundsOf('degree', degrees);
  const other = fc.record({ step, value: fc.integer({ min: low, max: high }), share: fc.integer({ min: 1, max: 30 }) });
  return fc
    .array(other, { maxLength: 6 })
    .map((list) => list.filter((one, index) => list.slice(0, index).filter((own) => own.step === one.step).length < 3));
}

const patternsOf = (degrees: DegreesOf): fc.Arbitrary<DrawnPattern> =>
  fc
    .record({
      of: fc.constant('drawn' as const),
      seed: fc.nat(),
      degrees: fc.constant(degrees),
      low: fc.integer({ min: 0, max: 100 }),
      span: fc.integer({ min: 11, max: 27 }),
      rate: fc.constantFrom(...RATES.slice(2, -1)),
      direction: fc.constantFrom(...DIRECTIONS),
      swing: percent,
      restart: bars,
      redraw: bars,
      sustain: fc.boolean(),
      strips: fc.record(
        Object.fromEntries(STRIPS.map((name) => [name, stripsFor(name, degrees)])) as Record<
          StripName,
          fc.Arbitrary<Strip>
        >,
      ),
      ties: fc.uniqueArray(step, { maxLength: 3 }),
      others: othersFor(degrees),
    })
    .map(({ span, ...pattern }) => ({ ...pattern, high: pattern.low + span }));

const reach = fc
  .record({ low: fc.integer({ min: 0, max: 100 }), span: fc.integer({ min: 11, max: 27 }) })
  .map(({ low, span }) => ({ low, high: low + span }));

const loop: fc.Arbitrary<Loop> = fc
  .integer({ min: 1, max: 11 })
  .chain((steps) =>
    fc.record({
      steps: fc.constant(steps),
      notches: fc.uniqueArray(
        fc.record({ step: fc.nat({ max: steps - 1 }), degree: fc.integer({ min: -24, max: 24 }) }),
        { minLength: 1, maxLength: 4, selector: ({ step: at }) => at },
      ),
      rate: fc.constantFrom(...RATES.slice(2, -1)),
      direction: fc.constantFrom(...DIRECTIONS),
      chance: percent,
      loudness: fc.integer({ min: 1, max: 127 }),
      octave: fc.integer({ min: -FURTHEST_LOOP, max: FURTHEST_LOOP }),
    }),
  );

/** Interlocking loops of any kind, all of them valid. */
export const loopPatterns: fc.Arbitrary<Loops> = fc
  .record({
    of: fc.constant('loops' as const),
    seed: fc.nat(),
    degrees: fc.constantFrom(...LOOP_DEGREES),
    reach,
    loops: fc.array(loop, { minLength: LOOP_COUNT.least, maxLength: LOOP_COUNT.most }),
    starts: fc.constantFrom(...LOOP_STARTS),
    meeting: fc.constantFrom(...MEETINGS),
    length: fc.integer({ min: 5, max: 400 }),
  })
  .map(({ reach: range, ...rest }) => ({ ...rest, ...range }));

const ends = (low: number, high: number): fc.Arbitrary<{ low: number; high: number }> =>
  fc
    .tuple(fc.integer({ min: low, max: high }), fc.integer({ min: low, max: high }))
    .map(([one, other]) => ({ low: Math.min(one, other), high: Math.max(one, other) }));

/** Wandering notes of any kind, all of them valid. */
export const wanderings: fc.Arbitrary<Wandering> = fc
  .record({
    of: fc.constant('wandering' as const),
    seed: fc.nat(),
    tones: fc.constantFrom(...WANDERING_TONES),
    reach,
    stride: percent,
    length: ends(20, 3000),
    loudness: ends(1, 127),
    gap: ends(60, 3000),
    division: fc.option(fc.constantFrom(...RATES.slice(2, -1))),
    double: percent,
    density: percent,
    voices: fc.integer({ min: 1, max: 5 }),
    grid: fc.boolean(),
  })
  .map(({ reach: range, ...rest }) => ({ ...rest, ...range }));

/** Anything by which a take can go on by itself. */
export const patterns = (): fc.Arbitrary<Pattern> =>
  leaning(fc.oneof<fc.Arbitrary<Pattern>[]>(drawnPatterns, loopPatterns, wanderings));

/** Drawn patterns of any kind, all of them valid. */
export const drawnPatterns: fc.Arbitrary<DrawnPattern> = fc
  .constantFrom(...DEGREES_OF)
  .chain((degrees) => patternsOf(degrees));
