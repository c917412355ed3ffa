import type { Style } from '../song/style';

export const bossaNova: Style = {
  id: 'bossa-nova',
  name: 'Bossa nova',
  family: 'Latin',
  moods: ['cool', 'tender', 'breezy'],
  tempo: { low: 100, usual: 128, high: 160 },
  metres: ['4/4', '2/4', '3/4'],
  swing: 0,
  scales: ['major', 'minor', 'dorian', 'lydian'],
  harmony: {
    major: {
      1: { 2: 36, 6: 26, 4: 20, 3: 18 },
      2: { 5: 74, 4: 12, 3: 14 },
      3: { 6: 66, 2: 20, 4: 14 },
      4: { 5: 34, 3: 26, 2: 24, 1: 16 },
      5: { 1: 66, 3: 20, 6: 14 },
      6: { 2: 66, 5: 16, 4: 18 },
      7: { 3: 60, 1: 40 },
    },
    minor: {
      1: { 4: 36, 2: 28, 6: 24, 7: 12 },
      2: { 5: 84, 1: 16 },
      3: { 6: 60, 2: 40 },
      4: { 7: 34, 5: 34, 1: 32 },
      5: { 1: 80, 6: 20 },
      6: { 2: 52, 5: 48 },
      7: { 3: 70, 1: 30 },
    },
    pace: 1,
    colouring: 'extended',
    adventure: 38,
    splits: 40,
  },
  comping: [
    { name: 'two-bar clave', steps: 'X..x..x...x..x..|..x...x..x..x...', length: 62 },
    { name: 'thumb-light strokes', steps: 'x..x..x...x.....|x..x..x...x..6..', length: 58 },
    { name: 'long and short', steps: 'X.....x..x....x.', length: 74 },
  ],
  arpeggio: [
    { name: 'plucked fourths', order: [0, 2, 1, 3, 2, 1], rate: 2, length: 85 },
    { name: 'falling ripple', order: [3, 2, 1, 0], rate: 2, length: 90 },
  ],
  bass: [
    { name: 'dotted root and fifth', steps: 'R.....F.F.....R.', length: 86 },
    { name: 'root, fifth below', steps: 'R.....r.F.....a.', length: 86 },
    { name: 'gentle half notes', steps: 'R.......F.......', length: 92 },
  ],
  grooves: [
    {
      name: 'cross-stick clave',
      voices: {
        kick: 'x.....xxx.....xx',
        stick: 'x..x..x...x..x..|..x...x..x..x...',
        'closed hat': 'x.x.x.x.x.x.x.x.',
      },
    },
    {
      name: 'shaker breeze',
      voices: { kick: 'x.....x.x.....x.', shaker: 'x3X3x3X3x3X3x3X3', stick: '...x..x...x..x..' },
    },
    {
      name: 'brushed ride',
      voices: {
        kick: 'x.....6.x.....6.',
        ride: 'x.x3x.x.x.x3x.x.',
        stick: '...x..x.....x...',
        'pedal hat': '....x.......x...',
      },
    },
  ],
  fills: [
    { name: 'stick flourish', voices: { stick: '........x.xx.xx.' } },
    {
      name: 'soft toms',
      voices: {
        'high tom': '..........x.....',
        'middle tom': '............x...',
        'low tom': '..............x.',
        kick: '........x.......',
      },
    },
    { name: 'stick turn', voices: { stick: '........x..x..x.' } },
    { name: 'brush up', voices: { snare: '........3.5.7.x.' } },
  ],
  feel: { late: { drums: 0, bass: 4, comping: -4, strum: -4, melody: 10 }, accents: [4, -4, 2, 2] },
  ending: 'rolled',
  band: [
    {
      role: 'melody',
      name: 'Melody',
      instrument: 'clarinet',
      level: 78,
      pan: 6,
      brief: { low: 58, high: 77, busyness: 4, syncopation: 55, adventure: 25 },
    },
    {
      role: 'comping',
      name: 'Guitar',
      instrument: 'nylon-guitar',
      level: 74,
      pan: -22,
      brief: { low: 47, high: 66, busyness: 5 },
    },
    {
      role: 'pad',
      name: 'Strings',
      instrument: 'string-ensemble',
      level: 44,
      pan: 20,
      brief: { low: 48, high: 67, busyness: 1 },
    },
    {
      role: 'bass',
      name: 'Bass',
      instrument: 'acoustic-bass',
      level: 78,
      pan: 0,
      brief: { low: 28, high: 50, busyness: 4 },
    },
    { role: 'drums', name: 'Drums', instrument: 'brush-kit', level: 64, pan: 0, brief: { busyness: 14 } },
  ],
};
