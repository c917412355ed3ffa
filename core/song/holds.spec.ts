import * as fc from 'fast-check';
import { freed, held, heldBars, heldNotes, heldTakes, holdsFollow, holdsOf, isHeld, withoutLostHolds } from './holds';
import { ASPECTS, sectionSchema, type Aspect, type Section } from './schema';
import { withoutPart } from './section';
import { scoreWith } from '../testing/scores';
import { rounds } from '../testing/rounds';

const { score } = scoreWith(1, 0);
const section: Section = score.sections[0]!;
const line = score.parts[0]!.id;

const aspects = fc.subarray([...ASPECTS], { minLength: 1 });
const grip = fc.record({
  bars: fc.uniqueArray(fc.nat({ max: 7 }), { maxLength: 8 }),
  notes: fc.uniqueArray(fc.nat({ max: 9 }), { maxLength: 6 }),
});
const take = fc.constantFrom('one', 'two', 'three');
/** Some holding and freeing, one after the other. */
const acts = fc.array(fc.record({ frees: fc.boolean(), take, grip, aspects }), { maxLength: 12 });
const after = (
  all: readonly { frees: boolean; take: string; grip: { bars: number[]; notes: number[] }; aspects: Aspect[] }[],
): Section => all.reduce((now, act) => (act.frees ? freed : held)(now, line, act.take, act.grip, act.aspects), section);

describe('holds', () => {
  it('are there once they are put on, and gone once they are taken off, whatever was held before', () => {
    fc.assert(
      fc.property(acts, take, grip, aspects, (before, of, on, what) => {
        fc.pre(on.bars.length + on.notes.length > 0);
        const start = after(before);
        const on1 = held(start, line, of, on, what);
        expect(isHeld(on1, line, of, on, what)).toBe(true);
        expect(held(on1, line, of, on, what)).toEqual(on1);
        const off = freed(on1, line, of, on, what);
        for (const aspect of what) {
          expect(on.bars.some((bar) => heldBars(holdsOf(off, line)).get(bar)?.aspects.has(aspect))).toBe(false);
          expect(on.notes.some((note) => heldNotes(holdsOf(off, line)).get(of)?.get(note)?.has(aspect))).toBe(false);
        }
        // Nothing else is touched.
        for (const [bar, own] of heldBars(holdsOf(start, line)))
          if (!on.bars.includes(bar)) expect(heldBars(holdsOf(off, line)).get(bar)).toEqual(own);
      }),
      { numRuns: rounds(200) },
    );
  });

  it('keep a form that can be stored, in which every bar belongs to one take', () => {
    fc.assert(
      fc.property(acts, (all) => {
        const now = after(all);
        expect(sectionSchema.safeParse(now).success).toBe(true);
        const bars = holdsOf(now, line).flatMap((hold) => hold.bars);
        expect(new Set(bars).size).toBe(bars.length);
        expect(holdsOf(now, line).every((hold) => hold.bars.length + hold.notes.length > 0)).toBe(true);
      }),
      { numRuns: rounds(200) },
    );
  });

  it('of a bar become those of the take that is heard when more of it is held', () => {
    const rhythm = held(section, line, 'one', { bars: [2], notes: [] }, ['rhythm']);
    const both = held(rhythm, line, 'two', { bars: [2], notes: [] }, ['pitch']);
    expect(holdsOf(both, line)).toEqual([{ take: 'two', aspects: ['rhythm', 'pitch'], bars: [2], notes: [] }]);
    expect(freed(both, line, 'two', { bars: [2], notes: [] }, ASPECTS)).toEqual(section);
    expect(isHeld(section, line, 'one', { bars: [], notes: [] }, ASPECTS)).toBe(false);
  });

  it('go on with the take that was made of theirs, and go with a part or a take that is lost', () => {
    const now = held(section, line, 'one', { bars: [1], notes: [4] }, ASPECTS);
    expect(heldTakes(holdsFollow(now, line, 'one', 'edited'))).toEqual(['edited']);
    expect(holdsFollow(now, line, 'other', 'edited')).toBe(now);
    expect(withoutPart(now, line).holds).toEqual({});
    expect(withoutLostHolds(now, () => true)).toBe(now);
    expect(withoutLostHolds(now, () => false).holds).toEqual({});
  });
});
