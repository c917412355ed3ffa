import { chordsIn, NOTHING_HEARD } from '@fendro/core/song/resolve';
import { chosenId } from '@fendro/core/song/section';
import type { PartTake } from '@fendro/core/song/schema';
import { SMALL } from '../testing/view';
import { partFactsText } from './take-facts';

const { score, takes } = SMALL;
const [verse] = score.sections;
const [melody] = score.parts;
const take = takes[chosenId(verse!, melody!.id) ?? ''] as PartTake;
const chords = chordsIn(verse!, takes, NOTHING_HEARD);

describe('what is said of a take', () => {
  it('is where it lies, how busy it is, and what its notes are against the chords', () => {
    const text = partFactsText(take, 'melody', chords, score.ground, verse!.bars);
    expect(text).toMatch(/onsets a bar.*% steps.*% chord notes on beats/);
    expect(text).toMatch(/; .*chord notes?/);
  });

  it('says nothing of chords where none sound', () => {
    for (const none of [[], chords.map((span) => ({ ...span, chord: null }))]) {
      const text = partFactsText(take, 'melody', none, score.ground, verse!.bars);
      expect(text).toMatch(/onsets a bar/);
      expect(text).not.toMatch(/chord/);
    }
  });

  it('is silence for no notes', () => {
    expect(partFactsText({ ...take, notes: [] }, 'melody', chords, score.ground, verse!.bars)).toBe('silent');
  });
});
