import { PLAIN_MAJOR, PLAIN_MINOR } from './dialects';
import type { Style } from '../song/style';

export const country: Style = {
  id: 'country',
  name: 'Country',
  family: 'Folk and country',
  moods: ['plain', 'glad', 'lonesome'],
  tempo: { low: 88, usual: 118, high: 168 },
  metres: ['4/4', '2/4', '3/4'],
  swing: 8,
  scales: ['major', 'mixolydian'],
  harmony: { major: PLAIN_MAJOR, minor: PLAIN_MINOR, pace: 1, colouring: 'triads', adventure: 10, splits: 28 },
  melody: [
    { name: 'two and two', steps: 'xx-xx-x-.' },
    { name: 'snap', steps: 'x..x-x-xx-.' },
    { name: 'after the beat', steps: '.x-xx-x-x' },
    { name: 'walking home', steps: 'x-x-xx-x' },
    { name: 'late and long', steps: 'xx-.x-x-.x' },
    { name: 'drawl', steps: '.x-x..x-x-.' },
  ],
  comping: [
    { name: 'chick on the off-beats', steps: '..x...x...x...x.', length: 44 },
    { name: 'honky held', steps: 'X.....x.x.....x.', length: 80 },
    { name: 'back beat', steps: '....X.......X...', length: 50 },
  ],
  arpeggio: [
    { name: 'picked roll', order: [0, 2, 1, 3, 2, 1], rate: 2, length: 90 },
    { name: 'lazy fall', order: [3, 2, 1, 0], rate: 2, length: 96 },
  ],
  bass: [
    { name: 'root five', steps: 'R.......F.......', length: 74 },
    { name: 'root five and walk', steps: 'R.......F...W.A.', length: 80 },
    { name: 'train', steps: 'R...F...R...A...', length: 70 },
  ],
  grooves: [
    { name: 'train beat', voices: { kick: 'x.......x.......', snare: 'x.x5X.x.x.x5X.x.' } },
    {
      name: 'two-step',
      voices: { kick: 'x.......x.......', snare: '....X.......X...', 'closed hat': 'x.x.x.x.x.x.x.x.' },
    },
  ],
  fills: [
    { name: 'snare train', voices: { snare: 'xxx.xxx.xxxxXxxx' } },
    { name: 'toms down', voices: { 'high tom': '........xx......', 'low tom': '............xx..' } },
    { name: 'stop', voices: { kick: 'x...............', crash: 'x...............' } },
    { name: 'shuffle up', voices: { snare: '........x.xxx.xx' } },
  ],
  feel: { late: { strum: -3, bass: 2, drums: 0 }, drums: { snare: 4 }, accents: [2, -4, 4, -4] },
  ending: 'tag',
  band: [
    {
      role: 'melody',
      name: 'Melody',
      instrument: 'clean-guitar',
      level: 76,
      pan: 8,
      brief: { low: 55, high: 78, busyness: 5, syncopation: 20 },
    },
    { role: 'strum', name: 'Guitar', instrument: 'steel-guitar', level: 64, pan: -20, brief: { busyness: 6 } },
    {
      role: 'comping',
      name: 'Piano',
      instrument: 'grand-piano',
      level: 54,
      pan: 20,
      brief: { low: 45, high: 64, busyness: 4 },
    },
    {
      role: 'bass',
      name: 'Bass',
      instrument: 'picked-bass',
      level: 80,
      pan: 0,
      brief: { low: 28, high: 50, busyness: 2 },
    },
    { role: 'drums', name: 'Drums', instrument: 'brush-kit', level: 66, pan: 0, brief: { busyness: 12 } },
  ],
};
