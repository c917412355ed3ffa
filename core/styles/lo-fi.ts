import { FIFTHS_MAJOR, FIFTHS_MINOR } from './dialects';
import type { Style } from '../song/style';

export const loFi: Style = {
  id: 'lo-fi',
  name: 'Lo-fi',
  family: 'Hip hop',
  moods: ['sleepy', 'soft', 'rainy'],
  tempo: { low: 66, usual: 78, high: 90 },
  metres: ['4/4', '3/4'],
  swing: 40,
  scales: ['major', 'minor', 'dorian'],
  harmony: {
    major: FIFTHS_MAJOR,
    minor: FIFTHS_MINOR,
    pace: 1,
    colouring: 'extended',
    adventure: 28,
    splits: 20,
    loops: 70,
    leadingNote: true,
  },
  melody: [
    { name: 'late', steps: '..x-x.x-.-.' },
    { name: 'drift', steps: 'x..x-.-.x-.' },
    { name: 'sigh', steps: '.xx-x-.-..x' },
    { name: 'spill', steps: '..xx-.x..-.-.' },
    { name: 'rainy', steps: 'x-..x-x-.|.-.-..x-.' },
    { name: 'half a thought', steps: '.x-..x-.-.' },
  ],
  comping: [
    { name: 'held and brushed', steps: 'X.......x...4...', length: 90 },
    { name: 'lazy pushes', steps: 'X.....x.....5...', length: 80 },
    { name: 'soft halves', steps: 'X.......x.......', length: 96 },
  ],
  arpeggio: [
    { name: 'dreaming', order: [0, 2, 3, 1], rate: 2, length: 90 },
    { name: 'rain', order: [3, 2, 1, 2], rate: 2, length: 80 },
  ],
  bass: [
    { name: 'round', steps: 'R.......F.....a.', length: 90 },
    { name: 'late roots', steps: 'R.....R...F.....', length: 84 },
    { name: 'sliding', steps: 'R...........W.A.', length: 92 },
  ],
  grooves: [
    {
      name: 'soft pocket',
      voices: { kick: 'x......x..x.....', stick: '....x.......x...', 'closed hat': 'x.x.x.x.x.x.x.5.' },
    },
    {
      name: 'brushed loop',
      voices: { kick: 'x.........x.....', snare: '....x..2....x...', shaker: '..x...x...x...x.' },
    },
  ],
  fills: [
    { name: 'one ghost', voices: { snare: '............x..2' } },
    { name: 'hat skip', voices: { 'closed hat': 'x.x.xx.xx.......' } },
    { name: 'kick drop', voices: { kick: 'x......x........' } },
    { name: 'dropped beat', voices: { snare: '............5.x.', kick: 'x...............' } },
  ],
  feel: {
    late: { drums: 10, bass: 14, comping: 18, melody: 12, arpeggio: 12, picking: 12, strum: 14, pad: 8 },
    drums: { snare: 20, 'closed hat': 14 },
  },
  ending: 'rolled',
  band: [
    {
      role: 'melody',
      name: 'Melody',
      instrument: 'vibraphone',
      level: 68,
      pan: 10,
      brief: { low: 60, high: 79, busyness: 3, syncopation: 40, breath: 65, adventure: 30 },
    },
    {
      role: 'comping',
      name: 'Keys',
      instrument: 'electric-piano',
      level: 64,
      pan: -14,
      brief: { low: 49, high: 68, busyness: 2.5 },
    },
    { role: 'picking', name: 'Guitar', instrument: 'nylon-guitar', level: 52, pan: 20, brief: { busyness: 6 } },
    {
      role: 'bass',
      name: 'Bass',
      instrument: 'fingered-bass',
      level: 76,
      pan: 0,
      brief: { low: 28, high: 48, busyness: 2.5 },
    },
    { role: 'drums', name: 'Drums', instrument: 'brush-kit', level: 62, pan: 0, brief: { busyness: 10 } },
  ],
};
