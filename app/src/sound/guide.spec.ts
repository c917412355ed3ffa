import { layOut, NOTHING_HEARD } from '@fendro/core/song/resolve';
import { HARMONY } from '@fendro/core/song/schema';
import { scoreWith } from '@fendro/core/testing/scores';
import { guideLine, guideNotes, guideSounds } from './guide';

const { score, takes } = scoreWith(1, 0);
const section = score.sections[0]!;
const bare = { ...section, chosen: { 'part-1': section.chosen['part-1']! } };

describe('the chord guide', () => {
  it('sounds while the chords are in focus, and in a loop that nobody accompanies, never in the song', () => {
    expect(guideSounds(section, score, takes, NOTHING_HEARD, HARMONY, false)).toBe(true);
    expect(guideSounds(section, score, takes, NOTHING_HEARD, 'part-1', true)).toBe(false);
    expect(guideSounds(bare, score, takes, NOTHING_HEARD, 'part-1', true)).toBe(true);
    expect(guideSounds(bare, score, takes, NOTHING_HEARD, 'part-1', false)).toBe(false);
  });

  it('plays every chord from its start, inside its section', () => {
    const notes = guideNotes(
      layOut(score),
      score,
      () => true,
      ({ chordSetting }) => chordSetting,
      takes,
      NOTHING_HEARD,
      { from: 0, to: 11_520 },
    );
    const harmony = takes[section.harmony!]!;
    const starts = harmony.of === 'harmony' ? harmony.chords.map(({ start }) => start) : [];
    expect([...new Set(notes.filter(({ start }) => start < 3840).map(({ start }) => start))]).toEqual(starts);
    expect(notes.every(({ start, end }) => end > start && end <= 11_520)).toBe(true);
    expect(
      guideNotes(
        layOut(score),
        score,
        () => false,
        ({ chordSetting }) => chordSetting,
        takes,
        NOTHING_HEARD,
        { from: 0, to: 11_520 },
      ),
    ).toEqual([]);
  });

  it('sounds as its section sets it: struck in its rhythm, and the same notes as long as nothing changes', () => {
    const struck = { ...section.chordSetting, rhythm: 'ballad-heartbeats' };
    const notes = guideLine(score, section, takes, NOTHING_HEARD, struck);
    expect(new Set(notes.map(({ start }) => start)).size).toBe(8);
    expect(guideLine(score, section, takes, NOTHING_HEARD, struck)).toBe(notes);
  });
});
