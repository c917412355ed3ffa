import * as fc from 'fast-check';
import { FURTHEST_MOVE, LEAN_SETTINGS, MOST_LEANS, type Lean, type LeanMoves } from '../song/schema';

/** Moves of any settings, all of them valid. */
export const leanMoves: fc.Arbitrary<LeanMoves> = fc
  .uniqueArray(fc.constantFrom(...LEAN_SETTINGS), { minLength: 1, maxLength: 6 })
  .chain((settings) =>
    fc.tuple(
      ...settings.map((setting) =>
        fc
          .integer({ min: 1, max: FURTHEST_MOVE })
          .chain((far) => fc.constantFrom(far, -far))
          .map((by) => ({ setting, by })),
      ),
    ),
  );

const common = { name: fc.constantFrom('busier', 'own word'), moves: leanMoves, bars: fc.integer({ min: 1, max: 9 }) };

/** Leanings that are at work by themselves, some of them struck out. */
export const leans: fc.Arbitrary<readonly Lean[]> = fc.array(
  fc
    .tuple(
      fc.oneof(
        fc.record({
          ...common,
          goes: fc.constant('slowly' as const),
          then: fc.constantFrom('stays' as const, 'comes back' as const),
        }),
        fc.record({ ...common, goes: fc.constant('by chance' as const), chance: fc.integer({ min: 0, max: 100 }) }),
      ),
      fc.boolean(),
    )
    .map(([lean, off]) => (off ? { ...lean, off } : lean)),
  { maxLength: MOST_LEANS },
);

/** A thing of which every third leans by itself. */
export const leaning = <T extends object>(things: fc.Arbitrary<T>): fc.Arbitrary<T & { leans?: readonly Lean[] }> =>
  fc.tuple(things, fc.option(leans, { freq: 1 })).map(([thing, own]) => (own ? { ...thing, leans: own } : thing));
