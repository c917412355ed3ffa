import { MOST_VOICES, WANDERING_TONES, type Wandering } from '../../song/schema';
import { range, type Ticks } from '../../theory/units';
import {
  counted,
  named,
  rows,
  TENTHS,
  TWENTIETHS,
  VELOCITIES,
  type Row,
  type Setting,
  type SettingContext,
} from '../../settings/setting';
import { rates, reachRows } from './shared';

const TONE_WORDS: Readonly<Record<Wandering['tones'], string>> = {
  chord: 'notes of the chord',
  scale: 'notes of the scale',
  any: 'any notes',
  kit: 'drums of the kit',
};

/** Lengths of notes and gaps, from a thirty-second to four whole notes, as one says them. */
const SPAN_WORDS: readonly (readonly [ticks: Ticks, words: string])[] = [
  [60, 'a thirty-second'],
  [120, 'a sixteenth'],
  [160, 'an eighth triplet'],
  [240, 'an eighth'],
  [320, 'a quarter triplet'],
  [480, 'a quarter'],
  [720, 'a dotted quarter'],
  [960, 'a half'],
  [1440, 'a dotted half'],
  [1920, 'a whole note'],
  [3840, 'two whole notes'],
  [7680, 'four whole notes'],
];
const SPANS = SPAN_WORDS.map(([ticks]) => ticks);
const inBeats = (ticks: Ticks): string => SPAN_WORDS.find(([own]) => own === ticks)?.[1] ?? `${ticks} ticks`;

type Between = 'length' | 'loudness' | 'gap';

/** The two ends of a range; moving one past the other moves both. */
function betweenRows(
  field: Between,
  [least, most]: readonly [string, string],
  values: readonly number[],
  words: (value: number, low: boolean) => string,
): readonly Row<Wandering>[] {
  const set = (of: Wandering, end: Partial<Record<'low' | 'high', number>>): Wandering => {
    const { low, high } = { ...of[field], ...end };
    const ends = end.low === undefined ? { low: Math.min(low, high), high } : { low, high: Math.max(low, high) };
    return { ...of, [field]: ends };
  };
  return [
    [
      `${field}-low`,
      least,
      counted(values, (value) => words(value, true)),
      (of) => of[field].low,
      (of, value) => set(of, { low: Number(value) }),
    ],
    [
      `${field}-high`,
      most,
      counted(values, (value) => words(value, false)),
      (of) => of[field].high,
      (of, value) => set(of, { high: Number(value) }),
    ],
  ];
}

const gaps = betweenRows('gap', ['Smallest gap', 'Largest gap'], SPANS, (value, low) =>
  low ? inBeats(value) : `to ${inBeats(value)} apart`,
);

/** The ranges in which notes wander. */
export const wanderingSettings = (context: SettingContext): readonly Setting<Wandering>[] =>
  rows<Wandering>(
    [
      'tones',
      'Notes',
      named(WANDERING_TONES, TONE_WORDS),
      ({ tones }) => tones,
      (of, value) => ({ ...of, tones: value as Wandering['tones'] }),
    ],
    ...reachRows<Wandering>(context),
    [
      'stride',
      'Stride',
      counted(TENTHS, (share) =>
        share === 0 ? 'going by steps' : share === 100 ? 'going anywhere' : `striding by ${share} %`,
      ),
      ({ stride }) => stride,
      (of, value) => ({ ...of, stride: Number(value) }),
    ],
    [
      'division',
      'Division of the bar',
      [{ value: 0, text: 'free of divisions' }, ...rates],
      ({ division }) => division ?? 0,
      (of, value) => ({ ...of, division: value === 0 ? null : Number(value) }),
    ],
    ...gaps,
    [
      'double',
      'Double speed',
      counted(TENTHS, (share) => (share === 0 ? 'never at double speed' : `at double speed in ${share} %`)),
      ({ double }) => double,
      (of, value) => ({ ...of, double: Number(value) }),
    ],
    [
      'density',
      'Density',
      counted(TWENTIETHS, (share) => `${share} % dense`),
      ({ density }) => density,
      (of, value) => ({ ...of, density: Number(value) }),
    ],
    ...betweenRows('length', ['Shortest note', 'Longest note'], SPANS, (value, low) =>
      low ? `each ${inBeats(value)}` : `to ${inBeats(value)} long`,
    ),
    ...betweenRows('loudness', ['Softest', 'Loudest'], VELOCITIES, (value, low) =>
      low ? `loudness ${value}` : `to ${value}`,
    ),
    [
      'voices',
      'Voices',
      counted(
        range(MOST_VOICES).map((index) => index + 1),
        (count) => (count === 1 ? 'one at a time' : `${count} at once at most`),
      ),
      ({ voices }) => voices,
      (of, value) => ({ ...of, voices: Number(value) }),
    ],
    [
      'grid',
      'Grid',
      counted([0, 1], (on) => (on === 0 ? 'free of the grid' : 'on the grid')),
      ({ grid }) => (grid ? 1 : 0),
      (of, value) => ({ ...of, grid: value === 1 }),
    ],
  );

/** Settings that say nothing as others stand: gaps count where there is no division, doubling where there is one. */
export const isSilent = (id: string, pattern: Wandering): boolean =>
  pattern.division === null ? id === 'double' : id.startsWith('gap-');
