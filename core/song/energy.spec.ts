import * as fc from 'fast-check';
import { scoreWith } from '../testing/scores';
import { heardNotes } from '../testing/sounding';
import { moveOccurrence, removeOccurrence, setEnergy } from './edit';
import { ENERGY_SHAPES, energised, energyCurve, meanEnergy, shapedEnergy, withEnergy } from './energy';
import { NOTHING_HEARD, songTicks } from './resolve';
import { ROLES, type Brief } from './schema';
import { roleOf } from './roles';

const { score, takes } = scoreWith(3, 0);
const drawn = setEnergy(setEnergy(score, 'occurrence-1', [{ at: 0, value: 20 }]), 'occurrence-3', [
  { at: 0, value: 80 },
]);

describe('the energy line', () => {
  it('is straight between its points, level beyond them, and nothing where none is drawn', () => {
    expect(energyCurve(score)).toBeNull();
    const curve = energyCurve(drawn)!;
    expect([0, 3840, 7680, 9999].map(curve)).toEqual([20, 50, 80, 80]);
    expect(meanEnergy(drawn, 'section-2')).toBe(65);
    expect(meanEnergy(score, 'section-2')).toBeNull();
  });

  it('travels with its places and goes with them', () => {
    expect(energyCurve(moveOccurrence(drawn, 'occurrence-3', 0))!(0)).toBe(80);
    expect(removeOccurrence(drawn, 'occurrence-3').energy).toHaveLength(1);
  });

  it('makes more louder and less softer, lets driving parts rest, and leaves alone what does not follow', () => {
    const full = { ...score, energy: shapedEnergy(score, ENERGY_SHAPES[0]!) };
    const velocities = (from: typeof score) => heardNotes(from, takes, NOTHING_HEARD, { from: 0, to: songTicks(from) });
    const plain = velocities(score);
    const built = velocities(full);
    expect(built.at(-1)!.velocity).toBeGreaterThan(plain.at(-1)!.velocity);
    const calm = { ...score, energy: [{ occurrence: 'occurrence-1', at: 0, value: 5 }] };
    const drums = score.parts.find(({ role }) => role === 'drums')!.id;
    expect(velocities(calm).some(({ part }) => part === drums)).toBe(false);
    const aside = { ...calm, parts: calm.parts.map((part) => ({ ...part, brief: { ...part.brief, follows: false } })) };
    expect(velocities(aside)).toEqual(plain);
    expect(energised(120, 100)).toBe(127);
    expect(roleOf('melody').restsBelow).toBe(0);
  });

  it('keeps the law of neighbouring windows', () => {
    const full = { ...score, energy: shapedEnergy(score, ENERGY_SHAPES[3]!) };
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), (share) => {
        const to = songTicks(full);
        const cut = Math.round(to * share);
        expect([
          ...heardNotes(full, takes, NOTHING_HEARD, { from: 0, to: cut }),
          ...heardNotes(full, takes, NOTHING_HEARD, { from: cut, to }),
        ]).toEqual(heardNotes(full, takes, NOTHING_HEARD, { from: 0, to }));
      }),
      { numRuns: 30 },
    );
  });

  it('leans briefs within their limits', () => {
    for (const role of ROLES) {
      const [calm, wild] = [0, 100].map((energy) => withEnergy(roleOf(role).brief, energy, role)) as [Brief, Brief];
      expect(calm.busyness).toBeLessThan(wild.busyness);
      for (const leaned of [calm, wild]) {
        expect(leaned.low).toBeGreaterThanOrEqual(roleOf(role).brief.low);
        expect(leaned.high).toBeLessThanOrEqual(roleOf(role).brief.high);
      }
      expect(withEnergy({ ...roleOf(role).brief, follows: false }, 100, role).busyness).toBe(
        roleOf(role).brief.busyness,
      );
    }
  });
});
