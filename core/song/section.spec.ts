import { scoreWith } from '../testing/scores';
import { HARMONY } from './schema';
import {
  choicesOf,
  chosenId,
  sourceOf,
  emptied,
  hasMusic,
  linesIn,
  mapChoices,
  withChoice,
  withChoices,
  withoutPart,
} from './section';

const { score } = scoreWith(1, 0);
const section = score.sections[0]!;
const [melody, other] = score.parts.map(({ id }) => id);

describe('what a section holds', () => {
  it('is read by line, chords and parts alike', () => {
    expect(chosenId(section, HARMONY)).toBe(section.harmony);
    expect(sourceOf(section, melody!)).toEqual({ of: 'take', take: chosenId(section, melody!) });
    expect(sourceOf(section, 'toString')).toBeNull();
    expect(chosenId(section, 'toString')).toBeNull();
    expect(choicesOf(section)).toHaveLength(score.parts.length + 1);
    expect(choicesOf(withChoice(section, melody!, null))).toHaveLength(score.parts.length);
    expect(linesIn(withChoice(section, melody!, null))).toContainEqual([melody, null]);
    expect([hasMusic(section), hasMusic(emptied(section))]).toEqual([true, false]);
  });

  it('changes in the lines that are named, and in no other', () => {
    const changed = withChoices(section, [
      [HARMONY, 'h'],
      [other!, 'o'],
    ]);
    expect([chosenId(changed, HARMONY), chosenId(changed, other!)]).toEqual(['h', 'o']);
    expect(chosenId(changed, melody!)).toBe(chosenId(section, melody!));
    expect(mapChoices(section, (line, take) => (line === melody ? undefined : take))).toEqual(
      withoutPart(section, melody!),
    );
  });

  it('forgets a part with its solos, its rests for others, and the chords that were to go under it', () => {
    const busy = {
      ...section,
      solos: [
        { part: melody!, over: other!, from: 0, to: 1 },
        { part: other!, over: melody!, from: 1, to: 2 },
      ],
      harmonyBrief: { ...section.harmonyBrief, under: melody! },
    };
    const left = withoutPart(busy, melody!);
    expect(left.solos).toEqual([{ part: other!, over: null, from: 1, to: 2 }]);
    expect(left.harmonyBrief.under).toBeNull();
    expect(Object.keys(left.chosen)).not.toContain(melody);
  });
});
