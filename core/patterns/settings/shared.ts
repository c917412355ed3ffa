import { DIRECTIONS, RATES, type DegreesOf, type Direction } from '../../song/schema';
import { range, type MidiNote, type Ticks } from '../../theory/units';
import { counted, named, sayRate, type Row, type SettingContext } from '../../settings/setting';
import { reachBetween } from '../pattern-edits';

/** Words and settings that kinds of patterns share. */

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
