import { HARMONY, type Score } from '@fendro/core/song/schema';
import { NOTHING_HEARD } from '@fendro/core/song/resolve';
import { songCourse } from '@fendro/core/sounding/course';
import { scoreWith } from '@fendro/core/testing/scores';
import { musicOf } from '@fendro/core/testing/sounding';
import { choose } from '@fendro/core/song/edit';
import { copyVersion, switchVersion } from '@fendro/core/song/versions';
import { changedLines, contentsOf, goneLines } from './contents';

const { score, takes } = scoreWith(2, 0);
const section = score.sections[0]!;
let serial = 0;
const of = (one: Score, heard = NOTHING_HEARD) => contentsOf(musicOf(one, takes, heard), songCourse(one), () => null);

describe('what is queued', () => {
  it('is the same for the same song, and differs in the part whose take is heard', () => {
    expect(changedLines(of(score), of(score))).toEqual([]);
    const [part] = score.parts;
    const heard = { [section.id]: { [part!.id]: `${section.id}-${part!.id}-1` } };
    expect(changedLines(of(score), of(score, heard))).toEqual([part!.id]);
  });

  it('differs in the lines alone that another version of a section plays otherwise, in whichever place', () => {
    const copied = copyVersion(musicOf(score, takes), section.id, (kind) => `${kind}-${serial++}`);
    const all = { ...takes, ...Object.fromEntries(copied.takes.map((take) => [take.id, take])) };
    const [first, , third] = score.order.map(({ id }) => id);
    const playing = (one: Score) => contentsOf(musicOf(one, all), songCourse(one), () => null);
    const [part] = score.parts;
    const other = choose(copied.score, copied.section, part!.id, null);
    const all3 = switchVersion(other, first!, copied.section);
    expect(changedLines(playing(score), playing(switchVersion(copied.score, first!, copied.section)))).toEqual([]);
    expect(changedLines(playing(score), playing(all3))).toEqual([part!.id]);
    // The same two versions in each other’s places.
    const [here, there] = [first!, third!].map((place) => switchVersion(other, place, copied.section, true));
    expect(changedLines(playing(here!), playing(there!))).toEqual([part!.id]);
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
