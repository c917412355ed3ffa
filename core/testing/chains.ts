import * as fc from 'fast-check';
import {
  ARPEGGIO_ORDERS,
  INVERT_AROUND,
  LOUDNESS_WAYS,
  MOST_BRANCHES,
  MOST_FURTHER,
  RATES,
  STEPS_OF,
  STRUM_WAYS,
  VOICES,
  type Chain,
  type Only,
  type Treatment,
} from '../song/schema';

const share = fc.integer({ min: 0, max: 100 });
const velocity = fc.integer({ min: 1, max: 127 });
const rate = fc.constantFrom(...RATES);
const steps = fc.integer({ min: -24, max: 24 });
const stepsOf = fc.constantFrom(...STEPS_OF);

const only: fc.Arbitrary<Only> = fc
  .tuple(fc.constantFrom('pitch' as const, 'loudness' as const), velocity, velocity)
  .map(([by, one, other]) => ({ by, low: Math.min(one, other), high: Math.max(one, other) }));

const named = <Name extends Treatment['does']>(does: Name): fc.Arbitrary<Name> => fc.constant(does);

/** Treatments of any kind, all of them valid; each for all notes. */
export const treatments: fc.Arbitrary<Treatment> = fc.oneof<fc.Arbitrary<Treatment>[]>(
  fc.record({ does: named('transpose'), by: steps }),
  fc.record({ does: named('octave'), by: fc.integer({ min: -4, max: 4 }) }),
  fc.record({
    does: named('stack'),
    of: stepsOf,
    steps: fc.array(
      steps.filter((by) => by !== 0),
      { minLength: 1, maxLength: 4 },
    ),
  }),
  fc.record({
    does: named('arpeggiate'),
    order: fc.constantFrom(...ARPEGGIO_ORDERS),
    rate,
    repeats: fc.integer({ min: 1, max: 8 }),
    further: fc.integer({ min: 0, max: MOST_FURTHER }),
    distance: fc.integer({ min: 1, max: 12 }),
  }),
  fc.record({
    does: named('stray'),
    chance: share,
    of: stepsOf,
    up: fc.integer({ min: 0, max: 24 }),
    down: fc.integer({ min: 0, max: 24 }),
  }),
  fc.record({ does: named('snap'), to: fc.constantFrom('chord' as const, 'scale' as const) }),
  fc.record({ does: named('length'), percent: fc.integer({ min: 5, max: 400 }) }),
  fc.record({ does: named('delay'), by: rate }),
  fc.record({ does: named('echo'), times: fc.integer({ min: 1, max: 8 }), gap: rate, fade: share }),
  fc.record({ does: named('strum'), way: fc.constantFrom(...STRUM_WAYS), spread: fc.integer({ min: 1, max: 480 }) }),
  fc.record({ does: named('thin'), chance: share }),
  fc
    .record({
      does: named('loudness'),
      way: fc.constantFrom(...LOUDNESS_WAYS),
      ends: fc.tuple(velocity, velocity),
      percent: fc.integer({ min: 5, max: 300 }),
    })
    .map(({ ends, ...rest }) => ({ ...rest, low: Math.min(...ends), high: Math.max(...ends) })),
  fc.record({ does: named('humanise'), amount: share }),
  fc.record({ does: named('legato') }),
  fc.record({ does: named('time'), times: fc.integer({ min: 1, max: 4 }), over: fc.integer({ min: 1, max: 4 }) }),
  fc.record({ does: named('reverse') }),
  fc.record({ does: named('invert'), around: fc.constantFrom(...INVERT_AROUND), of: stepsOf }),
  fc.record({ does: named('voice'), which: fc.constantFrom(...VOICES) }),
);

const inPlace: fc.Arbitrary<Treatment> = fc
  .tuple(treatments, fc.option(only), fc.boolean())
  .map(([treatment, whom, off]) => ({ ...treatment, ...(whom && { only: whom }), ...(off && { off }) }));

/** Chains of any treatments, some struck out, some for a few notes only. */
export const chains: fc.Arbitrary<Chain> = fc.array(fc.array(inPlace, { maxLength: 4 }), {
  minLength: 1,
  maxLength: MOST_BRANCHES,
});
