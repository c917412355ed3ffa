import { scoreWith } from '../../testing/scores';
import { songOf, twists } from '../../testing/songs';
import { rounds } from '../../testing/rounds';
import { RESOLUTIONS } from '../midi/at-resolution';
import { chosenMusic, handOver } from './hand-over';
import fc from 'fast-check';

const wishes = fc.record({
  what: fc.constant({ kind: 'song' } as const),
  human: fc.boolean(),
  apart: fc.boolean(),
  layersTogether: fc.boolean(),
  drumsApart: fc.boolean(),
  resolution: fc.constantFrom(...RESOLUTIONS),
  drums: fc.constantFrom('general' as const, 'pads' as const, new Map([[38, 40]])),
});

describe('handing a song over', () => {
  it('needs the chosen takes and their chords only: the files are the same as with all takes', () => {
    fc.assert(
      fc.property(twists, wishes, (twist, wish) => {
        const music = { ...songOf(twist), heard: {} };
        const chosen = chosenMusic(music.score, music.takes);
        expect(Object.keys(chosen.takes).length).toBeLessThanOrEqual(Object.keys(music.takes).length);
        expect(handOver(chosen, wish)).toEqual(handOver(music, wish));
      }),
      { numRuns: rounds(12) },
    );
  });

  it('says of every file of which kind it is: the whole, a part, the chords, or a section', () => {
    const { score, takes } = scoreWith(1, 0);
    const { files } = handOver(chosenMusic(score, takes), {
      what: { kind: 'song' },
      human: true,
      apart: false,
      layersTogether: false,
      drumsApart: false,
      resolution: 480,
      drums: 'general',
    });
    expect(files.map(({ group }) => group)).toEqual([
      'whole',
      'whole',
      ...score.parts.map(() => 'parts'),
      'chords',
      ...score.sections.map(() => 'sections'),
    ]);
  });

  it('names every file apart and says once what holds of all', () => {
    const { score, takes } = scoreWith(1, 0);
    const same = { ...score, parts: score.parts.map((part) => ({ ...part, name: 'Part' })) };
    const { files, remarks } = handOver(chosenMusic(same, takes), {
      what: { kind: 'song' },
      human: true,
      apart: true,
      layersTogether: false,
      drumsApart: true,
      resolution: 480,
      drums: 'general',
    });
    expect(new Set(files.map(({ delivery }) => delivery.name)).size).toBe(files.length);
    for (const file of files) for (const remark of file.remarks) expect(remarks).not.toContain(remark);
  });
});
