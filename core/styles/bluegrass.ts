import { PLAIN_MAJOR, PLAIN_MINOR } from './dialects';
import type { Style } from '../song/style';

export const bluegrass: Style = {
  id: 'bluegrass',
  name: 'Bluegrass',
  family: 'Folk and country',
  moods: ['fast', 'bright', 'driving'],
  tempo: { low: 110, usual: 138, high: 180 },
  metres: ['4/4', '2/4'],
  swing: 0,
  scales: ['major', 'mixolydian', 'major-pentatonic'],
  harmony: { major: PLAIN_MAJOR, minor: PLAIN_MINOR, pace: 1, colouring: 'triads', adventure: 6, splits: 20 },
  melody: [
    { name: 'running', steps: 'xx-xx-xx-xx' },
    { name: 'kick-off', steps: 'xxxx-xx-xx-x' },
    { name: 'middle roll', steps: 'xx-xxxx-xx-xx' },
    { name: 'shuffle', steps: 'x.xx-x.xx-xx-xx' },
    { name: 'double run', steps: 'xxxx-xxxx-xx-x' },
    { name: 'landing', steps: 'xx-xxxx-x-xx' },
  ],
  comping: [
    { name: 'chop', steps: '..X...X...X...X.', length: 24 },
    { name: 'chop with a push', steps: '..X...X...X..xX.', length: 26 },
    { name: 'open', steps: 'X...x...X...x...', length: 60 },
  ],
  arpeggio: [
    { name: 'roll forward', order: [0, 2, 3, 0, 2, 3, 0, 2], rate: 4, length: 70 },
    { name: 'roll back', order: [3, 2, 0, 3, 2, 0, 3, 2], rate: 4, length: 70 },
  ],
  bass: [
    { name: 'boom', steps: 'R...F...R...F...', length: 56 },
    { name: 'boom with a run', steps: 'R...F...R...W.A.', length: 58 },
    { name: 'walking', steps: 'R...W...F...A...', length: 64 },
  ],
  grooves: [
    { name: 'chop and thump', voices: { kick: 'x...x...x...x...', stick: '..x...x...x...x.' } },
    {
      name: 'brush drive',
      voices: { kick: 'x.......x.......', snare: '..x...x...x...x.', 'closed hat': 'x.x.x.x.x.x.x.x.' },
    },
  ],
  fills: [
    { name: 'run of sticks', voices: { stick: 'x.x.xxxxx.x.xxxx' } },
    { name: 'two stops', voices: { kick: 'x.......x.......' } },
    { name: 'snare lead', voices: { snare: '........xxxxx.x.' } },
    { name: 'brush flurry', voices: { snare: '....x.xxx.xxx.x.' } },
  ],
  feel: { late: { bass: -3, strum: -4, picking: -2, ostinato: -2 }, accents: [2, -4, 5, -2] },
  ending: 'tag',
  band: [
    {
      role: 'melody',
      name: 'Fiddle',
      instrument: 'violin',
      level: 76,
      pan: 10,
      brief: { low: 60, high: 83, busyness: 9, syncopation: 20, stride: 45 },
    },
    { role: 'picking', name: 'Guitar', instrument: 'steel-guitar', level: 66, pan: -18, brief: { busyness: 15 } },
    {
      role: 'ostinato',
      name: 'Roll',
      instrument: 'nylon-guitar',
      level: 58,
      pan: 20,
      brief: { low: 55, high: 76, busyness: 12 },
    },
    { role: 'strum', name: 'Chop', instrument: 'steel-guitar', level: 54, pan: -8, brief: { busyness: 4, length: 20 } },
    {
      role: 'bass',
      name: 'Bass',
      instrument: 'acoustic-bass',
      level: 80,
      pan: 0,
      brief: { low: 28, high: 50, busyness: 4 },
    },
  ],
};
