import { DIRECTIONS, RATES, type DegreesOf, type Direction, type Pattern } from '../../song/schema';
import type { Key } from '../../theory/key';
import { clamp, range, type MidiNote, type Ticks } from '../../theory/units';
import { reachBetween } from '../pattern-edits';

/** What settings of patterns are, and the words and choices that kinds of patterns share. */

/** What a setting can be, and how the sentence of a pattern says it. */
export interface SettingChoice {
  readonly value: string | number;
  readonly text: string;
}

/** One of the things that a pattern says of all its steps: a word of its sentence. */
export interface Setting<P> {
  readonly id: string;
  /** What it sets: “Direction”. */
  readonly label: string;
  /** In order, so that a word can be stepped. */
  readonly choices: readonly SettingChoice[];
  readonly value: (of: P) => string | number;
  /** @param value  of one of the choices */
  readonly set: (of: P, value: string | number) => P;
}

/** How pitches are said, and the key in which degrees become pitches. */
export interface SettingContext {
  readonly key: Key;
  readonly sayPitch: (pitch: MidiNote) => string;
}

/** A setting of some pattern, bound to it. */
export interface BoundSetting {
  readonly id: string;
  readonly label: string;
  readonly choices: readonly SettingChoice[];
  readonly value: string | number;
  readonly set: (value: string | number) => Pattern;
}

/** Lengths in words, by ticks. */
const RATE_WORDS: Readonly<Record<number, string>> = {
  1920: 'whole notes',
  960: 'halves',
  720: 'dotted quarters',
  640: 'half triplets',
  480: 'quarters',
  360: 'dotted eighths',
  320: 'quarter triplets',
  240: 'eighths',
  180: 'dotted sixteenths',
  160: 'eighth triplets',
  120: 'sixteenths',
  80: 'sixteenth triplets',
  60: 'thirty-seconds',
  40: 'thirty-second triplets',
};

/** “eighths”. */
const sayRate = (rate: Ticks): string => RATE_WORDS[rate] ?? `${rate} ticks`;

export const DEGREE_WORDS: Readonly<Record<DegreesOf, string>> = {
  root: 'roots alone',
  chord: 'notes of the chord',
  steps: 'the scale from each root',
  scale: 'the scale from the tonic',
  fixed: 'fixed pitches',
};

const DIRECTION_WORDS: Readonly<Record<Direction, string>> = {
  forward: 'forward',
  back: 'backwards',
  'to and fro': 'to and fro',
  'by chance': 'in an order by chance',
};

export const named = <T extends string>(values: readonly T[], words: Readonly<Record<T, string>>): SettingChoice[] =>
  values.map((value) => ({ value, text: words[value] }));
export const counted = (values: readonly number[], words: (value: number) => string): SettingChoice[] =>
  values.map((value) => ({ value, text: words(value) }));

/** Shares in %. */
export const TENTHS = range(11).map((tenth) => tenth * 10);
export const TWENTIETHS = range(21).map((twentieth) => twentieth * 5);

export const VELOCITIES = range(13).map((step) => Math.min(127, 7 + 10 * step));

/** A setting, written in a line. */
export type Row<P> = readonly [
  id: string,
  label: string,
  choices: readonly SettingChoice[],
  value: (of: P) => string | number,
  set: (of: P, value: string | number) => P,
];
export const rows = <P>(...list: readonly Row<P>[]): readonly Setting<P>[] =>
  list.map(([id, label, choices, value, set]) => ({ id, label, choices, value, set }));

interface Reaching {
  readonly low: MidiNote;
  readonly high: MidiNote;
}

/** The lowest and the highest note; moving one end past the other moves both. */
export const reachRows = <P extends Reaching>({ sayPitch }: SettingContext): readonly Row<P>[] => [
  [
    'low',
    'Lowest note',
    counted(range(117), (pitch) => `from ${sayPitch(pitch)}`),
    ({ low }) => low,
    (of, value) => ({ ...of, ...reachBetween(Number(value), Math.max(of.high, Number(value) + 11)) }),
  ],
  [
    'high',
    'Highest note',
    counted(
      range(117).map((index) => index + 11),
      (pitch) => `to ${sayPitch(pitch)}`,
    ),
    ({ high }) => high,
    (of, value) => ({ ...of, ...reachBetween(Math.min(of.low, Number(value) - 11), Number(value)) }),
  ],
];

export const rates = counted(RATES, (rate) => `in ${sayRate(rate)}`);

const directions = named(DIRECTIONS, DIRECTION_WORDS);

/** How long a step is, and in which order steps come. */
export const paceRows = <P extends { readonly rate: Ticks; readonly direction: Direction }>(): readonly Row<P>[] => [
  ['rate', 'Length of a step', rates, ({ rate }) => rate, (of, value) => ({ ...of, rate: Number(value) })],
  [
    'direction',
    'Direction',
    directions,
    ({ direction }) => direction,
    (of, value) => ({ ...of, direction: value as Direction }),
  ],
];

/** How a setting that stands between two choices is said: by the nearest. */
export function choiceOf({ choices, value }: Pick<BoundSetting, 'choices' | 'value'>): SettingChoice | undefined {
  const exact = choices.find((choice) => choice.value === value);
  if (exact || typeof value === 'string') return exact;
  const far = (choice: SettingChoice): number => Math.abs(Number(choice.value) - value);
  return choices.reduce<SettingChoice | undefined>(
    (best, choice) => (best === undefined || far(choice) < far(best) ? choice : best),
    undefined,
  );
}

/** The choice after or before the present one; the present one at either end. */
export function stepped(setting: Pick<BoundSetting, 'choices' | 'value'>, by: number): SettingChoice | undefined {
  const now = choiceOf(setting);
  const place = now ? setting.choices.indexOf(now) : 0;
  return setting.choices[clamp(place + by, 0, setting.choices.length - 1)];
}
