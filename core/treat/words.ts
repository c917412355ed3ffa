import { listed } from '../song/limits';
import type { StepsOf, Treatment } from '../song/schema';
import { sayRate } from '../settings/setting';
import type { MidiNote, Ticks } from '../theory/units';

/** A chain in words: each treatment says what it makes of the notes, so that the chain reads as a sentence. */

const INTERVALS = [
  'no interval',
  'a semitone',
  'a tone',
  'a minor third',
  'a major third',
  'a fourth',
  'a tritone',
  'a fifth',
  'a minor sixth',
  'a major sixth',
  'a minor seventh',
  'a major seventh',
];

/** “a fifth up”, “2 octaves and a tone down”. */
export function sayInterval(semitones: number): string {
  const [octaves, rest] = [Math.floor(Math.abs(semitones) / 12), Math.abs(semitones) % 12];
  const whole = octaves === 0 ? [] : [octaves === 1 ? 'an octave' : `${octaves} octaves`];
  const words = [...whole, ...(rest === 0 && octaves > 0 ? [] : [INTERVALS[rest] ?? ''])].join(' and ');
  return semitones === 0 ? 'where it was' : `${words} ${semitones > 0 ? 'up' : 'down'}`;
}

/** “once”, “3 times”. */
export const sayEach = (count: number): string => (count === 1 ? 'once' : count === 2 ? 'twice' : `${count} times`);

const LENGTHS: Readonly<Record<string, string>> = {
  halves: 'a half',
  quarters: 'a quarter',
  eighths: 'an eighth',
  sixteenths: 'a sixteenth',
};

/** A length of time: “an eighth”, “a dotted quarter”. */
export function sayLength(ticks: Ticks): string {
  const many = sayRate(ticks);
  return LENGTHS[many] ?? `a ${many.replace(/s$/, '')}`.replace(/^a (eighth)/, 'an $1');
}

export const STEP_WORDS: Readonly<Record<StepsOf, string>> = {
  chord: 'notes of the chord',
  scale: 'notes of the scale',
  semitones: 'semitones',
};

const ORDINALS = ['', '', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'octave'];

/** A note that is added: “the third above”, “2 notes of the chord below”. */
function sayAdded(by: number, of: StepsOf): string {
  const [far, where] = [Math.abs(by), by > 0 ? 'above' : 'below'];
  if (of === 'semitones') return `${sayInterval(far).replace(/ up$/, '')} ${where}`;
  if (of === 'scale' && far < 8) return `the ${ORDINALS[far + 1]} ${where}`;
  const what = of === 'chord' ? 'chord note' : 'scale step';
  return far === 1 ? `the next ${what} ${where}` : `${far} ${what}s ${where}`;
}

function sayTime(times: number, over: number): string {
  if (times === over) return 'at its own pace';
  if (times === 2 * over) return 'in half time';
  if (over === 2 * times) return 'in double time';
  return times > over
    ? `${times}${over === 1 ? '' : `/${over}`} times as slow`
    : `${over}${times === 1 ? '' : `/${times}`} times as fast`;
}

function sayStray({ chance, of, up, down }: Extract<Treatment, { does: 'stray' }>): string {
  const far =
    up === down ? `${up} either way` : listed([...(up > 0 ? [`${up} up`] : []), ...(down > 0 ? [`${down} down`] : [])]);
  const unit = of === 'semitones' ? 'semitones' : of === 'chord' ? 'chord notes' : 'scale steps';
  return `straying in ${chance} % by ${far === '' ? 'nothing' : far} in ${unit} at most`;
}

function sayLoudness({ way, low, high, percent }: Extract<Treatment, { does: 'loudness' }>): string {
  if (way === 'scale') return `${percent} % as loud`;
  return way === 'set' ? `at loudness ${low}` : `at a loudness from ${low} to ${high} by chance`;
}

/** What a treatment is called where one is picked. */
export const TREATMENT_NAMES: Readonly<Record<Treatment['does'], string>> = {
  octave: 'Octaves up or down',
  transpose: 'Higher or lower',
  stack: 'More notes to each',
  arpeggiate: 'Arpeggio',
  strum: 'Strum',
  echo: 'Echo',
  delay: 'Later',
  stray: 'Pitches by chance',
  snap: 'Snap to chord or scale',
  invert: 'Upside down',
  reverse: 'Backwards',
  time: 'Half and double time',
  length: 'Shorter or longer notes',
  legato: 'Held to the next',
  thin: 'Thinned by chance',
  loudness: 'Loudness',
  humanise: 'Played loosely',
  voice: 'One voice alone',
};

function sayWhat(treatment: Treatment): string {
  switch (treatment.does) {
    case 'octave':
      return sayInterval(12 * treatment.by);
    case 'transpose':
      return sayInterval(treatment.by);
    case 'stack':
      return `with ${listed(treatment.steps.map((by) => sayAdded(by, treatment.of)))}`;
    case 'arpeggiate': {
      const order = { up: 'up', down: 'down', 'to and fro': 'to and fro', 'by chance': 'by chance' }[treatment.order];
      return `arpeggiated ${order} in ${sayRate(treatment.rate)}`;
    }
    case 'strum':
      return { up: 'strummed', down: 'strummed downwards', 'to and fro': 'strummed up and down' }[treatment.way];
    case 'echo':
      return `echoed ${sayEach(treatment.times)}, ${sayLength(treatment.gap)} apart`;
    case 'delay':
      return `${sayLength(treatment.by)} later`;
    case 'stray':
      return sayStray(treatment);
    case 'snap':
      return `snapped to the ${treatment.to}`;
    case 'invert':
      return `upside down around its ${treatment.around === 'first' ? 'first note' : 'middle'}`;
    case 'reverse':
      return 'backwards';
    case 'time':
      return sayTime(treatment.times, treatment.over);
    case 'length':
      return `${treatment.percent} % as long`;
    case 'legato':
      return 'held to the next';
    case 'thin':
      return `thinned to ${treatment.chance} %`;
    case 'loudness':
      return sayLoudness(treatment);
    case 'humanise':
      return `played loosely by ${treatment.amount} %`;
    case 'voice':
      return { lowest: 'the lowest alone', middle: 'a middle voice alone', highest: 'the highest alone' }[
        treatment.which
      ];
  }
}

/** What a treatment makes of notes, and of which: “an octave up, for notes from C4 to G9 only”. */
export function sayTreatment(treatment: Treatment, sayPitch: (pitch: MidiNote) => string): string {
  const { only } = treatment;
  if (!only) return sayWhat(treatment);
  const whom =
    only.by === 'pitch'
      ? `notes from ${sayPitch(only.low)} to ${sayPitch(only.high)}`
      : `notes of loudness ${only.low} to ${only.high}`;
  return `${sayWhat(treatment)}, for ${whom} only`;
}
