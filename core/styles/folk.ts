import { PLAIN_MAJOR, PLAIN_MINOR } from './dialects';
import type { Style } from '../song/style';

export const folk: Style = {
  id: 'folk',
  name: 'Folk',
  family: 'Folk and country',
  moods: ['homely', 'plain', 'warm'],
  tempo: { low: 84, usual: 112, high: 150 },
  metres: ['4/4', '3/4', '6/8', '2/4'],
  swing: 0,
  scales: ['major', 'mixolydian', 'dorian', 'minor'],
  harmony: { major: PLAIN_MAJOR, minor: PLAIN_MINOR, pace: 1, colouring: 'triads', adventure: 8, splits: 20 },
  melody: [
    { name: 'step and step', steps: 'x-x-xx-x' },
    { name: 'skipping first', steps: 'xx-x-x-x' },
    { name: 'down the lane', steps: 'x-xx-x-.' },
    { name: 'dotted', steps: 'x-.x-x-x' },
    { name: 'reel', steps: 'xx-xx-x-x' },
    { name: 'to the gate', steps: 'x-x-x-.' },
    { name: 'verse line', steps: 'xx-xx-x-x|x-xx-x-.' },
  ],
  comping: [
    { name: 'brush on two and four', steps: 'x...X...x...X...', length: 80 },
    { name: 'boom and brush', steps: 'x...X.x.x...X.x.', length: 82 },
    { name: 'held halves', steps: 'X.......x.......', length: 96 },
  ],
  arpeggio: [
    { name: 'rolling thumb', order: [0, 2, 1, 3], rate: 2, length: 100 },
    { name: 'climb and fall', order: [0, 1, 2, 3, 2, 1], rate: 2, length: 100 },
  ],
  bass: [
    { name: 'root and fifth', steps: 'R.......F.......', length: 84 },
    { name: 'two and a walk', steps: 'R.......F...A...', length: 82 },
    { name: 'walking home', steps: 'R...W...F...A...', length: 86 },
  ],
  grooves: [
    {
      name: 'hand on wood',
      voices: { kick: 'x.......x.......', stick: '....x.......x...', shaker: 'x.x.x.x.x.x.x.x.' },
    },
    {
      name: 'light brushes',
      voices: { kick: 'x.......x.......', snare: '..5.x.3...5.x.3.', tambourine: '....x.......x...' },
    },
  ],
  fills: [
    { name: 'two knocks', voices: { stick: '........x.x.....' } },
    { name: 'brush roll', voices: { snare: '........x.x.xxx.' } },
    { name: 'kick and stop', voices: { kick: 'x.......x.......', snare: '............X...' } },
    { name: 'two and a roll', voices: { snare: '........x...x3x3', kick: '........x.......' } },
  ],
  strums: [
    { name: 'boom chick', steps: 'D...d...D...d...' },
    { name: 'boom chick-a', steps: 'D...d.u.D...d.u.' },
    { name: 'rolling', steps: 'D..uD.duD..uD.du' },
  ],
  ending: 'held',
  band: [
    {
      role: 'melody',
      name: 'Melody',
      instrument: 'violin',
      level: 68,
      pan: 6,
      brief: { low: 60, high: 81, busyness: 5, syncopation: 10, adventure: 5 },
    },
    { role: 'strum', name: 'Guitar', instrument: 'steel-guitar', level: 55, pan: -18, brief: { busyness: 6 } },
    { role: 'picking', name: 'Second guitar', instrument: 'nylon-guitar', level: 56, pan: 22, brief: { busyness: 7 } },
    {
      role: 'bass',
      name: 'Bass',
      instrument: 'acoustic-bass',
      level: 69,
      pan: 0,
      brief: { low: 28, high: 50, busyness: 2 },
    },
    {
      role: 'percussion',
      name: 'Hand percussion',
      instrument: 'standard-kit',
      level: 96,
      pan: 0,
      brief: { busyness: 6 },
    },
  ],
};
