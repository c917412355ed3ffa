import * as fc from 'fast-check';
import { byStart } from '../song/note-ends';
import { DEAL_WAYS, type Note } from '../song/schema';
import { chordsOf } from '../testing/chords';
import { shares } from './dealing';
import type { Treating } from './treating';

const BAR = 1920;
const over: Treating = {
  chords: chordsOf('C', BAR),
  key: { tonic: 0, scale: 'major' },
  length: 4 * BAR,
  bar: BAR,
  pass: 0,
  seed: 3,
};

const note = (start: number, pitch: number, duration = 480): Note => ({ start, duration, pitch, velocity: 80 });
const lines = fc
  .array(
    fc.record({
      start: fc.integer({ min: 0, max: 8 }).map((eighth) => eighth * 240),
      duration: fc.integer({ min: 1, max: 2 * BAR }),
      pitch: fc.integer({ min: 0, max: 127 }),
      velocity: fc.integer({ min: 1, max: 127 }),
    }),
    { maxLength: 24 },
  )
  .map((notes) => [...notes].sort(byStart));
const ways = fc.constantFrom(...DEAL_WAYS);
const pitches = (all: readonly (readonly Note[])[]) => all.map((share) => share.map(({ pitch }) => pitch));

/** A chord of four notes, and one of three after it. */
const CHORDS = [note(0, 48), note(0, 55), note(0, 60), note(0, 64), note(960, 50), note(960, 57), note(960, 65)];

describe('a line that is dealt out', () => {
  it('loses no note and makes none up: each goes whole to one part, or to all', () => {
    fc.assert(
      fc.property(lines, ways, fc.integer({ min: 1, max: 6 }), fc.nat(3), (notes, way, parts, pass) => {
        const dealt = shares(notes, way, parts, { ...over, pass });
        expect(dealt).toHaveLength(parts);
        for (const share of dealt) expect(share).toEqual([...share].sort(byStart));
        if (way === 'to all') dealt.forEach((share) => expect(share).toEqual(notes));
        else {
          const counted = (list: readonly Note[]) => list.map((one) => JSON.stringify(one)).sort();
          expect(counted(dealt.flat())).toEqual(counted(notes));
        }
        expect(shares(notes, way, parts, { ...over, pass })).toEqual(dealt);
      }),
    );
  });

  it('goes from part to part stroke by stroke, or note by note from the first, from the last, or there and back', () => {
    expect(pitches(shares(CHORDS, 'in turn', 3, over))).toEqual([[48, 55, 60, 64], [50, 57, 65], []]);
    expect(pitches(shares(CHORDS, 'up', 4, over))).toEqual([[48, 50], [55, 57], [60, 65], [64]]);
    expect(pitches(shares(CHORDS, 'down', 4, over))).toEqual([[64], [60, 65], [55, 57], [48, 50]]);
    expect(pitches(shares(CHORDS, 'to and fro', 3, over))).toEqual([
      [48, 50],
      [55, 64, 57],
      [60, 65],
    ]);
    expect(pitches(shares(CHORDS, 'to and fro', 1, over))).toEqual([CHORDS.map(({ pitch }) => pitch)]);
  });

  it('goes by height: the lowest of a chord to the first, the highest to the last, single notes by their place', () => {
    expect(pitches(shares(CHORDS, 'by height', 4, over))).toEqual([[48, 50], [55], [60, 57], [64, 65]]);
    const scale = [60, 62, 64, 65, 67, 69, 71, 72].map((pitch, index) => note(240 * index, pitch));
    expect(pitches(shares(scale, 'by height', 2, over))).toEqual([
      [60, 62, 64, 65],
      [67, 69, 71, 72],
    ]);
    expect(pitches(shares([note(0, 60)], 'by height', 3, over))).toEqual([[60], [], []]);
  });

  it('goes by chance otherwise in each pass, to each part as often', () => {
    const many = Array.from({ length: 900 }, (_, index) => note(10 * index, 60 + (index % 12)));
    const counts = shares(many, 'by chance', 3, over).map((share) => share.length);
    const chiSquare = counts.reduce((sum, count) => sum + (count - 300) ** 2 / 300, 0);
    // 2 degrees of freedom, p = 0.001.
    expect(chiSquare).toBeLessThan(13.8);
    expect(shares(many, 'by chance', 3, { ...over, pass: 1 })).not.toEqual(shares(many, 'by chance', 3, over));
  });
});
