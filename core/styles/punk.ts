import { PLAIN_MAJOR, PLAIN_MINOR } from './dialects';
import type { Style } from '../song/style';

export const punk: Style = {
  id: 'punk',
  name: 'Punk',
  family: 'Rock',
  moods: ['fast', 'angry', 'glad'],
  tempo: { low: 150, usual: 176, high: 210 },
  metres: ['4/4'],
  swing: 0,
  scales: ['major', 'minor', 'mixolydian'],
  harmony: {
    major: PLAIN_MAJOR,
    minor: PLAIN_MINOR,
    pace: 1,
    colouring: 'triads',
    adventure: 6,
    splits: 20,
    loops: 55,
  },
  melody: [
    { name: 'shout', steps: 'xx-xx-x-x' },
    { name: 'hammer', steps: 'xx-xx-xx-xx' },
    { name: 'stomp', steps: 'x-x-xx-xx' },
    { name: 'three words', steps: 'x-x-x-.' },
    { name: 'chant', steps: 'x-x-x-xx' },
    { name: 'march', steps: 'x-xx-x-x' },
  ],
  comping: [
    { name: 'eighths', steps: 'x.x.x.x.x.x.x.x.', length: 80 },
    { name: 'down strokes', steps: 'X.x.X.x.X.x.X.x.', length: 70 },
    { name: 'stops', steps: 'X.......X.......', length: 60 },
  ],
  arpeggio: [
    { name: 'octave drive', order: [0, 3], rate: 2, length: 80 },
    { name: 'up and down', order: [0, 1, 2, 1], rate: 2, length: 80 },
  ],
  bass: [
    { name: 'eighth roots', steps: 'R.R.R.R.R.R.R.R.', length: 86 },
    { name: 'roots and a run', steps: 'R.R.R.R.R.R.W.A.', length: 86 },
    { name: 'octaves', steps: 'R.R.O.R.R.R.O.A.', length: 84 },
  ],
  grooves: [
    {
      name: 'fast two',
      voices: { kick: 'x.....x.x.....x.', snare: '....X.......X...', 'closed hat': 'x.x.x.x.x.x.x.x.' },
    },
    { name: 'skip beat', voices: { kick: 'x...x...x...x...', snare: '..X...X...X...X.', ride: 'x...x...x...x...' } },
  ],
  fills: [
    { name: 'snare burst', voices: { snare: 'xxxxxxxxxxxxxxxx' } },
    {
      name: 'four toms',
      voices: { 'high tom': 'x.x.............', 'middle tom': '....x.x.........', 'low tom': '........x.x.x.x.' },
    },
    { name: 'crash stops', voices: { crash: 'x.......x.......', kick: 'x.......x.......' } },
    {
      name: 'toms down fast',
      voices: { 'high tom': '........xx......', 'middle tom': '..........xx....', 'low tom': '............xxxx' },
    },
  ],
  strums: [
    { name: 'all down', steps: 'D.D.D.D.D.D.D.D.' },
    { name: 'down and a push', steps: 'D.D.D.D.D.D.DUDU' },
  ],
  feel: { late: { drums: -2, bass: -4, strum: -6, comping: -6 } },
  ending: 'stop',
  band: [
    {
      role: 'melody',
      name: 'Lead',
      instrument: 'driven-guitar',
      level: 70,
      pan: 10,
      brief: { low: 57, high: 79, busyness: 5, syncopation: 15 },
    },
    {
      role: 'strum',
      name: 'Guitar',
      instrument: 'driven-guitar',
      level: 64,
      pan: -22,
      brief: { low: 40, high: 72, busyness: 8, voices: 4 },
    },
    {
      role: 'bass',
      name: 'Bass',
      instrument: 'picked-bass',
      level: 80,
      pan: 0,
      brief: { low: 28, high: 48, busyness: 8 },
    },
    { role: 'drums', name: 'Drums', instrument: 'standard-kit', level: 76, pan: 0, brief: { busyness: 16 } },
  ],
};
