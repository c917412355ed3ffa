import * as fc from 'fast-check';
import { tempoMap } from '@fendro/core/sounding/tempo-map';
import type { Guide } from '@fendro/core/song/schema';
import { guideClips } from './guide-clips';
import { guideSegments, type LaidGuide } from './guide-segments';
import { endFrame, frameAt, type Pass } from './schedule';

const RATE = 48_000;
const tempo = tempoMap([{ start: 0, end: 1, tempo: 120 }]);
/** 960 ticks are a second. */
const pass = (frame: number, from: number, to: number, round = 0): Pass => ({
  frame,
  from,
  to,
  tempo,
  rate: RATE,
  round,
});
const laid = (start: number, more: Partial<Guide> = {}): LaidGuide => ({
  start,
  guide: { id: 'g', name: 'g', place: 'p', at: 0, offset: 0, level: 80, muted: false, seconds: 3, sound: 's', ...more },
});

describe('what of a guide sounds', () => {
  it('begins at its place, and ends with its sound', () => {
    const [only, none] = guideSegments([pass(1000, 0, 9600)], [laid(960)], RATE);
    expect(only).toMatchObject({ from: 1000 + RATE, to: 1000 + 4 * RATE, offset: 0 });
    expect(none).toBeUndefined();
  });

  it('is later or earlier by its offset, and nothing where it is quiet', () => {
    const of = (more: Partial<Guide>) => guideSegments([pass(0, 0, 9600)], [laid(960, more)], RATE);
    expect(of({ offset: 100 })[0]!.from).toBe(RATE + RATE / 10);
    expect(of({ offset: -2000 })[0]).toMatchObject({ from: 0, offset: 1 });
    expect(of({ muted: true })).toEqual([]);
  });

  it('is taken up where it would be by then when music begins behind its beginning', () => {
    expect(guideSegments([pass(500, 1920, 9600)], [laid(960)], RATE)).toMatchObject([
      { from: 500, to: 500 + 2 * RATE, offset: 1 },
    ]);
    expect(guideSegments([pass(500, 5000, 9600)], [laid(960)], RATE)).toEqual([]);
  });

  it('goes on through passes that follow each other, and begins anew with each round of a loop', () => {
    const first = pass(0, 0, 1920);
    const second = pass(endFrame(first), 1920, 3840);
    expect(guideSegments([first, second], [laid(960)], RATE)).toMatchObject([{ from: RATE, to: 4 * RATE, offset: 0 }]);
    const again = pass(endFrame(first), 0, 1920, 1);
    expect(guideSegments([first, again], [laid(960)], RATE).map(({ from, to }) => [from, to])).toEqual([
      [RATE, 2 * RATE],
      [3 * RATE, 4 * RATE],
    ]);
  });
});

describe('what is recorded of a loop', () => {
  const rounds = [0, 1, 2].map((round) => pass(10_000 + round * 4 * RATE, 0, 3840, round));

  it('is cut into its rounds, each from its first beat on, by as much later as it was heard and came in', () => {
    const clips = guideClips(rounds, { from: 2000, to: 10_000 + 10 * RATE }, 1234);
    expect(clips.map(({ tick, from, to }) => [tick, from, to])).toEqual([
      [0, 11_234, 11_234 + 4 * RATE],
      [0, 11_234 + 4 * RATE, 11_234 + 8 * RATE],
      [0, 11_234 + 8 * RATE, 10_000 + 10 * RATE],
    ]);
  });

  it('begins on a whole tick where it was begun while music played, in time all the same', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 3 * RATE }), fc.integer({ min: 0, max: 4000 }), (late, delay) => {
        const [first] = guideClips(rounds, { from: 10_000 + late, to: 10_000 + 12 * RATE }, delay);
        const heard = first!.from - delay;
        expect(Math.abs(frameAt(rounds[0]!, first!.tick) - heard)).toBeLessThanOrEqual(1);
        expect(first!.from).toBeGreaterThanOrEqual(10_000 + late - 1);
      }),
    );
  });

  it('is nothing where no music sounded meanwhile', () => {
    expect(guideClips(rounds, { from: 0, to: 9000 }, 500)).toEqual([]);
    expect(guideClips([], { from: 0, to: 9000 }, 500)).toEqual([]);
  });
});
