import { FIFTHS_MAJOR, FIFTHS_MINOR } from './dialects';
import type { Style } from '../song/style';

export const samba: Style = {
  id: 'samba',
  name: 'Samba',
  family: 'Latin',
  moods: ['glad', 'rolling', 'bright'],
  tempo: { low: 88, usual: 104, high: 126 },
  metres: ['2/4', '4/4'],
  swing: 6,
  scales: ['major', 'minor', 'dorian'],
  harmony: {
    major: FIFTHS_MAJOR,
    minor: FIFTHS_MINOR,
    pace: 1,
    colouring: 'sevenths',
    adventure: 28,
    splits: 20,
    leadingNote: true,
  },
  melody: [
    { name: 'telling', steps: 'x.xx-.xx.' },
    { name: 'skip', steps: '.x.x-x.x.' },
    { name: 'three', steps: 'x..x-.x.x' },
    { name: 'run', steps: '.xx.-x.xx' },
    { name: 'call', steps: 'x-.x.x' },
    { name: 'street', steps: 'x.x.-.x.x|.x.x-.x..' },
  ],
  comping: [
    { name: 'samba comping', steps: 'X..x..x.', length: 50 },
    { name: 'telegraph', steps: 'x.xx.x.x', length: 40 },
    { name: 'held', steps: 'X.....x.', length: 86 },
  ],
  arpeggio: [
    { name: 'cascade', order: [3, 2, 1, 0], rate: 4, length: 80 },
    { name: 'rolling', order: [0, 2, 1, 3], rate: 4, length: 80 },
  ],
  bass: [
    { name: 'heartbeat', steps: 'R..fF..r', length: 70 },
    { name: 'push', steps: 'R..fF.A.', length: 72 },
    { name: 'two', steps: 'R...F...', length: 80 },
  ],
  grooves: [
    { name: 'street', voices: { kick: 'x..xX..x', shaker: 'x3x3x3x3', tambourine: 'x.xx.xxx', stick: 'x..x..x.' } },
    { name: 'light', voices: { kick: 'x..xX..x', 'closed hat': 'x.xxx.xx', stick: '..x..x.x' } },
  ],
  fills: [
    { name: 'snare call', voices: { snare: 'x.xxx.xx' } },
    { name: 'whistle stop', voices: { kick: 'x.......', stick: 'x.x.xx.x' } },
    { name: 'drums down', voices: { 'high tom': 'x.x.....', 'low tom': '....x.xx' } },
    { name: 'snare march', voices: { snare: '3x3xxxXX' } },
  ],
  percussion: [
    { name: 'shakers and bells', voices: { shaker: 'X3x3X3x3', cowbell: 'x.xx.x.x' } },
    { name: 'frame drum', voices: { 'low conga': '....X...', 'open conga': 'x.....xx', cabasa: 'xxxxxxxx' } },
  ],
  feel: {
    late: { percussion: 0, drums: 0, comping: -3, strum: -3 },
    drums: { shaker: -4, tambourine: -6 },
    accents: [6, -8, -4, 8],
  },
  ending: 'stop',
  band: [
    {
      role: 'melody',
      name: 'Flute',
      instrument: 'flute',
      level: 74,
      pan: 8,
      brief: { low: 62, high: 84, busyness: 4, syncopation: 60 },
    },
    { role: 'picking', name: 'Guitar', instrument: 'nylon-guitar', level: 64, pan: -18, brief: { busyness: 5 } },
    {
      role: 'comping',
      name: 'Piano',
      instrument: 'grand-piano',
      level: 54,
      pan: 18,
      brief: { low: 51, high: 70, busyness: 3 },
    },
    {
      role: 'bass',
      name: 'Bass',
      instrument: 'acoustic-bass',
      level: 80,
      pan: 0,
      brief: { low: 28, high: 50, busyness: 3 },
    },
    { role: 'drums', name: 'Drums', instrument: 'standard-kit', level: 62, pan: 0, brief: { busyness: 10 } },
    { role: 'percussion', name: 'Percussion', instrument: 'standard-kit', level: 90, pan: -10, brief: { busyness: 8 } },
  ],
};
