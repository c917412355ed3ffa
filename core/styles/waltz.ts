import type { Style } from '../song/style';

export const waltz: Style = {
  id: 'waltz',
  name: 'Waltz',
  family: 'Dance',
  moods: ['wistful', 'graceful', 'turning'],
  tempo: { low: 84, usual: 126, high: 180 },
  metres: ['3/4', '6/8', '9/8'],
  swing: 0,
  scales: ['major', 'minor', 'harmonic-minor'],
  harmony: {
    major: {
      1: { 5: 30, 4: 26, 6: 22, 2: 22 },
      2: { 5: 76, 4: 12, 1: 12 },
      3: { 6: 60, 4: 40 },
      4: { 1: 34, 5: 34, 2: 32 },
      5: { 1: 66, 6: 20, 2: 14 },
      6: { 2: 48, 4: 32, 5: 20 },
      7: { 1: 70, 3: 30 },
    },
    minor: {
      1: { 5: 34, 4: 30, 6: 24, 7: 12 },
      2: { 5: 84, 1: 16 },
      3: { 6: 60, 7: 40 },
      4: { 5: 46, 1: 40, 7: 14 },
      5: { 1: 72, 6: 28 },
      6: { 4: 34, 2: 30, 3: 20, 5: 16 },
      7: { 3: 66, 1: 34 },
    },
    pace: 1,
    colouring: 'sevenths',
    adventure: 22,
    splits: 12,
  },
  comping: [
    { name: 'two and three', steps: '....x...x...', length: 60 },
    { name: 'lifted two', steps: '....x...6.5.', length: 66 },
    { name: 'full turn', steps: 'X...x...x...', length: 82 },
    { name: 'hesitating', steps: '....x.......|....x...x...', length: 84 },
  ],
  arpeggio: [
    { name: 'turning up', order: [0, 1, 2, 3, 2, 1], rate: 2, length: 100 },
    { name: 'music-box fall', order: [3, 2, 1], rate: 1, length: 100 },
  ],
  bass: [
    { name: 'one', steps: 'R...........', length: 60 },
    { name: 'one, then a step on', steps: 'R.......A...', length: 80 },
    { name: 'root and fifth by turns', steps: 'R...........|F.......a...', length: 70 },
  ],
  grooves: [
    { name: 'brush turn', voices: { kick: 'x...........', snare: '....x...x...', 'pedal hat': '....x...x...' } },
    { name: 'ride waltz', voices: { kick: 'x.........3.', ride: 'x...x.5.x...', stick: '....5...x...' } },
    { name: 'bare', voices: { kick: 'x...........', tambourine: '....x...x...' } },
  ],
  fills: [
    { name: 'rolling in', voices: { snare: '....x.x.xxxx' } },
    { name: 'three steps down', voices: { 'high tom': '....x.......', 'middle tom': '......x.....', 'low tom': '........x.x.' } },
  ],
  feel: { late: { comping: -5, strum: -5, melody: 6 } },
  ending: 'cadence',
  band: [
    { role: 'melody', name: 'Melody', instrument: 'violin', level: 76, pan: 6, brief: { low: 60, high: 81, busyness: 3, syncopation: 10 } },
    { role: 'comping', name: 'Keys', instrument: 'grand-piano', level: 66, pan: -15, brief: { low: 52, high: 76, busyness: 2 } },
    { role: 'pad', name: 'Strings', instrument: 'string-ensemble', level: 48, pan: 20, brief: { low: 55, high: 79, busyness: 1 } },
    { role: 'bass', name: 'Bass', instrument: 'acoustic-bass', level: 78, pan: 0, brief: { low: 28, high: 50, busyness: 1.5 } },
    { role: 'drums', name: 'Drums', instrument: 'brush-kit', level: 58, pan: 0, brief: { busyness: 6 } },
  ],
};
