import fc from 'fast-check';
import { songCourse, tempoOf } from '../sounding/course';
import { perform } from '../sounding/performance';
import { scoreWith } from '../testing/scores';
import { musicOf } from '../testing/sounding';
import { METRES } from '../theory/metre';
import { scoreProblem } from './check';
import { cutSection, joinPlaces, joinProblem } from './cut';
import { recordMove } from './moves';
import { liftPlace, toggleRest } from './place';
import type { Score } from './schema';
import type { Takes } from './resolve';
import { withEndTempo } from './tempos';

const BAR = 1920;
let count = 0;
const newId = (kind: string): string => `${kind}-made-${++count}`;

/** A song without what goes by the whole of a section: hands that stray. */
function exact(seed: number): { score: Score; takes: Takes } {
  const { score, takes } = scoreWith(seed, 30);
  const parts = score.parts.map((part) => ({ ...part, brief: { ...part.brief, humanise: 0 } }));
  return { score: { ...score, ground: { ...score.ground, feel: 0 }, parts }, takes };
}

const heard = (score: Score, takes: Takes): string[] =>
  perform({ music: musicOf(score, takes), course: songCourse(score) })
    .events.filter((event) => event.kind === 'note')
    .map(({ voice, at, pitch, velocity }) => `${at} ${voice} ${pitch} ${velocity}`)
    .sort();

describe('a section that is cut in two', () => {
  it('sounds as before, place by place, with what is otherwise in each, and is one again when its halves are joined', () => {
    fc.assert(
      fc.property(fc.nat(60), fc.nat(6), fc.integer({ min: 60, max: 90 }), (seed, lift, tempo) => {
        const { score: plain, takes } = exact(seed);
        const [first, second] = plain.order;
        const part = plain.parts[1]!;
        let score = liftPlace(plain, first!.id, lift);
        score = toggleRest(score, first!.id, part.id, [1]);
        score = recordMove(score, plain.parts[0]!, 'level', [
          { tick: 480, value: 100 },
          { tick: 3000, value: 20 },
        ]);
        score = withEndTempo(score, score.sections[0]!, tempo, 2);
        const cut = cutSection(musicOf(score, takes), 'section-1', 1, newId);
        const all = { ...takes, ...Object.fromEntries(cut.takes.map((take) => [take.id, take])) };
        expect(scoreProblem(cut.score, all)).toBeNull();
        expect(cut.score.order).toHaveLength(5);
        expect(cut.score.sections.map(({ bars }) => bars)).toEqual([1, 1, 2]);
        expect(heard(cut.score, all)).toEqual(heard(score, takes));
        const seconds = (own: Score) => tempoOf(songCourse(own), own).secondsAt(6 * BAR);
        expect(Math.abs(seconds(cut.score) - seconds(score))).toBeLessThan(0.05);
        const joined = joinPlaces(musicOf(cut.score, all), first!.id, newId)!;
        const last = { ...all, ...Object.fromEntries(joined.takes.map((take) => [take.id, take])) };
        expect(scoreProblem(joined.score, last)).toBeNull();
        expect(joined.score.order).toHaveLength(4);
        expect(heard(joined.score, last)).toEqual(heard(score, takes));
        expect(Math.abs(seconds(joined.score) - seconds(score))).toBeLessThan(0.05);
        expect(second).toBeDefined();
      }),
      { numRuns: 40 },
    );
  });

  it('may stand in a metre of its own: a bar of seven eighths in a verse of four quarters', () => {
    const { score, takes } = exact(1);
    const { score: cut, section, takes: made } = cutSection(musicOf(score, takes), 'section-1', 1, newId);
    const seven = METRES.find(({ beats, unit }) => beats === 7 && unit === 8)!;
    const sections = cut.sections.map((own) => (own.id === section ? { ...own, ground: { metre: seven } } : own));
    const odd = { ...cut, sections };
    const all = { ...takes, ...Object.fromEntries(made.map((take) => [take.id, take])) };
    expect(scoreProblem(odd, all)).toBeNull();
    expect(songCourse(odd).map(({ length }) => length)).toEqual([1920, 1680, 3840, 1920, 1680]);
    expect(joinProblem(odd, odd.order[0]!.id)).toContain('metre');
    expect(joinPlaces(musicOf(odd, all), odd.order[0]!.id, newId)).toBeNull();
    expect(joinProblem(odd, odd.order.at(-1)!.id)).toContain('Nothing follows');
    expect(() => cutSection(musicOf(score, takes), 'section-1', 2, newId)).toThrow(RangeError);
  });
});
