import { dealPart } from '@fendro/core/song/edit';
import { isAccompaniment } from '@fendro/core/song/roles';
import { HARMONY } from '@fendro/core/song/schema';
import { scoreWith } from '@fendro/core/testing/scores';
import { musicOf } from '@fendro/core/testing/sounding';
import { chordsGuide } from './chord-guide';
import { chosenId, emptied, withChoice } from '@fendro/core/song/section';

const { score, takes } = scoreWith(1, 0);
const music = musicOf(score, takes);
const section = score.sections[0]!;
const bare = withChoice(emptied(section), 'part-1', chosenId(section, 'part-1'));

describe('the chord guide', () => {
  it('sounds while the chords are in focus, and in a loop that nobody accompanies, never in the song', () => {
    expect(chordsGuide(music, section, HARMONY, false)).toBe(true);
    expect(chordsGuide(music, section, 'part-1', true)).toBe(false);
    expect(chordsGuide(music, bare, 'part-1', true)).toBe(true);
    expect(chordsGuide(music, bare, 'part-1', false)).toBe(false);
  });

  it('does not sound where what accompanies is dealt out to a melody', () => {
    const keys = score.parts.find(({ role }) => isAccompaniment(role))!;
    const alone = withChoice(bare, keys.id, chosenId(section, keys.id));
    const dealt = musicOf(dealPart(score, keys.id, { way: 'to all', to: ['part-1'] }), takes);
    expect(chordsGuide(music, alone, 'part-1', true)).toBe(false);
    expect(chordsGuide(dealt, alone, 'part-1', true)).toBe(false);
  });
});
