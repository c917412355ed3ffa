import fc from 'fast-check';
import { partTake, songTicks } from '../song/resolve';
import { chosenId } from '../song/section';
import type { Curve, CurveKind, Note } from '../song/schema';
import { CURVES, valueAt } from '../song/curve';
import { expressive } from '../testing/expressive';
import { scoreWith } from '../testing/scores';
import { musicOf } from '../testing/sounding';
import { loopCourse, sectionCourse, songCourse, type Span } from './course';
import { controlEvents, controlsAt, stepsOf } from './expression';
import { perform } from './performance';
import { sounds, strokesOf } from './strokes';

const line = (start: number, duration: number, more: Partial<Note> = {}): Note => ({
  start,
  duration,
  pitch: 60,
  velocity: 80,
  ...more,
});
const UP: Curve = [
  { at: 0, value: -200 },
  { at: 240, value: 0 },
];

describe('expression', () => {
  it('is played in steps that follow its curve closely', () => {
    const curves = fc
      .array(fc.record({ at: fc.nat(1000), value: fc.integer({ min: 0, max: 100 }) }), { minLength: 1, maxLength: 6 })
      .map((list) => [...new Map(list.map((point) => [point.at, point])).values()].sort((a, b) => a.at - b.at));
    fc.assert(
      fc.property(curves, fc.integer({ min: 1, max: 1000 }), (curve, duration) => {
        const steps = stepsOf('vibrato', curve, duration);
        expect(steps[0]!.at).toBe(0);
        steps.slice(1).forEach(({ at, value }, index) => {
          expect(at).toBeGreaterThan(steps[index]!.at);
          expect(Math.abs(valueAt(curve, at) - value)).toBeLessThanOrEqual(0.5);
        });
        for (const { at } of curve.filter((point) => point.at < duration))
          expect(steps.some((step) => step.at === at) || steps.findLast((step) => step.at < at)).toBeTruthy();
      }),
    );
  });

  it('ends with its note: the voice rests when the next begins, and is never left bent', () => {
    const events = controlEvents('p', [line(0, 480, { bend: UP }), line(480, 480)], 0, 1e9);
    expect(events[0]).toMatchObject({ control: 'bend', at: 0, value: -200 });
    expect(events.at(-1)).toMatchObject({ at: 480, value: 0 });
    const alone = controlEvents('p', [line(0, 480, { swell: [{ at: 0, value: 40 }] })], 0, 1e9);
    expect(alone.map(({ at, value }) => [at, value])).toEqual([
      [0, 40],
      [720, 100],
    ]);
    const two = controlEvents('p', [line(0, 960, { bend: UP }), line(480, 480, { bend: UP })], 0, 1e9);
    expect(two.find(({ at }) => at >= 480)).toMatchObject({ at: 480, value: -200 });
    expect(controlsAt(two, 100)).toMatchObject([{ control: 'bend', at: 100 }]);
  });

  it('gives the same events in two neighbouring windows as in one, and tells how the voice stands between', () => {
    fc.assert(
      fc.property(fc.nat(50), fc.double({ min: 0, max: 1, noNaN: true }), fc.nat(3), (seed, share, round) => {
        const { score, takes } = scoreWith(seed, 40);
        const music = expressive(musicOf(score, takes), seed);
        const to = songTicks(score);
        const cut = Math.round(to * share);
        const made = (span: Span) => perform({ music, course: songCourse(score), span, round });
        const whole = made({ from: 0, to });
        const [first, second] = [made({ from: 0, to: cut }), made({ from: cut, to })];
        expect([...first.events, ...second.events]).toEqual(whole.events);
        // What holds at the cut is what the events before it left.
        for (const event of second.chase.filter((one) => one.kind === 'control')) {
          const before = whole.events.findLast(
            (one) =>
              one.kind === 'control' && one.voice === event.voice && one.control === event.control && one.at < cut,
          );
          const wanted = before?.kind === 'control' ? before.value : CURVES[event.control as CurveKind].rest;
          expect([event.voice, event.control, event.value]).toEqual([event.voice, event.control, wanted]);
        }
      }),
      { numRuns: 15 },
    );
  });

  it('rests at the end of a song and wherever a voice has nothing more to say', () => {
    fc.assert(
      fc.property(fc.nat(200), (seed) => {
        const { score, takes } = scoreWith(seed, 0);
        const music = expressive(musicOf(score, takes), seed);
        const last = new Map<string, { control: CurveKind; value: number }>();
        for (const event of perform({ music, course: songCourse(score) }).events)
          if (event.kind === 'control')
            last.set(`${event.voice} ${event.control}`, { control: event.control as CurveKind, value: event.value });
        for (const { control, value } of last.values()) expect(value).toBe(CURVES[control].rest);
      }),
      { numRuns: 20 },
    );
  });
});

describe('chances and strokes', () => {
  it('never sound at 0 %, always at 100 %, and as often as they say else', () => {
    const hits = (chance: number): number =>
      Array.from({ length: 2000 }, (_, pass) => sounds(line(0, 1, { chance }), 'p', pass)).filter(Boolean).length;
    expect([hits(0), hits(100)]).toEqual([0, 2000]);
    for (const chance of [10, 50, 80]) {
      const [hit, wanted] = [hits(chance), 20 * chance];
      const square = (hit - wanted) ** 2 / wanted + (hit - wanted) ** 2 / (2000 - wanted);
      // Chi-square with one degree of freedom: beyond 10.8 once in a thousand.
      expect(square).toBeLessThan(10.8);
    }
  });

  it('come out alike in the same round, and otherwise in another', () => {
    const { score, takes } = scoreWith(3, 0);
    const music = expressive(musicOf(score, takes), 3);
    const { sections } = score;
    const loop = { from: 0, to: 3840 };
    const heard = (round: number): string =>
      JSON.stringify(perform({ music, course: loopCourse(score, loop), span: loop, round }).events);
    expect(sections.length).toBeGreaterThan(0);
    expect(heard(1)).toBe(heard(1));
    expect(new Set([0, 1, 2, 3].map(heard)).size).toBeGreaterThan(1);
  });

  it('strike a note again within its length, one stroke after the other', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 16 }), fc.integer({ min: 1, max: 2000 }), (strikes, duration) => {
        const strokes = strokesOf(line(7, duration, { strikes }));
        expect(strokes).toHaveLength(strikes > duration ? 1 : strikes);
        let at = 7;
        for (const stroke of strokes) {
          expect(stroke.start).toBe(at);
          expect(stroke.duration).toBeGreaterThan(0);
          at += stroke.duration;
        }
        expect(at).toBe(7 + duration);
      }),
    );
  });

  it('strike nothing beyond the section, where the song may end', () => {
    const { score, takes } = scoreWith(3, 0);
    const [section] = score.sections;
    const part = score.parts[0]!;
    const take = partTake(takes, chosenId(section!, part.id))!;
    const length = take.length;
    const again = [{ ...line(length - 100, 400, { strikes: 4 }), id: 0 }];
    const music = musicOf(score, { ...takes, [take.id]: { ...take, over: null, notes: again } });
    const course = sectionCourse(score, section!);
    const struck = perform({ music, course }).events.filter(
      (event) => event.kind === 'note' && event.voice === part.id,
    );
    expect(struck.map(({ at }) => at - length)).toEqual([-100]);
  });
});
