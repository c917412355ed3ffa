import { takenBrief } from './briefs';
import { briefSchema, ROLES } from './schema';
import { stepWord, WORD_LABELS, wordFor, isUsual, resetWord, type BriefWord } from './brief-words';
import { roleOf } from './roles';

const LIMITS = { low: 28, high: 60 };

describe('a brief taken over', () => {
  it('is the whole brief for the same role, inside what the instrument reaches', () => {
    const wide = { ...roleOf('bass').brief, low: 20, high: 90, adventure: 77 };
    expect(takenBrief({ role: 'bass', brief: wide }, 'bass', roleOf('bass').brief, LIMITS)).toEqual({
      ...wide,
      low: 28,
      high: 60,
    });
    expect(
      takenBrief({ role: 'bass', brief: { ...wide, low: 70, high: 80 } }, 'bass', roleOf('bass').brief, LIMITS),
    ).toMatchObject({ low: 60, high: 60 });
  });

  it('leaves register, voices and drum time to the role', () => {
    const own = roleOf('comping').brief;
    const taken = takenBrief(
      { role: 'melody', brief: { ...roleOf('melody').brief, syncopation: 90, voices: 1, time: 'half' } },
      'comping',
      own,
      LIMITS,
    );
    expect(taken).toMatchObject({ syncopation: 90, low: own.low, high: own.high, voices: own.voices, time: null });
  });
});

describe('the words of briefs', () => {
  it('name every setting of every role, step through all of them and come back to the usual', () => {
    for (const role of ROLES) {
      const usual = roleOf(role).brief;
      expect(briefSchema.safeParse(usual).success).toBe(true);
      for (const word of new Set<BriefWord>([...roleOf(role).words, ...roleOf(role).further])) {
        expect(wordFor(usual, word).length).toBeGreaterThan(2);
        expect(WORD_LABELS[word].label.length).toBeGreaterThan(2);
        let brief = usual;
        for (let step = 0; step < 40; step++) brief = { ...brief, ...stepWord(brief, word, 1, { low: 0, high: 127 }) };
        const top = brief;
        expect(
          stepWord(top, word, 1, { low: 0, high: 127 })[word === 'register' ? 'low' : word] ??
            (word === 'register' ? top.low : top[word]),
        ).toEqual(word === 'register' ? top.low : top[word]);
        for (let step = 0; step < 80; step++) brief = { ...brief, ...stepWord(brief, word, -1, { low: 0, high: 127 }) };
        expect(wordFor(brief, word)).not.toBe(wordFor(top, word));
        expect(briefSchema.safeParse(brief).success).toBe(true);
        expect(isUsual({ ...brief, ...resetWord(word, usual) }, word, usual)).toBe(true);
      }
    }
  });
});
