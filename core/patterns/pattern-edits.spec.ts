import * as fc from 'fast-check';
import { DEGREES_OF, drawnPatternSchema, ROLES, STRIPS, type DrawnPattern } from '../song/schema';
import { drawnPatterns } from '../testing/patterns';
import { scoreWith } from '../testing/scores';
import { firstPattern } from './first-pattern';
import * as edits from './pattern-edits';

const key = { tonic: 2, scale: 'dorian' };
const number = fc.integer({ min: -200, max: 500 });
const name = fc.constantFrom(...STRIPS);
const step = fc.nat({ max: 12 });

const anEdit: fc.Arbitrary<(pattern: DrawnPattern) => DrawnPattern> = fc.oneof(
  fc.tuple(name, step, number).map(
    ([of, at, value]) =>
      (one: DrawnPattern) =>
        edits.withValue(one, of, at, value),
  ),
  fc.tuple(name, number).map(
    ([of, steps]) =>
      (one: DrawnPattern) =>
        edits.withSteps(one, of, steps),
  ),
  step.map((at) => (one: DrawnPattern) => edits.withTie(one, at)),
  fc.tuple(name, step).map(
    ([of, at]) =>
      (one: DrawnPattern) =>
        edits.withHeldStep(one, of, at),
  ),
  name.map((of) => (one: DrawnPattern) => edits.withStillStrip(one, of)),
  fc.tuple(name, number, number).map(
    ([of, from, to]) =>
      (one: DrawnPattern) =>
        edits.withRange(one, of, from, to),
  ),
  fc.tuple(step, fc.array(fc.record({ value: number, share: number }), { maxLength: 5 })).map(
    ([at, others]) =>
      (one: DrawnPattern) =>
        edits.withOthers(one, at, others),
  ),
  fc.tuple(number, number).map(([low, high]) => (one: DrawnPattern) => ({ ...one, ...edits.reachBetween(low, high) })),
  fc.constantFrom(...DEGREES_OF).map((degrees) => (one: DrawnPattern) => edits.withDegrees(one, degrees, key)),
);

describe('edits of a pattern', () => {
  it('make a valid pattern of a valid one', () => {
    fc.assert(
      fc.property(drawnPatterns, fc.array(anEdit, { maxLength: 8 }), (pattern, list) => {
        expect(() => drawnPatternSchema.parse(list.reduce((one, edit) => edit(one), pattern))).not.toThrow();
      }),
    );
  });

  it('tie, hold and let go again', () => {
    fc.assert(
      fc.property(drawnPatterns, name, step, (pattern, of, at) => {
        const sorted = (steps: readonly number[]) => [...steps].sort((a, b) => a - b);
        const tied = edits.withTie(edits.withTie(pattern, at), at);
        expect(sorted(tied.ties)).toEqual(sorted(pattern.ties));
        const held = edits.withHeldStep(edits.withHeldStep(pattern, of, at), of, at);
        expect(sorted(held.strips[of].held)).toEqual(sorted(pattern.strips[of].held));
        expect(edits.withStillStrip(edits.withStillStrip(pattern, of), of)).toEqual(pattern);
      }),
    );
  });

  it('make a strip longer by what it says, and shorter again without a change', () => {
    fc.assert(
      fc.property(drawnPatterns, name, fc.integer({ min: 1, max: 64 }), (pattern, of, steps) => {
        const { values } = pattern.strips[of];
        const changed = edits.withSteps(pattern, of, steps).strips[of].values;
        expect(changed).toEqual(Array.from({ length: steps }, (_, index) => values[index % values.length]));
        if (steps >= values.length)
          expect(edits.withSteps(edits.withSteps(pattern, of, steps), of, values.length).strips[of].values).toEqual(
            values,
          );
      }),
    );
  });

  it('keep the pitches where degrees become pitches and back', () => {
    const [part] = scoreWith(1, 0).score.parts;
    const first = edits.withDegrees(firstPattern(part!, 1), 'scale', key);
    const fixed = edits.withDegrees(first, 'fixed', key);
    expect(new Set(fixed.strips.degree.values).size).toBe(3);
    expect(edits.withDegrees(fixed, 'scale', key).strips.degree.values).toEqual(first.strips.degree.values);
  });
});

describe('the first pattern of a part', () => {
  it('is valid for every role, and lies in its register', () => {
    const [part] = scoreWith(1, 0).score.parts;
    for (const role of ROLES) {
      const pattern = drawnPatternSchema.parse(firstPattern({ ...part!, role }, 3));
      expect(pattern.low).toBe(part!.brief.low);
    }
  });
});
