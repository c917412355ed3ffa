import { PLAIN_MAJOR, PLAIN_MINOR } from './dialects';
import type { Style } from '../song/style';

export const reggae: Style = {
  id: 'reggae',
  name: 'Reggae',
  family: 'Island',
  moods: ['easy', 'sunny', 'heavy'],
  tempo: { low: 62, usual: 76, high: 92 },
  metres: ['4/4'],
  swing: 18,
  scales: ['major', 'minor', 'dorian', 'mixolydian'],
  harmony: {
    major: PLAIN_MAJOR,
    minor: PLAIN_MINOR,
    pace: 0.5,
    colouring: 'triads',
    adventure: 8,
    splits: 10,
    loops: 75,
  },
  melody: [
    { name: 'lazy', steps: '.xx.-x-.-.' },
    { name: 'triplet', steps: '.-xxx-x-.' },
    { name: 'easy', steps: '.x-.x-x-.' },
    { name: 'sway', steps: 'x..x-x-.-..xx' },
    { name: 'one drop', steps: '.-.x-x.x.-x' },
    { name: 'chant', steps: 'x.x.-x.x.-x-.' },
  ],
  comping: [
    { name: 'skank', steps: '....X.......X...', length: 22 },
    { name: 'off-beat skank', steps: '..X...X...X...X.', length: 20 },
    { name: 'bubble', steps: '..x.x.x...x.x.x.', length: 26 },
  ],
  arpeggio: [
    { name: 'sparse drops', order: [0, 2, 1], rate: 1, length: 70 },
    { name: 'echo', order: [2, 1, 0], rate: 2, length: 50 },
  ],
  bass: [
    { name: 'one drop', steps: '....R...F.R.....', length: 76 },
    { name: 'melodic', steps: 'R..R..F...W.R...', length: 80 },
    { name: 'heavy', steps: 'R.....R...F...A.', length: 82 },
  ],
  grooves: [
    {
      name: 'one drop',
      voices: { kick: '........X.......', stick: '........x.......', 'closed hat': 'x.x.x.x.x.x.x.x.' },
    },
    {
      name: 'steppers',
      voices: { kick: 'x...x...x...x...', stick: '........X.......', 'closed hat': 'x.x.x.x.x.x.x.x4' },
    },
  ],
  fills: [
    { name: 'rim roll', voices: { stick: 'x.xx.xx.x.......', crash: '............x...' } },
    { name: 'tom call', voices: { 'high tom': 'x..x..x.........', 'low tom': '........x..x....' } },
    { name: 'drop out', voices: { kick: 'x...............' } },
    { name: 'rim run', voices: { stick: '........x.xxx.x.', kick: 'x...............' } },
  ],
  strums: [
    { name: 'two chops', steps: '....d.......d...' },
    { name: 'off-beat chops', steps: '..d...d...d...d.' },
  ],
  feel: { late: { bass: 14, comping: 9, strum: 9, drums: 6 }, drums: { stick: 10 }, accents: [-4, -6, 8, -2] },
  ending: 'stop',
  band: [
    {
      role: 'melody',
      name: 'Melody',
      instrument: 'clarinet',
      level: 72,
      pan: 8,
      brief: { low: 55, high: 76, busyness: 4, syncopation: 45 },
    },
    {
      role: 'strum',
      name: 'Skank',
      instrument: 'muted-guitar',
      level: 66,
      pan: -22,
      brief: { low: 45, high: 82, busyness: 2, length: 10, voices: 4 },
    },
    {
      role: 'comping',
      name: 'Organ',
      instrument: 'drawbar-organ',
      level: 56,
      pan: 20,
      brief: { low: 45, high: 64, busyness: 4, length: 20 },
    },
    {
      role: 'bass',
      name: 'Bass',
      instrument: 'fingered-bass',
      level: 88,
      pan: 0,
      brief: { low: 28, high: 48, busyness: 4, syncopation: 45 },
    },
    { role: 'drums', name: 'Drums', instrument: 'standard-kit', level: 72, pan: 0, brief: { busyness: 10 } },
  ],
};
