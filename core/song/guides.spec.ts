import { scoreWith } from '../testing/scores';
import { addGuides, changeGuide, guidesAreFull, guidesOf, guideStart, placeOfTick, removeGuide } from './guides';
import { removeOccurrence } from './edit';
import { layOut } from './resolve';
import { scoreSchema, type Guide, type Score } from './schema';

const { score } = scoreWith(2, 0);
const [first, second] = score.order;
const guide = (id: string, place = first!.id, at = 0): Guide => ({
  id,
  name: id,
  place,
  at,
  offset: 0,
  level: 80,
  muted: false,
  seconds: 4,
  sound: `sound of ${id}`,
});
const valid = (song: Score): boolean => scoreSchema.safeParse(song).success;

describe('guides under a song', () => {
  it('stand the newest first, and silence those at the same place', () => {
    const one = addGuides(score, [guide('a')]);
    const two = addGuides(one, [guide('b', second!.id)]);
    const three = addGuides(two, [guide('c')]);
    expect(guidesOf(three).map(({ id, muted }) => [id, muted])).toEqual([
      ['c', false],
      ['b', false],
      ['a', true],
    ]);
    expect([score, one, two, three].every(valid)).toBe(true);
    expect(guidesOf(score)).toEqual([]);
  });

  it('are changed and taken out; a song without any is as it was', () => {
    const one = addGuides(score, [guide('a')]);
    expect(guidesOf(changeGuide(one, 'a', { offset: -40, level: 20 }))[0]).toMatchObject({ offset: -40, level: 20 });
    expect(changeGuide(one, 'b', { level: 1 })).toEqual(one);
    expect(removeGuide(one, 'a')).toEqual(score);
  });

  it('are no more than a song holds', () => {
    const many = Array.from({ length: 20 }, (_, index) => guide(`g${index}`));
    const full = addGuides(score, many);
    expect([guidesOf(full).length, guidesAreFull(full), valid(full)]).toEqual([16, true, true]);
  });

  it('travel with their place, and stay where it is gone', () => {
    const song = addGuides(score, [guide('a', second!.id, 480)]);
    const placed = layOut(song);
    expect(guideStart(guidesOf(song)[0]!, placed)).toBe(placed[1]!.start + 480);
    const gone = removeOccurrence(song, second!.id);
    expect(guideStart(guidesOf(gone)[0]!, layOut(gone))).toBeNull();
    expect(valid(gone)).toBe(true);
    expect(placeOfTick(placed[1]!.start + 480, placed)).toEqual({ place: second!.id, at: 480 });
    expect(placeOfTick(1e9, placed)).toBeNull();
  });
});
