import * as fc from 'fast-check';
import { rounds } from '../testing/rounds';
import { songOf, twists } from '../testing/songs';
import { scoreProblem } from './check';
import { hasMusic } from './section';
import { openSong } from './song-file';
import { bandSetUp, bareSong, songStart } from './song-start';

describe('what a song is begun with again', () => {
  it('is a valid song without a note, in the same form, with the same parts', () => {
    fc.assert(
      fc.property(twists, (twist) => {
        const { score } = songOf(twist);
        const start = songStart(score);
        expect(scoreProblem(start, {})).toBeNull();
        expect(start.sections.some(hasMusic)).toBe(false);
        expect(start.order).toEqual(score.order);
        expect(start.parts).toEqual(score.parts);
        expect(songStart(start)).toEqual(start);
      }),
      { numRuns: rounds(40) },
    );
  });
});

describe('a band set-up', () => {
  it('is a valid song with the same parts and one empty section, and opens again as it was', () => {
    fc.assert(
      fc.property(twists, (twist) => {
        const { score } = songOf(twist);
        const band = bandSetUp(score);
        expect(scoreProblem(band, {})).toBeNull();
        expect(band.parts).toEqual(score.parts);
        expect([band.sections.length, band.order.length, band.energy.length]).toEqual([1, 1, 0]);
        expect(band.sections.some(hasMusic)).toBe(false);
        expect(openSong(JSON.parse(JSON.stringify(bareSong(band, 'band-1'))))).toMatchObject({
          ok: true,
          setAside: [],
          song: { score: JSON.parse(JSON.stringify(band)) as unknown },
        });
      }),
      { numRuns: rounds(40) },
    );
  });
});
