import {
  ARPEGGIO_ORDERS,
  INVERT_AROUND,
  LOUDNESS_WAYS,
  MOST_FURTHER,
  RATES,
  STEPS_OF,
  STRUM_WAYS,
  VOICES,
  type Treatment,
  type TreatmentName,
} from '../song/schema';
import {
  bound,
  counted,
  named,
  rows,
  TENTHS,
  TWENTIETHS,
  VELOCITIES,
  type BoundSetting,
  type Row,
} from '../settings/setting';
import { range, type MidiNote } from '../theory/units';
import { sayEach, sayInterval, sayLength, STEP_WORDS } from './words';

/** What can be set of each treatment, in the order in which one asks; the first is what a word of the sentence steps. */

type Of<Name extends TreatmentName> = Extract<Treatment, { readonly does: Name }>;

/** A number, said in words of its own. */
const number = <T>(
  id: string & keyof T,
  label: string,
  values: readonly number[],
  words: (value: number) => string,
): Row<T> => [
  id,
  label,
  counted(values, words),
  (of) => of[id] as number,
  (of, value) => ({ ...of, [id]: Number(value) }),
];

/** One of several names. */
const choice = <T, Name extends string>(
  id: string & keyof T,
  label: string,
  names: readonly Name[],
  words: Readonly<Record<Name, string>>,
): Row<T> => [id, label, named(names, words), (of) => of[id] as string, (of, value) => ({ ...of, [id]: value })];

const STEPS = range(49)
  .map((step) => step - 24)
  .filter((step) => step !== 0);
const percent = (value: number): string => `${value} %`;
const rate = <T>(id: string & keyof T, label: string): Row<T> => number(id, label, RATES, sayLength);
const stepsOf = <T>(): Row<T> => choice('of' as string & keyof T, 'Counted in', STEPS_OF, STEP_WORDS);

/** Which notes are added: one of them, or none in this place. */
const added = (place: number): Row<Of<'stack'>> => [
  `added-${place}`,
  `Note ${place + 1}`,
  counted(place === 0 ? STEPS : [0, ...STEPS].sort((a, b) => a - b), (by) =>
    by === 0 ? 'none' : by > 0 ? `${by} up` : `${-by} down`,
  ),
  ({ steps }) => steps[place] ?? 0,
  (of, value) => {
    const steps = [...of.steps];
    steps[place] = Number(value);
    // Places before it that were left out are none.
    return { ...of, steps: steps.filter((by) => by !== 0) };
  },
];

const SETTINGS: { readonly [Name in TreatmentName]: readonly Row<Of<Name>>[] } = {
  octave: [number('by', 'Octaves', [-4, -3, -2, -1, 1, 2, 3, 4], (by) => sayInterval(12 * by))],
  transpose: [number('by', 'Interval', STEPS, sayInterval)],
  stack: [added(0), added(1), added(2), stepsOf()],
  arpeggiate: [
    rate('rate', 'Length of a step'),
    choice('order', 'Order', ARPEGGIO_ORDERS, {
      up: 'up',
      down: 'down',
      'to and fro': 'to and fro',
      'by chance': 'by chance',
    }),
    number(
      'repeats',
      'Each note',
      range(8).map((time) => time + 1),
      (count) => (count === 1 ? 'once' : `${count} times`),
    ),
    number('further', 'Goes on', range(MOST_FURTHER + 1), (count) => (count === 0 ? 'not at all' : sayEach(count))),
    number(
      'distance',
      'Each time higher by',
      range(12).map((by) => by + 1),
      (by) => sayInterval(by).replace(' up', ''),
    ),
  ],
  strum: [
    number('spread', 'Spread', [15, 30, 45, 60, 90, 120, 180, 240, 360, 480], (ticks) => `${ticks} ticks`),
    choice('way', 'Way', STRUM_WAYS, { up: 'upwards', down: 'downwards', 'to and fro': 'up and down in turn' }),
  ],
  echo: [
    number(
      'times',
      'Times',
      range(8).map((time) => time + 1),
      sayEach,
    ),
    rate('gap', 'Apart by'),
    number('fade', 'Softer each time by', TWENTIETHS, percent),
  ],
  delay: [rate('by', 'Later by')],
  stray: [
    number('chance', 'How often', TWENTIETHS, percent),
    number('up', 'Up by at most', range(25), String),
    number('down', 'Down by at most', range(25), String),
    stepsOf(),
  ],
  snap: [choice('to', 'To', ['chord', 'scale'], { chord: 'notes of the chord', scale: 'notes of the scale' })],
  invert: [choice('around', 'Around', INVERT_AROUND, { first: 'its first note', middle: 'its middle' }), stepsOf()],
  reverse: [],
  time: [
    [
      'times',
      'As long',
      [
        { value: '1/4', text: 'a quarter as long' },
        { value: '1/3', text: 'a third as long' },
        { value: '1/2', text: 'half as long' },
        { value: '2/3', text: 'two thirds as long' },
        { value: '3/4', text: 'three quarters as long' },
        { value: '1/1', text: 'as long' },
        { value: '4/3', text: 'four thirds as long' },
        { value: '3/2', text: 'one and a half times as long' },
        { value: '2/1', text: 'twice as long' },
        { value: '3/1', text: 'three times as long' },
        { value: '4/1', text: 'four times as long' },
      ],
      ({ times, over }) => reduced(times, over),
      (of, value) => {
        const [times = 1, over = 1] = String(value).split('/').map(Number);
        return { ...of, times, over };
      },
    ],
  ],
  length: [number('percent', 'Length', [5, 10, 25, 50, 75, 90, 100, 125, 150, 200, 300, 400], percent)],
  legato: [],
  thin: [number('chance', 'How many stay', TWENTIETHS, percent)],
  loudness: [
    number('percent', 'Scaled to', [5, 10, ...range(29).map((step) => 20 + 10 * step)], percent),
    number('low', 'Set to, or from', VELOCITIES, String),
    number('high', 'To', VELOCITIES, String),
    choice('way', 'Loudness is', LOUDNESS_WAYS, { scale: 'scaled', set: 'set', draw: 'drawn by chance' }),
  ],
  humanise: [number('amount', 'How loosely', TENTHS, percent)],
  voice: [choice('which', 'Which', VOICES, { lowest: 'the lowest', middle: 'the middle', highest: 'the highest' })],
};

