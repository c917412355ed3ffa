import type { Style } from '../../song/style';
import { BLUES_FORMS } from '../../styles/forms';
import { range, type Percent } from '../../theory/units';
import { happens, pickWeighted, type Random } from '../../trellis/random';
import type { HarmonyContext } from '../context';

/** How the bars of a section come back: units of some bars, equal letters the same chords. */
export interface Structure {
  /** Bars of a unit. */
  readonly unit: number;
  readonly letters: readonly string[];
  /** Every time round is the same to the last chord; otherwise the last time may end otherwise. */
  readonly strict: boolean;
  /** What stands in each bar, where the form says so. */
  readonly degrees: readonly BarDegrees[] | null;
}

/** The chords of one bar, in order, each by the degrees of the scale that may stand there. */
export type BarDegrees = readonly (readonly string[])[];

/** Reads a form: a word for each bar, `2-5` two chords in it, `1/5` one or the other. */
export const readForm = (bars: string): BarDegrees[] =>
  bars.split(' ').map((bar) => bar.split('-').map((chord) => chord.split('/')));

/** Bars of a loop. */
const LOOP_BARS = 4;

/** How sections of some units come back, with how usual it is. */
const RETURNS: Readonly<Record<number, readonly (readonly [letters: string, weight: number])[]>> = {
  1: [['a', 1]],
  2: [
    ['aa', 70],
    ['ab', 30],
  ],
  3: [
    ['aab', 50],
    ['aba', 30],
    ['aaa', 20],
  ],
  4: [
    ['aaba', 45],
    ['abab', 25],
    ['aaab', 15],
    ['aabb', 15],
  ],
};

/** Chance that a section goes round a loop where the style does not say, in %. */
const SELDOM: Percent = 15;

/** Forms of the length of a section: the style's own, or those of the blues where twelve bars are asked for. */
function formsFor({ bars, style, brief }: HarmonyContext): NonNullable<Style['harmony']['forms']> {
  const own = style.harmony.forms ?? [];
  const known = brief.form === null ? own : brief.form === 'twelve bars' ? [...own, ...BLUES_FORMS] : [];
  return known.filter((form) => readForm(form.bars).length === bars);
}

const tiled = (unit: number, bars: number, strict: boolean): Structure => ({
  unit,
  letters: range(Math.ceil(bars / unit)).map(() => 'a'),
  // A round that is cut short ends as the section does.
  strict: strict && bars % unit === 0,
  degrees: null,
});

/**
 * Draws how the chords of a section come back: by a form of the style for so many bars, round a loop of four, or in
 * units of four bars, of eight in long sections.
 */
export function drawStructure(context: HarmonyContext, random: Random): Structure {
  const { bars, style, melody, brief } = context;
  const forms = formsFor(context);
  const plain: Structure = { unit: bars, letters: ['a'], strict: false, degrees: null };
  // Under a given melody the chords go where it goes.
  if (melody.length > 0 || brief.form === 'free') return plain;
  if (forms.length > 0) {
    const form = pickWeighted(
      random,
      forms.map((option) => [option, option.weight ?? 1] as const),
    );
    return { ...plain, degrees: readForm(form.bars) };
  }
  const turnsRound = brief.cadence === 'open' || brief.cadence === 'half';
  if (brief.form === 'loop of two' && bars > 2) return tiled(2, bars, turnsRound);
  if (bars < 2 * LOOP_BARS) return plain;
  const loops = brief.form === 'loop of four' ? 100 : brief.form === null ? (style.harmony.loops ?? SELDOM) : 0;
  if (happens(random, bars % LOOP_BARS === 0 || loops === 100 ? loops : 0)) return tiled(LOOP_BARS, bars, turnsRound);
  const unit = bars >= 24 && bars % 8 === 0 ? 8 : LOOP_BARS;
  const count = Math.ceil(bars / unit);
  if (brief.form === 'a a b a')
    return { unit, letters: range(count).map((index) => 'aaba'.charAt(index % 4)), strict: false, degrees: null };
  const letters: string[] = [];
  while (letters.length < count) {
    const round = letters.length / 4;
    const drawn = pickWeighted(random, RETURNS[Math.min(4, count - letters.length)] ?? [['a', 1]]);
    letters.push(...[...drawn].map((letter) => (round > 0 && letter !== 'a' ? `${letter}${round}` : letter)));
  }
  return { unit, letters, strict: false, degrees: null };
}
