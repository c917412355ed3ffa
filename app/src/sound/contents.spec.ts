import { HARMONY, type Score } from '@fendro/core/song/schema';
import { NOTHING_HEARD } from '@fendro/core/song/resolve';
import { songCourse } from '@fendro/core/sounding/course';
import { scoreWith } from '@fendro/core/testing/scores';
import { musicOf } from '@fendro/core/testing/sounding';
import { changedLines, contentsOf, goneLines } from './contents';

const { score, takes } = scoreWith(2, 0);
const section = score.sections[0]!;
const of = (one: Score, heard = NOTHING_HEARD) => contentsOf(musicOf(one, takes, heard), songCourse(one), () => null);

describe('what is queued', () => {
  it('is the same for the same song, and differs in the part whose take is heard', () => {
    expect(changedLines(of(score), of(score))).toEqual([]);
    const [part] = score.parts;
    const heard = { [section.id]: { [part!.id]: `${section.id}-${part!.id}-1` } };
    expect(changedLines(of(score), of(score, heard))).toEqual([part!.id]);
  });

  it('differs in the chord line alone when only that begins to sound', () => {
    const guided = contentsOf(musicOf(score, takes), songCourse(score), ({ chordSetting }) => chordSetting);
    expect(changedLines(of(score), guided)).toEqual([HARMONY]);
  });

  it('knows another instrument, other hands, and lines that are gone', () => {
    const changed = (change: object): Score => ({
      ...score,
      parts: score.parts.map((part, index) => (index === 0 ? { ...part, ...change } : part)),
    });
    expect(changedLines(of(score), of(changed({ instrument: 'music-box' })))).toEqual([score.parts[0]!.id]);
    expect(changedLines(of(score), of(changed({ brief: { ...score.parts[0]!.brief, humanise: 40 } })))).toEqual([
      score.parts[0]!.id,
    ]);
    expect(changedLines(of(score), of(changed({ brief: { ...score.parts[0]!.brief, follows: false } })))).toEqual([
      score.parts[0]!.id,
    ]);
    expect(goneLines(of(score), of({ ...score, parts: score.parts.slice(1) }))).toEqual([score.parts[0]!.id]);
    expect(changedLines(of(score), of({ ...score, parts: score.parts.slice(1) }))).toEqual([]);
    expect(goneLines(of(score), of(score))).toEqual([]);
    // Where a line stands among the others says nothing of what it sounds.
    expect(changedLines(of(score), of({ ...score, parts: [...score.parts].reverse() }))).toEqual([]);
    const more = { ...score, parts: [...score.parts, { ...score.parts[0]!, id: 'new' }] };
    expect(goneLines(of(score), of(more))).toEqual([]);
    expect(changedLines(of(score), of(more))).toEqual(['new']);
  });
});
