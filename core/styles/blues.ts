import { BLUES_MOVES } from './dialects';
import { BLUES_FORMS } from './forms';
import type { Style } from '../song/style';

export const blues: Style = {
  id: 'blues',
  name: 'Blues',
  family: 'Blues',
  moods: ['raw', 'slow', 'wry'],
  tempo: { low: 60, usual: 92, high: 132 },
  metres: ['4/4', '12/8', '6/8'],
  swing: 66,
  scales: ['blues', 'mixolydian', 'minor-pentatonic'],
  harmony: {
    major: BLUES_MOVES,
    minor: BLUES_MOVES,
    pace: 1,
    colouring: 'sevenths',
    adventure: 25,
    splits: 30,
    majorChords: { 1: '1 3 5 b7 9', 4: '1 3 5 b7 9', 5: '1 3 5 b7 9' },
    minorChords: { 1: '1 3 5 b7 9', 4: '1 3 5 b7 9', 5: '1 3 5 b7 9' },
    bars: { verse: 12, chorus: 12, solo: 12 },
    forms: BLUES_FORMS,
  },
  melody: [
    { name: 'call', steps: '.x-xx-x-.' },
    { name: 'triplet call', steps: '.xx-xxx-x-.' },
    { name: 'shuffle', steps: 'x.x-x.x-x-.' },
    { name: 'moan', steps: 'x-..x-x-.' },
    { name: 'late', steps: '.-..x-x.x-x|.-.-.-..x' },
    { name: 'three times', steps: '..x-x.x-x.x-.' },
  ],
  comping: [
    { name: 'shuffle pushes', steps: 'X.....x.X.....x.', length: 70 },
    { name: 'late stabs', steps: '......x.......x.', length: 40 },
    { name: 'held sevenths', steps: 'X.......x...4...', length: 92 },
  ],
  arpeggio: [
    { name: 'box', order: [0, 1, 2, 3, 2, 1], rate: 2, length: 80 },
    { name: 'triplet roll', order: [0, 1, 2], rate: 3, length: 100 },
  ],
  bass: [
    { name: 'shuffle roots', steps: 'R.R.F.F.R.R.F.A.', length: 70 },
    { name: 'walking', steps: 'R...T...F...A...', length: 84 },
    { name: 'boxed', steps: 'R...T...F...O...', length: 80 },
  ],
  grooves: [
    { name: 'shuffle', voices: { kick: 'x.......x.....4.', snare: '....X.......X...', ride: 'x.x.x.x.x.x.x.x.' } },
    {
      name: 'slow four',
      voices: { kick: 'x.......x.x.....', snare: '....X.......X.3.', 'closed hat': 'x.x.x.x.x.x.x.x.' },
    },
  ],
  fills: [
    { name: 'triplet toms', voices: { 'high tom': '........x.x.....', 'low tom': '............x.x.' } },
    { name: 'snare answer', voices: { snare: '........X.x.X.x.' } },
    { name: 'stop time', voices: { kick: 'x...............', snare: 'x...............' } },
    { name: 'triplet-minded toms', voices: { 'high tom': '........x.x.....', 'low tom': '............x.x.' } },
  ],
  feel: { late: { drums: 3, bass: 6, comping: 12, melody: 10, solo: 14 }, drums: { snare: 10 } },
  ending: 'turn',
  band: [
    {
      role: 'melody',
      name: 'Lead guitar',
      instrument: 'driven-guitar',
      level: 72,
      pan: 8,
      brief: { low: 52, high: 76, busyness: 4, syncopation: 55, breath: 70, adventure: 30 },
    },
    {
      role: 'comping',
      name: 'Piano',
      instrument: 'grand-piano',
      level: 62,
      pan: -18,
      brief: { low: 45, high: 64, busyness: 4 },
    },
    {
      role: 'strum',
      name: 'Rhythm guitar',
      instrument: 'clean-guitar',
      level: 56,
      pan: 20,
      brief: { busyness: 4, length: 50 },
    },
    {
      role: 'bass',
      name: 'Bass',
      instrument: 'fingered-bass',
      level: 80,
      pan: 0,
      brief: { low: 28, high: 50, busyness: 5 },
    },
    { role: 'drums', name: 'Drums', instrument: 'standard-kit', level: 70, pan: 0, brief: { busyness: 13 } },
  ],
};
