import * as fc from 'fast-check';
import { HARMONY, type Score } from '@fendro/core/song/schema';
import { scoreWith } from '@fendro/core/testing/scores';
import { stripCount, stripsOf } from './strips';

const { score } = scoreWith(1, 0);
const withParts = (ids: readonly string[]): Score => ({
  ...score,
  parts: ids.map((id) => ({ ...score.parts[0]!, id })),
});

describe('strips', () => {
  it('are counted from the first part on, after the metronome, the chords and the hands', () => {
    const strips = stripsOf(withParts(['a', 'b']));
    expect([...strips]).toEqual([
      [HARMONY, 1],
      ['a', 5],
      ['b', 6],
    ]);
    expect(stripCount(strips)).toBe(7);
    expect(stripCount(stripsOf(withParts([])))).toBe(2);
  });

  it('stay with their lines whoever goes, comes or moves, and are nobody’s twice', () => {
    const names = fc.uniqueArray(fc.constantFrom(...'abcdefgh'), { maxLength: 8 });
    fc.assert(
      fc.property(names, names, (before, now) => {
        const [had, has] = [stripsOf(withParts(before)), stripsOf(withParts(now), stripsOf(withParts(before)))];
        expect([...has.keys()]).toEqual([HARMONY, ...now]);
        expect(new Set(has.values()).size).toBe(now.length + 1);
        for (const line of now) {
          if (had.has(line)) expect(has.get(line)).toBe(had.get(line));
          // What still sounds of a line that has gone does not get the sound of a new one.
          else expect([...had.values()]).not.toContain(has.get(line));
        }
      }),
    );
  });

  it('are not used up by parts that come and go', () => {
    let strips = stripsOf(withParts(['a']));
    for (let round = 0; round < 20; round++)
      strips = stripsOf(withParts(['a']), stripsOf(withParts(['a', `b${round}`]), strips));
    expect(stripCount(stripsOf(withParts(['a', 'c']), strips))).toBe(7);
  });
});
