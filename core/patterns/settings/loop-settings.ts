import { LOOP_DEGREES, LOOP_STARTS, MEETINGS, type Loop, type Loops, type Meeting } from '../../song/schema';
import {
  counted,
  named,
  rows,
  TWENTIETHS,
  VELOCITIES,
  type Setting,
  type SettingContext,
} from '../../settings/setting';
import { DEGREE_WORDS, paceRows, reachRows } from './shared';

const MEETING_WORDS: Readonly<Record<Meeting, string>> = {
  all: 'all sounding where they meet',
  tied: 'tied where they meet',
  doubled: 'doubled where they meet',
  one: 'one of them where they meet',
};

const START_WORDS: Readonly<Record<Loops['starts'], string>> = {
  never: 'running on',
  section: 'anew with the section',
  chord: 'anew with each chord',
  played: 'anew where it was played',
};

/** What interlocking loops have in common. */
export const loopsSettings = (context: SettingContext): readonly Setting<Loops>[] =>
  rows<Loops>(
    [
      'degrees',
      'Notes',
      named(LOOP_DEGREES, DEGREE_WORDS),
      ({ degrees }) => degrees,
      (of, value) => ({ ...of, degrees: value as Loops['degrees'] }),
    ],
    ...reachRows<Loops>(context),
    [
      'starts',
      'Start anew',
      named(LOOP_STARTS, START_WORDS),
      ({ starts }) => starts,
      (of, value) => ({ ...of, starts: value as Loops['starts'] }),
    ],
    [
      'meeting',
      'Where they meet',
      named(MEETINGS, MEETING_WORDS),
      ({ meeting }) => meeting,
      (of, value) => ({ ...of, meeting: value as Meeting }),
    ],
    [
      'length',
      'Length of notes',
      counted([10, 25, 50, 75, 100, 150, 200, 300, 400], (share) => `${share} % of a step long`),
      ({ length }) => length,
      (of, value) => ({ ...of, length: Number(value) }),
    ],
  );

/** What one of the loops says of its steps. */
export const loopSettings: readonly Setting<Loop>[] = rows<Loop>(
  ...paceRows<Loop>(),
  [
    'octave',
    'Octave',
    counted([-3, -2, -1, 0, 1, 2, 3], (octave) =>
      octave === 0 ? 'as it stands' : `${Math.abs(octave)} ${octave > 0 ? 'up' : 'down'}`,
    ),
    ({ octave }) => octave,
    (of, value) => ({ ...of, octave: Number(value) }),
  ],
  [
    'chance',
    'Chance',
    counted(TWENTIETHS, (share) => (share === 100 ? 'always' : `in ${share} %`)),
    ({ chance }) => chance,
    (of, value) => ({ ...of, chance: Number(value) }),
  ],
  [
    'loudness',
    'Loudness',
    counted(VELOCITIES, (velocity) => `loudness ${velocity}`),
    ({ loudness }) => loudness,
    (of, value) => ({ ...of, loudness: Number(value) }),
  ],
);
