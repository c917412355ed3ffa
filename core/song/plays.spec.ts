import fc from 'fast-check';
import { scoreWith } from '../testing/scores';
import { musicOf } from '../testing/sounding';
import { scoreProblem } from './check';
import { changeSection } from './edit';
import { missingBars } from './missing';
import { drawMove } from './moves';
import { liftPlace } from './place';
import { MOST_PLAYS, playsOf, withPlays } from './plays';
import { HARMONY, type Score } from './schema';

const { score, takes } = scoreWith(6, 0);
let next = 0;
const newId = () => `again-${next++}`;

describe('how often a section plays in a row', () => {
  const orders = fc.array(fc.constantFrom(...score.sections.map(({ id }) => id)), { minLength: 1, maxLength: 12 });

  it('is what was asked, in one run with the place itself; the rest of the order stays', () => {
    fc.assert(
      fc.property(orders, fc.nat(), fc.integer({ min: 1, max: MOST_PLAYS }), (sections, at, count) => {
        const order = sections.map((section, index) => ({ id: `place-${index}`, section }));
        const song: Score = { ...score, order, energy: [] };
        const place = order[at % order.length]!;
        const before = playsOf(song, place.id);
        const made = withPlays(song, place.id, count, newId);
        expect(playsOf(made, place.id)).toHaveLength(count);
        expect(playsOf(made, place.id).map(({ id }) => id)).toContain(place.id);
        const others = (own: typeof song) =>
          own.order.filter(({ id }) => !playsOf(own, place.id).some((one) => one.id === id));
        expect(others(made)).toEqual(others(song));
        expect(scoreProblem(made, takes)).toBeNull();
        // There and back is as it was, where none had to go.
        if (count >= before.length) expect(withPlays(made, place.id, before.length, newId)).toEqual(song);
      }),
    );
  });

  it('repeats how the place is, but not how parts move there', () => {
    const place = score.order[0]!;
    const own = drawMove(liftPlace(score, place.id, 2), place.id, score.parts[0]!.id, 'level', [{ at: 0, value: 10 }]);
    const felt = { ...own, energy: [{ occurrence: place.id, at: 0, value: 90 }] };
    const made = withPlays(felt, place.id, 3, newId);
    const [first, second, third] = playsOf(made, place.id);
    expect([first!.lift, second!.lift, third!.lift]).toEqual([2, 2, 2]);
    expect([first!.moves, second!.moves]).toEqual([expect.anything(), undefined]);
    expect(made.energy.map(({ value }) => value)).toEqual([90, 90, 90]);
    expect(withPlays(score, 'nobody', 3, newId)).toBe(score);
  });
});

describe('bars that are missing', () => {
  const section = score.sections[0]!;

  it('are those that a longer section has beyond what its lines were made for', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 12 }), (bars) => {
        const longer = changeSection(score, section.id, { bars });
        const found = missingBars(musicOf(longer, takes), longer.sections[0]!);
        const missing = Array.from({ length: Math.max(0, bars - section.bars) }, (_, index) => section.bars + index);
        const lines = missing.length === 0 ? [] : [HARMONY, ...score.parts.map(({ id }) => id)];
        expect([...found.keys()]).toEqual(lines);
        for (const line of found.values()) expect(line).toEqual(missing);
      }),
    );
  });

  it('are not those of lines that play nothing', () => {
    const empty = { ...section, bars: 9, harmony: null, chosen: {} };
    expect(missingBars(musicOf({ ...score, sections: [empty] }, takes), empty).size).toBe(0);
  });
});
