import { DEGREES_OF, type DegreesOf, type DrawnPattern } from '../../song/schema';
import { withDegrees } from '../pattern-edits';
import { counted, named, rows, TENTHS, type Setting, type SettingContext } from '../../settings/setting';
import { DEGREE_WORDS, paceRows, reachRows } from './shared';

const WINDOWS = [0, 1, 2, 3, 4, 6, 8, 12, 16] as const;
const bars = (count: number): string => (count === 1 ? 'every bar' : `every ${count} bars`);

/** What a drawn pattern says of all its steps. */
export const drawnSettings = (context: SettingContext): readonly Setting<DrawnPattern>[] =>
  rows<DrawnPattern>(
    ...paceRows<DrawnPattern>(),
    [
      'degrees',
      'Notes',
      named(DEGREES_OF, DEGREE_WORDS),
      ({ degrees }) => degrees,
      (of, value) => withDegrees(of, value as DegreesOf, context.key),
    ],
    ...reachRows<DrawnPattern>(context),
    [
      'restart',
      'Starts anew',
      counted(WINDOWS, (count) => (count === 0 ? 'running on' : `anew ${bars(count)}`)),
      ({ restart }) => restart ?? 0,
      (of, value) => ({ ...of, restart: value === 0 ? null : Number(value) }),
    ],
    [
      'redraw',
      'Redrawn by chance',
      counted(WINDOWS, (count) => (count === 0 ? 'never redrawn' : `redrawn ${bars(count)}`)),
      ({ redraw }) => redraw ?? 0,
      (of, value) => ({ ...of, redraw: value === 0 ? null : Number(value) }),
    ],
    [
      'swing',
      'Swing of its steps',
      counted(TENTHS, (share) => (share === 0 ? 'without swing of its own' : `swung by ${share} %`)),
      ({ swing }) => swing,
      (of, value) => ({ ...of, swing: Number(value) }),
    ],
    [
      'sustain',
      'Sustain',
      counted([0, 1], (on) => (on === 0 ? 'as long as drawn' : 'each held to the next')),
      ({ sustain }) => (sustain ? 1 : 0),
      (of, value) => ({ ...of, sustain: value === 1 }),
    ],
  );
