import * as fc from 'fast-check';
import { rounds } from '../testing/rounds';
import { songOf, twists } from '../testing/songs';
import { scoreProblem } from './check';
import { hasMusic } from './section';
import { songStart } from './song-start';

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