function reduced(times: number, over: number): string {
  const common = times % over === 0 ? over : over % times === 0 ? times : times === 4 && over === 2 ? 2 : 1;
  return `${times / common}/${over / common}`;
}

/** Settings of the loudness that mean nothing as it is now. */
const isSilent = (treatment: Treatment, id: string): boolean =>
  treatment.does === 'loudness' &&
  ((id === 'percent' && treatment.way !== 'scale') ||
    (id === 'low' && treatment.way === 'scale') ||
    (id === 'high' && treatment.way !== 'draw'));

const ALL_NOTES = 'all';
const WHOM = [ALL_NOTES, 'pitch', 'loudness'] as const;
const WHOM_WORDS = { all: 'all notes', pitch: 'some pitches only', loudness: 'some loudness only' };
/** What a treatment is for when it begins to be for some notes only: the high ones, or the loud ones. */
const FIRST_ONLY = { pitch: { low: 60, high: 127 }, loudness: { low: 80, high: 127 } } as const;

const without = ({ only: _only, ...treatment }: Treatment): Treatment => treatment;

/** For which notes a treatment is; moving one end past the other moves both. */
function onlyRows({ only }: Treatment, sayPitch: (pitch: MidiNote) => string): readonly Row<Treatment>[] {
  const whom: Row<Treatment> = [
    'only',
    'For',
    named(WHOM, WHOM_WORDS),
    (of) => of.only?.by ?? ALL_NOTES,
    (of, value) =>
      value === 'pitch' || value === 'loudness' ? { ...of, only: { by: value, ...FIRST_ONLY[value] } } : without(of),
  ];
  if (!only) return [whom];
  const ends = only.by === 'pitch' ? counted(range(128), sayPitch) : counted(VELOCITIES, String);
  const end = (id: 'low' | 'high', label: string): Row<Treatment> => [
    `only-${id}`,
    label,
    ends,
    (of) => of.only?.[id] ?? 0,
    (of, value) => {
      const to = Number(value);
      const [low, high] = id === 'low' ? [to, Math.max(to, only.high)] : [Math.min(to, only.low), to];
      return { ...of, only: { ...only, low, high } };
    },
  ];
  return [whom, end('low', 'From'), end('high', 'Up to')];
}

/**
 * All that can be set of a treatment, in order; what is stepped first.
 *
 * @param sayPitch  how pitches are said
 */
export function settingsOf(
  treatment: Treatment,
  sayPitch: (pitch: MidiNote) => string,
): readonly BoundSetting<Treatment>[] {
  const own = SETTINGS[treatment.does] as unknown as readonly Row<Treatment>[];
  const all = rows<Treatment>(...own, ...onlyRows(treatment, sayPitch));
  return bound(all, treatment).filter(({ id }) => !isSilent(treatment, id));
}
