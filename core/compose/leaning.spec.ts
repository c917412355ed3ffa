import * as fc from 'fast-check';
import { leansNow } from '../lean/course';
import { LEANINGS } from '../lean/words';
import type { Lean, Note } from '../song/schema';
import { partRequests } from '../testing/arbitrary';
import { notesOf } from '../testing/kept';
import { brokenLaws } from '../testing/laws';
import { leans } from '../testing/leans';
import { rounds } from '../testing/rounds';
import { scoreWith } from '../testing/scores';
import { NOTHING_HEARD } from '../song/resolve';
import { barTicks } from '../theory/metre';
import { requestFor } from './asking';
import type { DraftRequest } from './draft';

const withLeans = (request: DraftRequest, own: readonly Lean[], bars = request.asking.bars): DraftRequest => ({
  ...request,
  asking: { ...request.asking, bars, brief: { ...request.asking.brief!, leans: own } },
});
const word = (name: string, bars: number): Lean => ({
  goes: 'slowly',
  name,
  moves: LEANINGS.find((own) => own.name === name)!.moves,
  bars,
  then: 'stays',
});

describe('a brief that leans by itself', () => {
  it('keeps every law of what is drafted, in whatever part, and comes out alike each time', () => {
    fc.assert(
      fc.property(partRequests(), leans, fc.nat(20), (request, own, at) => {
        const asked = withLeans(request, own);
        const notes = notesOf(asked, at);
        if (!notes) return;
        expect(brokenLaws(asked, notes)).toEqual([]);
        expect(notesOf(asked, at)).toEqual(notes);
        if (!leansNow(own)) expect(notes).toEqual(notesOf(withLeans(request, []), at));
      }),
      { numRuns: rounds(150) },
    );
  });

  const { song: _song, ...small } = scoreWith(2, 0);
  const music = { ...small, heard: NOTHING_HEARD };
  const bar = barTicks(small.score.ground.metre);
  const onsets = (notes: readonly Note[], from: number, to: number): number =>
    new Set(notes.filter(({ start }) => start >= from * bar && start < to * bar).map(({ start }) => start)).size;

  it('drafts busier bars after calmer ones, in every kind of part, over many draws', () => {
    const counts = small.score.parts.map((part) => {
      const request = requestFor(music, small.score.sections[0]!, part.id, 3)!;
      // The section's chords are there for two bars; a longer one goes over plain ones.
      const long = { ...withLeans(request, [word('busier', 4)], 8), chords: null };
      const draws = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((at) => {
        const notes = notesOf(long, at);
        return notes ? [notes] : [];
      });
      const early = draws.reduce((all, notes) => all + onsets(notes, 0, 2), 0);
      const late = draws.reduce((all, notes) => all + onsets(notes, 4, 6), 0);
      expect([part.name, late > early]).toEqual([part.name, true]);
      return late / early;
    });
    expect(Math.max(...counts)).toBeGreaterThan(1.5);
  });
});
