import { PLAIN_MAJOR, PLAIN_MINOR } from './dialects';
import type { Style } from '../song/style';

export const march: Style = {
  id: 'march',
  name: 'March',
  family: 'March',
  moods: ['upright', 'proud', 'solemn'],
  tempo: { low: 92, usual: 112, high: 126 },
  metres: ['2/4', '4/4', '6/8'],
  swing: 0,
  scales: ['major', 'minor', 'harmonic-minor'],
  harmony: { major: PLAIN_MAJOR, minor: PLAIN_MINOR, pace: 1, colouring: 'triads', adventure: 8, splits: 25 },
  comping: [
    { name: 'off-beats', steps: '..x...x.', length: 40 },
    { name: 'upright', steps: 'X...x...', length: 50 },
    { name: 'full', steps: 'X.x.x.x.', length: 50 },
  ],
  arpeggio: [
    { name: 'bugle', order: [0, 1, 2, 1], rate: 2, length: 70 },
    { name: 'triplet call', order: [0, 1, 2], rate: 3, length: 80 },
  ],
  bass: [
    { name: 'oom', steps: 'R...F...', length: 46 },
    { name: 'oom with a step', steps: 'R...F.A.', length: 50 },
    { name: 'walking', steps: 'R.W.F.A.', length: 54 },
  ],
  grooves: [
    { name: 'field drum', voices: { kick: 'x...x...', snare: 'X.xxX.xx' } },
    { name: 'parade', voices: { kick: 'x...x...', snare: '..x...xx', crash: '....2...' } },
  ],
  fills: [
    { name: 'roll-off', voices: { snare: 'XxxxXxxx' } },
    { name: 'three beats', voices: { snare: 'X.X.X...' } },
    { name: 'bass drum', voices: { kick: 'x.x.x.x.' } },
    { name: 'long roll', voices: { snare: 'xxxxxxXx' } },
  ],
  feel: { late: { drums: -2 }, accents: [8, -2, -4, -2] },
  ending: 'cadence',
  band: [
    {
      role: 'melody',
      name: 'Trumpet',
      instrument: 'trumpet',
      level: 74,
      pan: 6,
      brief: { low: 58, high: 79, busyness: 4, syncopation: 5, stride: 45, adventure: 5 },
    },
    {
      role: 'counter',
      name: 'Low brass',
      instrument: 'brass-section',
      level: 62,
      pan: -14,
      brief: { low: 45, high: 65, busyness: 3 },
    },
    {
      role: 'comping',
      name: 'Horns',
      instrument: 'brass-section',
      level: 56,
      pan: 18,
      brief: { low: 47, high: 66, busyness: 3, length: 30 },
    },
    {
      role: 'bass',
      name: 'Bass',
      instrument: 'acoustic-bass',
      level: 76,
      pan: 0,
      brief: { low: 28, high: 48, busyness: 2 },
    },
    { role: 'drums', name: 'Drums', instrument: 'standard-kit', level: 72, pan: 0, brief: { busyness: 8 } },
  ],
};
