import { VAMP_MAJOR, VAMP_MINOR } from './dialects';
import type { Style } from '../song/style';

export const hipHop: Style = {
  id: 'hip-hop',
  name: 'Hip hop',
  family: 'Hip hop',
  moods: ['dusty', 'heavy', 'laid back'],
  tempo: { low: 76, usual: 88, high: 100 },
  metres: ['4/4'],
  swing: 34,
  scales: ['minor', 'dorian', 'minor-pentatonic'],
  harmony: {
    major: VAMP_MAJOR,
    minor: VAMP_MINOR,
    pace: 0.5,
    colouring: 'sevenths',
    adventure: 22,
    splits: 6,
    loops: 85,
  },
  melody: [
    { name: 'drop', steps: '..xx-x-.-.' },
    { name: 'loop', steps: 'x.xx-..x.-.-.' },
    { name: 'tail', steps: '.xxx-x-.-..xx' },
    { name: 'triplet', steps: 'xxx-x-.-.' },
    { name: 'stagger', steps: '...x-x.x.-.x..-.' },
    { name: 'hook', steps: 'x..x-.x..-x-.' },
  ],
  comping: [
    { name: 'loop', steps: 'X.....x.........', length: 80 },
    { name: 'lazy answer', steps: 'X......x..x.....', length: 60 },
    { name: 'two chops', steps: '....x.......x...', length: 40 },
  ],
  arpeggio: [
    { name: 'music box', order: [0, 2, 1, 3], rate: 2, length: 70 },
    { name: 'falling', order: [3, 2, 1, 0], rate: 2, length: 60 },
  ],
  bass: [
    { name: 'sub hits', steps: 'R.....R...r.....', length: 90 },
    { name: 'walking lazily', steps: 'R.....W.R...A...', length: 84 },
    { name: 'bounce', steps: 'R..R....R.O.....', length: 76 },
  ],
  grooves: [
    {
      name: 'boom bap',
      voices: { kick: 'x......x..x.....', snare: '....X.......X...', 'closed hat': 'x.x.x.x.x.x.x.x.' },
    },
    {
      name: 'late kick',
      voices: { kick: 'x.....x..x......', snare: '....X.......X..2', 'closed hat': 'x.x.xx.xx.x.x.x.' },
    },
  ],
  fills: [
    { name: 'drop', voices: { snare: '............X...' } },
    { name: 'stutter kick', voices: { kick: 'x.xx..x.xx......', snare: '............X.x.' } },
    { name: 'hat run', voices: { 'closed hat': 'xxxxxxxxxxxxxxxx' } },
    { name: 'stutter', voices: { kick: 'x.......x.xx....', snare: '............X.xx' } },
  ],
  feel: {
    late: { bass: 12, comping: 14, melody: 10, drums: 4, arpeggio: 8, picking: 8, pad: 6 },
    drums: { snare: 18, clap: 18, 'closed hat': 8 },
    accents: [4, -8, 2, -6],
  },
  ending: 'stop',
  band: [
    {
      role: 'melody',
      name: 'Hook',
      instrument: 'vibraphone',
      level: 74,
      pan: 8,
      brief: { low: 58, high: 77, busyness: 3, syncopation: 50, breath: 65 },
    },
    {
      role: 'comping',
      name: 'Keys',
      instrument: 'electric-piano',
      level: 62,
      pan: -16,
      brief: { low: 47, high: 66, busyness: 3 },
    },
    {
      role: 'counter',
      name: 'Second hook',
      instrument: 'flute',
      level: 52,
      pan: 20,
      brief: { low: 62, high: 81, busyness: 2 },
    },
    {
      role: 'bass',
      name: 'Bass',
      instrument: 'round-synth-bass',
      level: 86,
      pan: 0,
      brief: { low: 26, high: 46, busyness: 3.5 },
    },
    { role: 'drums', name: 'Drums', instrument: 'electronic-kit', level: 76, pan: 0, brief: { busyness: 12 } },
  ],
};
