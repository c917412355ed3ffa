import * as fc from 'fast-check';
import { scoreWith } from '../testing/scores';
import { noteSchema } from './music-schema';
import type { PartTake } from './schema';
import { partTakeSchema } from './take-schema';

const { takes } = scoreWith(1, 0);
const take = Object.values(takes).find(({ of }) => of === 'part') as PartTake;

const near = (...edges: readonly number[]) =>
  fc.oneof(
    { weight: 5, arbitrary: fc.integer({ min: 1, max: 127 }) },
    fc.constantFrom(...edges, ...edges.map((edge) => edge - 1), 0.5, -0, Number.NaN, Infinity, 2 ** 53, '60', null),
  );
const values = fc.record(
  {
    id: near(0),
    start: near(0),
    duration: near(1),
    pitch: near(0, 128),
    velocity: near(1, 128),
    chance: near(0, 101),
    strikes: near(2, 17),
    nudge: near(-480, 481),
    unknown: fc.anything(),
  },
  { requiredKeys: ['duration', 'pitch'] },
);
const plain = values.map(({ id, start, duration, pitch, velocity }) => ({ id, start, duration, pitch, velocity }));

describe('the notes of a stored take', () => {
  it('are taken exactly as the schema of notes says, with or without the shortcut for plain ones', () => {
    fc.assert(
      fc.property(fc.oneof(plain, values, fc.anything()), (value) => {
        const known = noteSchema.safeParse(value);
        const id = (value as { id?: unknown } | null | undefined)?.id;
        const valid = known.success && Number.isSafeInteger(id) && (id as number) >= 0;
        const found = partTakeSchema.safeParse({ ...take, notes: [value] });
        expect(found.success).toBe(valid);
        if (!found.success || !known.success) return;
        expect(found.data.notes).toEqual([{ ...known.data, id }]);
        expect(Object.isFrozen(found.data.notes[0])).toBe(true);
      }),
      { numRuns: 2000 },
    );
  });
});
