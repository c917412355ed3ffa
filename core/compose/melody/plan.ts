import type { PartContext } from '../context';
import { pickWeighted, type Random } from '../../trellis/random';

/** What a unit of a phrase does with the material it is named after. */
export interface PhraseUnit {
  /** Units with the same letter share a rhythm and a shape. */
  readonly letter: string;
  /** True where the unit returns something heard before. */
  readonly returns: boolean;
  readonly firstBar: number;
  readonly bars: number;
  /** Ends a phrase: the line breathes here. */
  readonly closes: boolean;
  /** Says the section's hook: a rhythm that can be clapped, said again at once. */
  readonly hook: boolean;
  /** Says a motif of the song. */
  readonly motif: boolean;
}

/** Plans for one, two and four units, with how much recall each suits, in %. */
const PLANS: Readonly<Record<number, readonly (readonly [plan: string, recall: number])[]>> = {
  1: [['a', 50]],
  2: [
    ['aa', 85],
    ['ab', 25],
  ],
  3: [
    ['aab', 70],
    ['aba', 60],
    ['abc', 10],
  ],
  4: [
    ['aaba', 85],
    ['abab', 80],
    ['abac', 60],
    ['aabc', 50],
    ['abcb', 45],
    ['abcd', 5],
  ],
};

/** The letter of a unit that quotes. */
const QUOTE = 'q';

/**
 * Draws how the bars of a section relate: statement, return, contrast, answer. Longer sections repeat a plan of four
 * units with a fresh third.
 */
export function drawPlan(context: PartContext, random: Random): PhraseUnit[] {
  const { bars, brief, kind, bound, motif } = context;
  const unitBars = bars >= 4 && bars % 2 === 0 ? 2 : 1;
  const count = Math.ceil(bars / unitBars);
  const letters: string[] = [];
  while (letters.length < count) {
    const size = Math.min(4, count - letters.length);
    const options = (PLANS[size] ?? []).map(([plan, recall]) => {
      const near = 105 - Math.abs(recall - brief.recall);
      return [plan, near * near] as const;
    });
    const plan = pickWeighted(random, options);
    const round = letters.length / 4;
    letters.push(...[...plan].map((letter) => (round > 0 && letter === 'c' ? `c${round}` : letter)));
  }
  const quoted = motif?.use === 'quotes' ? Math.min(2, count - 1) : -1;
  if (quoted >= 0) letters[quoted] = QUOTE;
  const stated = motif && !['quotes', 'avoids'].includes(motif.use) ? letters[0] : QUOTE;
  return letters.map((letter, index) => ({
    letter,
    returns: letters.indexOf(letter) < index,
    firstBar: index * unitBars,
    bars: Math.min(unitBars, bars - index * unitBars),
    closes: index % 2 === 1 || index === count - 1,
    hook: letter === 'a' && kind === 'chorus' && bound,
    motif: motif !== null && motif.use !== 'avoids' && letter === stated,
  }));
}
