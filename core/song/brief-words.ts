import { clamp, type MidiNote } from '../theory/units';
import type { Brief } from './schema';

/** The settings of a brief that stand in its sentence; `register` moves both ends of the range. */
export type BriefWord =
  | 'register'
  | 'busyness'
  | 'syncopation'
  | 'stride'
  | 'anchoring'
  | 'breath'
  | 'adventure'
  | 'loudness'
  | 'recall'
  | 'length'
  | 'voices'
  | 'rolls'
  | 'dynamics'
  | 'humanise'
  | 'pickup';

/** A ladder of words with the value that each stands for; a value in between is called by the nearest. */
type Ladder = readonly (readonly [value: number, word: string])[];

const LADDERS: Readonly<Record<Exclude<BriefWord, 'register'>, Ladder>> = {
  busyness: [
    [1, 'bare'],
    [2, 'very sparse'],
    [3, 'sparse'],
    [4, 'unhurried'],
    [5, 'flowing'],
    [6, 'lively'],
    [8, 'busy'],
    [12, 'very busy'],
    [16, 'teeming'],
  ],
  syncopation: [
    [0, 'on the beat'],
    [25, 'a little syncopated'],
    [50, 'syncopated'],
    [75, 'very syncopated'],
    [100, 'all off the beat'],
  ],
  stride: [
    [0, 'stepwise'],
    [35, 'mostly stepwise'],
    [60, 'stepping and leaping'],
    [80, 'leaping'],
    [100, 'wide leaping'],
  ],
  anchoring: [
    [0, 'free of the chords'],
    [30, 'loosely on the chords'],
    [60, 'on the chords'],
    [85, 'tight on the chords'],
    [100, 'on the roots alone'],
  ],
  breath: [
    [0, 'without rests'],
    [25, 'with few rests'],
    [50, 'breathing'],
    [75, 'with many rests'],
    [100, 'full of rests'],
  ],
  adventure: [
    [0, 'plain'],
    [20, 'safe'],
    [40, 'curious'],
    [65, 'bold'],
    [90, 'wild'],
  ],
  loudness: [
    [50, 'soft'],
    [70, 'gentle'],
    [84, 'even'],
    [96, 'strong'],
    [112, 'loud'],
  ],
  length: [
    [0, 'clipped'],
    [30, 'short'],
    [60, 'as it comes'],
    [85, 'long'],
    [100, 'tied over'],
  ],
  voices: [
    [1, 'single notes'],
    [2, 'in twos'],
    [3, 'in threes'],
    [4, 'in fours'],
    [5, 'in fives'],
    [6, 'in sixes'],
  ],
  rolls: [
    [0, 'without rolls'],
    [20, 'few rolls'],
    [50, 'rolling'],
    [90, 'rolls everywhere'],
  ],
  dynamics: [
    [0, 'all alike'],
    [25, 'calm'],
    [50, 'lively'],
    [100, 'wide swings'],
  ],
  humanise: [
    [0, 'exact'],
    [25, 'steady hands'],
    [50, 'human'],
    [100, 'loose'],
  ],
  pickup: [
    [0, 'on the bar line'],
    [40, 'now and then a pick-up'],
    [100, 'with a pick-up'],
  ],
  recall: [
    [0, 'ever new'],
    [30, 'seldom repeating'],
    [60, 'with returns'],
    [90, 'much repeating'],
  ],
};

const SHIFT = 3;

/** Named as exact controls are: with their unit. */
export const WORD_LABELS: Readonly<
  Record<
    BriefWord,
    {
      readonly label: string;
      readonly unit: string;
      readonly low: number;
      readonly high: number;
      readonly step: number;
    }
  >
> = {
  register: { label: 'Register', unit: 'semitones', low: 0, high: 127, step: 1 },
  busyness: { label: 'Busyness', unit: 'onsets a bar', low: 0.5, high: 24, step: 0.5 },
  syncopation: { label: 'Syncopation', unit: '%', low: 0, high: 100, step: 5 },
  stride: { label: 'Stride', unit: '% leaps', low: 0, high: 100, step: 5 },
  anchoring: { label: 'Anchoring', unit: '%', low: 0, high: 100, step: 5 },
  breath: { label: 'Breath', unit: '% rests', low: 0, high: 100, step: 5 },
  adventure: { label: 'Adventure', unit: '%', low: 0, high: 100, step: 5 },
  loudness: { label: 'Loudness', unit: 'velocity', low: 20, high: 120, step: 1 },
  recall: { label: 'Recall', unit: '%', low: 0, high: 100, step: 5 },
  length: { label: 'Length', unit: '%', low: 0, high: 100, step: 5 },
  voices: { label: 'Voices', unit: 'together', low: 1, high: 6, step: 1 },
  rolls: { label: 'Rolls', unit: '%', low: 0, high: 100, step: 5 },
  dynamics: { label: 'Dynamics', unit: '%', low: 0, high: 100, step: 5 },
  pickup: { label: 'Pick-up', unit: '% chance', low: 0, high: 100, step: 10 },
  humanise: { label: 'Humanise', unit: '%', low: 0, high: 100, step: 5 },
};

const nearest = (ladder: Ladder, value: number): number =>
  ladder.reduce(
    (best, [rung], index) => (Math.abs(rung - value) < Math.abs((ladder[best]?.[0] ?? 0) - value) ? index : best),
    0,
  );

/** Register by the middle of the range, as a singer would say it. */
const REGISTERS: Ladder = [
  [36, 'very low'],
  [45, 'low'],
  [54, 'low middle'],
  [64, 'middle'],
  [72, 'high middle'],
  [79, 'high'],
  [90, 'very high'],
];

/** What a setting is called in the sentence. */
export function wordFor(brief: Brief, word: BriefWord): string {
  if (word === 'register') return `${REGISTERS[nearest(REGISTERS, (brief.low + brief.high) / 2)]?.[1] ?? ''} register`;
  const ladder = LADDERS[word];
  return ladder[nearest(ladder, brief[word])]?.[1] ?? '';
}

/**
 * One step up or down on a word.
 *
 * @param limits  what the part's instrument can play; the register stays inside
 */
export function stepWord(
  brief: Brief,
  word: BriefWord,
  direction: 1 | -1,
  limits: { readonly low: MidiNote; readonly high: MidiNote },
): Partial<Brief> {
  if (word === 'register') {
    const shift = clamp(direction * SHIFT, limits.low - brief.low, limits.high - brief.high);
    const possible = direction > 0 ? Math.max(0, shift) : Math.min(0, shift);
    return { low: brief.low + possible, high: brief.high + possible };
  }
  const ladder = LADDERS[word];
  const place = nearest(ladder, brief[word]);
  // A value between two rungs first goes to the rung that lies in the direction asked for.
  const next = ladder.find(([value], index) => (direction > 0 ? value > brief[word] && index >= place : false))?.[0];
  const below = ladder.findLast(([value]) => value < brief[word])?.[0];
  const value = direction > 0 ? next : below;
  return value === undefined ? {} : { [word]: value };
}

/** A word back at its default. */
export const resetWord = (word: BriefWord, usual: Brief): Partial<Brief> =>
  word === 'register' ? { low: usual.low, high: usual.high } : { [word]: usual[word] };

export const isUsual = (brief: Brief, word: BriefWord, usual: Brief): boolean =>
  word === 'register' ? brief.low === usual.low && brief.high === usual.high : brief[word] === usual[word];
