import { WORD_LABELS, type BriefWord } from '../song/brief-words';
import type { Lean, LeanMoves, LeanSetting } from '../song/schema';

/** A word that leans. */
export interface Leaning {
  readonly name: string;
  readonly moves: LeanMoves;
}

/** Words that come with Fendro, each with its opposite. */
const PAIRS: readonly (readonly [name: string, opposite: string, moves: LeanMoves])[] = [
  [
    'brighter',
    'darker',
    [
      { setting: 'register', by: 2 },
      { setting: 'loudness', by: 1 },
      { setting: 'length', by: -1 },
    ],
  ],
  [
    'busier',
    'calmer',
    [
      { setting: 'busyness', by: 2 },
      { setting: 'breath', by: -1 },
      { setting: 'rolls', by: 1 },
      { setting: 'dynamics', by: 1 },
    ],
  ],
  [
    'looser',
    'tighter',
    [
      { setting: 'humanise', by: 2 },
      { setting: 'syncopation', by: 1 },
      { setting: 'anchoring', by: -1 },
      { setting: 'swing', by: 2 },
    ],
  ],
  [
    'bolder',
    'plainer',
    [
      { setting: 'adventure', by: 2 },
      { setting: 'stride', by: 2 },
      { setting: 'recall', by: -1 },
      { setting: 'slide', by: 1 },
      { setting: 'colouring', by: 1 },
    ],
  ],
  [
    'stronger',
    'softer',
    [
      { setting: 'loudness', by: 2 },
      { setting: 'dynamics', by: 1 },
      { setting: 'voices', by: 1 },
    ],
  ],
  [
    'smoother',
    'crisper',
    [
      { setting: 'length', by: 2 },
      { setting: 'breath', by: -1 },
      { setting: 'stride', by: -1 },
    ],
  ],
  ['quicker', 'slower', [{ setting: 'pace', by: 1 }]],
];

const opposed = (moves: LeanMoves): LeanMoves => moves.map(({ setting, by }) => ({ setting, by: -by }));

export const LEANINGS: readonly Leaning[] = PAIRS.flatMap(([name, opposite, moves]) => [
  { name, moves },
  { name: opposite, moves: opposed(moves) },
]);

const OTHER_LABELS: Readonly<Record<Exclude<LeanSetting, BriefWord>, string>> = {
  pace: 'Pace',
  slide: 'Slides',
  swing: 'Swing',
  colouring: 'Colouring',
};

/** What a setting is called where it leans. */
export const leanLabel = (setting: LeanSetting): string =>
  setting in OTHER_LABELS
    ? OTHER_LABELS[setting as keyof typeof OTHER_LABELS]
    : WORD_LABELS[setting as BriefWord].label;

const inBars = (bars: number): string => (bars === 1 ? 'a bar' : `${bars} bars`);

/** “busier over 8 bars”, “darker by chance, every 2 bars in 50 %”. */
export function sayLean(lean: Lean): string {
  const { name, bars } = lean;
  if (lean.goes === 'by chance') {
    const every = bars === 1 ? 'every bar' : `every ${bars} bars`;
    return `${name} by chance, ${every} in ${lean.chance} %`;
  }
  return `${name} over ${inBars(bars)}${lean.then === 'comes back' ? ' and back' : ''}`;
}
