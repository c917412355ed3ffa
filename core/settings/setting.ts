import type { Key } from '../theory/key';
import { clamp, range, type MidiNote, type Ticks } from '../theory/units';

/** Settings as data: what can be set of a thing, its choices in order, and the words in which its sentence says them. */

/** What a setting can be, and how a sentence says it. */
export interface SettingChoice {
  readonly value: string | number;
  readonly text: string;
}

/** One of the things that can be set: a word of a sentence. */
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

/** A setting of some thing, bound to it. */
export interface BoundSetting<P> {
  readonly id: string;
  readonly label: string;
  readonly choices: readonly SettingChoice[];
  readonly value: string | number;
  readonly set: (value: string | number) => P;
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
export const sayRate = (rate: Ticks): string => RATE_WORDS[rate] ?? `${rate} ticks`;

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

/** How a setting that stands between two choices is said: by the nearest. */
export function choiceOf({
  choices,
  value,
}: Pick<BoundSetting<unknown>, 'choices' | 'value'>): SettingChoice | undefined {
  const exact = choices.find((choice) => choice.value === value);
  if (exact || typeof value === 'string') return exact;
  const far = (choice: SettingChoice): number => Math.abs(Number(choice.value) - value);
  return choices.reduce<SettingChoice | undefined>(
    (best, choice) => (best === undefined || far(choice) < far(best) ? choice : best),
    undefined,
  );
}

/** The choice after or before the present one; the present one at either end. */
export function stepped(
  setting: Pick<BoundSetting<unknown>, 'choices' | 'value'>,
  by: number,
): SettingChoice | undefined {
  const now = choiceOf(setting);
  const place = now ? setting.choices.indexOf(now) : 0;
  return setting.choices[clamp(place + by, 0, setting.choices.length - 1)];
}

/** Settings of a thing, bound to it. */
export const bound = <P>(settings: readonly Setting<P>[], of: P): BoundSetting<P>[] =>
  settings.map(({ value, set, ...setting }) => ({ ...setting, value: value(of), set: (to) => set(of, to) }));
