import { layOut, NOTHING_HEARD } from '@fendro/core/song/resolve';
import type { Score } from '@fendro/core/song/schema';
import { scoreWith } from '@fendro/core/testing/scores';
import { changedParts, contentsOf, lostParts } from './contents';
import { GUIDE } from './guide';

const { score, takes } = scoreWith(2, 0);
const section = score.sections[0]!;
const of = (one: Score, heard = NOTHING_HEARD) => contentsOf(one, layOut(one), takes, heard, () => null);

describe('what is queued', () => {
  it('is the same for the same song, and differs in the part whose take is heard', () => {
    expect(changedParts(of(score), of(score))).toEqual([]);
    const [part] = score.parts;
    const heard = { [section.id]: { [part!.id]: `${section.id}-${part!.id}-1` } };
    expect(changedParts(of(score), of(score, heard))).toEqual([part!.id]);
  });

  it('differs in the guide alone when only the chord line begins to sound', () => {
    const notes = takes[section.chosen['part-1']!]!;
    const guided = contentsOf(score, layOut(score), takes, NOTHING_HEARD, () =>
      notes.of === 'part' ? notes.notes : null,
    );
    expect(changedParts(of(score), guided)).toEqual([GUIDE]);
  });

  it('knows another instrument, other hands, and a part that is gone', () => {
    const changed = (change: object): Score => ({
      ...score,
      parts: score.parts.map((part, index) => (index === 0 ? { ...part, ...change } : part)),
    });
    expect(changedParts(of(score), of(changed({ instrument: 'music-box' })))).toEqual([score.parts[0]!.id]);
    expect(changedParts(of(score), of(changed({ brief: { ...score.parts[0]!.brief, humanise: 40 } })))).toEqual([
      score.parts[0]!.id,
    ]);
    expect(lostParts(of(score), of({ ...score, parts: score.parts.slice(1) }))).toBe(true);
    expect(lostParts(of(score), of(score))).toBe(false);
  });
});
