import { LOOP_MAJOR, LOOP_MINOR } from './dialects';
import type { Style } from '../song/style';

export const metal: Style = {
  id: 'metal',
  name: 'Metal',
  family: 'Rock',
  moods: ['heavy', 'dark', 'driving'],
  tempo: { low: 96, usual: 132, high: 190 },
  metres: ['4/4', '6/8', '7/8', '3/4'],
  swing: 0,
  scales: ['minor', 'phrygian', 'harmonic-minor'],
  harmony: { major: LOOP_MAJOR, minor: LOOP_MINOR, pace: 1, colouring: 'triads', adventure: 30, splits: 20, loops: 60 },
  melody: [
    { name: 'gallop', steps: 'x.xx-x.xx-xx-x' },
    { name: 'burst', steps: 'x-xxxx-x-xx' },
    { name: 'trill', steps: 'xxxx-x-xxxx-x' },
    { name: 'cavalry', steps: 'x.xx-xx-x.xx-xx' },
    { name: 'triplets', steps: 'xxx-xxx-x-x' },
    { name: 'stride', steps: 'x-x-x.xx-x' },
  ],
  comping: [
    { name: 'gallop', steps: 'X.xxX.xxX.xxX.xx', length: 40 },
    { name: 'chugs', steps: 'xxxxxxxxX.......', length: 30 },
    { name: 'power halves', steps: 'X.......X.......', length: 96 },
  ],
  arpeggio: [
    { name: 'pedal', order: [0, 3, 0, 2, 0, 1, 0, 2], rate: 4, length: 60 },
    { name: 'fast arch', order: [0, 1, 2, 3, 2, 1], rate: 4, length: 70 },
  ],
  bass: [
    { name: 'gallop', steps: 'R.RRR.RRR.RRR.RR', length: 60 },
    { name: 'eighths', steps: 'R.R.R.R.R.R.R.A.', length: 76 },
    { name: 'with the fifth', steps: 'R.R.R.R.F.F.R.A.', length: 78 },
  ],
  grooves: [
    { name: 'double kick', voices: { kick: 'x.xxx.xxx.xxx.xx', snare: '....X.......X...', ride: 'x...x...x...x...' } },
    {
      name: 'half-time crush',
      voices: { kick: 'x..x..x....x..x.', snare: '........X.......', 'open hat': 'x...x...x...x...' },
    },
  ],
  fills: [
    { name: 'kick run', voices: { kick: 'xxxxxxxxxxxxxxxx', snare: '....X.......X.XX' } },
    {
      name: 'tom avalanche',
      voices: { 'high tom': 'xxxx............', 'middle tom': '....xxxx........', 'low tom': '........xxxxxxxx' },
    },
    { name: 'choke', voices: { crash: 'x...............', kick: 'x...............' } },
    { name: 'double feet', voices: { kick: 'xxxxxxxxxxxxxxxx', snare: '........X...X.X.' } },
  ],
  strums: [
    { name: 'gallop', steps: 'D.duD.duD.duD.du' },
    { name: 'chugs and a chord', steps: 'ddddddddD.......' },
  ],
  feel: { late: { bass: -2, strum: -2, drums: 0 }, accents: [4, 0, 0, 0] },
  ending: 'held',
  band: [
    {
      role: 'melody',
      name: 'Lead',
      instrument: 'driven-guitar',
      level: 72,
      pan: 14,
      brief: { low: 57, high: 84, busyness: 8, syncopation: 20, stride: 45, adventure: 35 },
    },
    {
      role: 'strum',
      name: 'Rhythm guitar',
      instrument: 'driven-guitar',
      level: 66,
      pan: -26,
      brief: { low: 40, high: 66, busyness: 12, length: 25, voices: 3 },
    },
    {
      role: 'ostinato',
      name: 'Riff',
      instrument: 'driven-guitar',
      level: 60,
      pan: 24,
      brief: { low: 40, high: 60, busyness: 10 },
    },
    {
      role: 'bass',
      name: 'Bass',
      instrument: 'picked-bass',
      level: 80,
      pan: 0,
      brief: { low: 28, high: 46, busyness: 10 },
    },
    { role: 'drums', name: 'Drums', instrument: 'standard-kit', level: 78, pan: 0, brief: { busyness: 20 } },
  ],
};
