import fc from 'fast-check';
import { sectionCourse, tempoOf } from '../sounding/course';
import { scoreWith } from '../testing/scores';
import { scoreProblem } from './check';
import { valueAt } from './curve';
import { groundOf } from './ground';
import { LIMITS } from './limits';
import { endTempoOf, withEndTempo, withTempos } from './tempos';

const { score, takes } = scoreWith(6, 0);
const section = score.sections[0]!;
const LENGTH = 2 * 1920;

describe('a tempo that is drawn', () => {
  const points = fc
    .uniqueArray(fc.record({ at: fc.nat(LENGTH), value: fc.integer({ min: 1, max: 600 }) }), {
      selector: ({ at }) => at,
      minLength: 1,
      maxLength: 120,
    })
    .map((list) => list.sort((a, b) => a.at - b.at));

  it('is valid, held inside what a tempo may be, and plays each beat as it was drawn', () => {
    fc.assert(
      fc.property(points, (drawn) => {
        const made = withTempos(score, section, drawn);
        expect(scoreProblem(made, takes)).toBeNull();
        const now = made.sections[0]!;
        expect(now.tempos?.length ?? 0).toBeLessThanOrEqual(LIMITS.tempoPoints);
        const own = groundOf(made, now).tempo;
        const { secondsAt } = tempoOf(sectionCourse(made, now), made);
        const slowest = Math.min(...(now.tempos ?? [{ value: 100 }]).map(({ value }) => value));
        const fastest = Math.max(...(now.tempos ?? [{ value: 100 }]).map(({ value }) => value));
        for (let at = 0; at < LENGTH; at += 480) {
          const tempo = 60 / (secondsAt(at + 480) - secondsAt(at));
          expect(tempo).toBeGreaterThanOrEqual((own * slowest) / 100 - 0.01);
          expect(tempo).toBeLessThanOrEqual((own * fastest) / 100 + 0.01);
        }
      }),
    );
  });

  it('follows few points exactly, and is steady again where none are left', () => {
    const drawn = [
      { at: 0, value: 100 },
      { at: 960, value: 80 },
      { at: LENGTH, value: 120 },
    ];
    const made = withTempos(score, section, drawn);
    expect(made.sections[0]!.tempos).toEqual(drawn);
    expect(valueAt(drawn, 480)).toBe(90);
    expect(withTempos(made, made.sections[0]!, [])).toEqual(score);
    expect(withTempos(made, made.sections[0]!, [{ at: 0, value: 100 }])).toEqual(score);
  });

  it('goes to a tempo on its last bars, which is told again', () => {
    const made = withEndTempo(score, section, 60, 1);
    expect(endTempoOf(made, made.sections[0]!)).toEqual({ tempo: 60, bars: 1 });
    expect(endTempoOf(score, section)).toBeNull();
  });
});
