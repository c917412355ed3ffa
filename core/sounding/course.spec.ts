import * as fc from 'fast-check';
import { songTicks } from '../song/resolve';
import { scoreWith } from '../testing/scores';
import { METRES } from '../theory/metre';
import {
  barLines,
  beatLines,
  clicks,
  courseFrom,
  groundAt,
  loopCourse,
  sectionCourse,
  songCourse,
  tempoOf,
} from './course';
import { swung } from './groove';
import { INSTRUMENTS, instrumentOf, instrumentsFor } from './instruments';
import { secondsPerTick } from './tempo-map';

const { score } = scoreWith(2, 0);
const [first, second] = score.sections;
const waltz = {
  ...score,
  sections: [first!, { ...second!, ground: { tempo: score.ground.tempo * 2, metre: METRES[1]! } }],
};

describe('a course', () => {
  it('clicks the beats of a span, the bar lines strong, and the bar that a pick-up is counted by', () => {
    const strokes = (from: number, to: number) =>
      clicks(songCourse(score), { from, to }).map(({ at, strong }) => [at, strong]);
    expect(strokes(480, 2400)).toEqual([
      [480, false],
      [960, false],
      [1440, false],
      [1920, true],
    ]);
    expect(strokes(-700, 100)).toEqual([
      [-480, false],
      [0, true],
    ]);
  });

  it('follows sections that stand on ground of their own', () => {
    const course = songCourse(waltz);
    expect(songTicks(waltz)).toBe(3840 + 2880 + 3840);
    expect(clicks(course, { from: 3840, to: 3840 + 1440 }).map(({ strong }) => strong)).toEqual([true, false, false]);
    expect(groundAt(course, 3839, waltz).tempo).toBe(score.ground.tempo);
    expect(groundAt(course, 3840, waltz).tempo).toBe(score.ground.tempo * 2);
    expect(groundAt(course, 99_999, waltz)).toBe(waltz.ground);
    expect(tempoOf(course, waltz).secondsAt(songTicks(waltz))).toBeCloseTo(
      (7680 + 1440) * secondsPerTick(score.ground.tempo),
    );
    expect(barLines(course)).toEqual([0, 1920, 3840, 5280, 6720, 8640, 10_560]);
    expect(beatLines(course).filter((at) => at >= 3840 && at < 6720)).toEqual([3840, 4320, 4800, 5280, 5760, 6240]);
  });

  it('goes by the song’s own tempo where nothing is played', () => {
    const empty = { ...score, order: [] };
    expect(songCourse(empty)).toEqual([]);
    expect(barLines([])).toEqual([0]);
    expect(tempoOf([], empty).secondsAt(480)).toBeCloseTo(60 / score.ground.tempo);
  });

  it('begins where a section begins with that section, and elsewhere with all that may still ring', () => {
    expect(courseFrom(score, 3840).map(({ start }) => start)).toEqual([3840, 7680]);
    expect(courseFrom(score, 1920).map(({ start }) => start)).toEqual([0, 3840, 7680]);
  });

  it('goes round in a loop, over sections of different tempos too', () => {
    const course = loopCourse(waltz, { from: 1920, to: 5280 });
    expect(course.map(({ start, part }) => [start, part.from, part.to])).toEqual([
      [0, 1920, 3840],
      [3840, 0, 1440],
      [3360, 1920, 3840],
      [7200, 0, 1440],
    ]);
    const { secondsAt } = tempoOf(course, waltz);
    expect(secondsAt(5280 + 480) - secondsAt(5280)).toBeCloseTo(60 / score.ground.tempo);
  });

  it('plays a section by itself, as loud as where it first stands', () => {
    expect(sectionCourse(score, second!)).toMatchObject([{ start: 0, length: 3840, origin: 3840 }]);
    expect(sectionCourse({ ...score, order: [] }, second!)[0]!.origin).toBeNull();
  });
});

describe('swing', () => {
  it('keeps beats, order and positive lengths, and reaches the triplet at 100 %', () => {
    const metre = METRES[2]!;
    fc.assert(
      fc.property(fc.integer({ min: -2000, max: 8000 }), fc.integer({ min: 0, max: 100 }), (at, swing) => {
        expect(swung(at + 1, swing, metre)).toBeGreaterThanOrEqual(swung(at, swing, metre));
        expect(swung(at * 480, swing, metre)).toBe(at * 480);
      }),
    );
    expect(swung(240, 100, metre)).toBe(320);
    expect(swung(240, 0, metre)).toBe(240);
    expect(swung(240, 100, METRES[4]!)).toBe(240);
  });
});

describe('instruments', () => {
  it('have a sound for every role and fall back to the piano', () => {
    expect(new Set(INSTRUMENTS.map(({ id }) => id)).size).toBe(INSTRUMENTS.length);
    expect(instrumentsFor('drums').every(({ family }) => family === 'drums')).toBe(true);
    expect(instrumentsFor('bass').some(({ family }) => family === 'drums')).toBe(false);
    expect(instrumentOf('unheard-of').id).toBe('grand-piano');
  });
});
