import { LOOP_MAJOR, LOOP_MINOR } from './dialects';
import type { Style } from '../song/style';

export const synthPop: Style = {
  id: 'synth-pop',
  name: 'Synth pop',
  family: 'Pop',
  moods: ['shimmering', 'longing', 'bright'],
  tempo: { low: 96, usual: 116, high: 132 },
  metres: ['4/4'],
  swing: 0,
  scales: ['major', 'minor', 'dorian', 'lydian'],
  harmony: { major: LOOP_MAJOR, minor: LOOP_MINOR, pace: 1, colouring: 'triads', adventure: 18, splits: 10, loops: 80 },
  melody: [
    { name: 'dotted', steps: 'x..x-..x.-x..x-..x.' },
    { name: 'dotted and long', steps: 'x..x-..x.-x-.' },
    { name: 'after one', steps: 'x-x..x-..x.-x' },
    { name: 'glide', steps: 'x-x..x-..x.-.' },
    { name: 'arc', steps: 'x..x-..x.-x.x.-x' },
    { name: 'pulse', steps: 'x.x.-x..x-..x.-x' },
  ],
  comping: [
    { name: 'gated', steps: 'X.xxX.xxX.xxX.x.', length: 40 },
    { name: 'long chords', steps: 'X...............', length: 100 },
    { name: 'pulses', steps: 'x...x...x...x...', length: 60 },
  ],
  arpeggio: [
    { name: 'climbing', order: [0, 1, 2, 3], rate: 4, length: 60 },
    { name: 'falling glass', order: [3, 2, 1, 2], rate: 4, length: 60 },
  ],
  bass: [
    { name: 'pulsing', steps: 'R.R.R.R.R.R.R.R.', length: 50 },
    { name: 'octave bounce', steps: 'R.O.R.O.R.O.R.O.', length: 46 },
    { name: 'syncopated', steps: 'R..R..R.R..R..A.', length: 54 },
  ],
  grooves: [
    {
      name: 'four on the floor',
      voices: { kick: 'x...x...x...x...', clap: '....X.......X...', 'closed hat': '..x...x...x...x.' },
    },
    {
      name: 'big snare',
      voices: { kick: 'x.....x.x.......', snare: '....X.......X...', 'closed hat': 'x.x.x.x.x.x.x.x.' },
    },
  ],
  fills: [
    { name: 'riser', voices: { snare: 'x...x...x.x.xxxx' } },
    { name: 'electronic toms', voices: { 'high tom': '........x.x.....', 'low tom': '............x.x.' } },
    { name: 'gap', voices: { clap: '............X...' } },
    { name: 'clap run', voices: { clap: '........x...x.xx' } },
  ],
  ending: 'held',
  band: [
    {
      role: 'melody',
      name: 'Lead',
      instrument: 'saw-lead',
      level: 62,
      pan: 6,
      brief: { low: 62, high: 81, busyness: 4, syncopation: 30 },
    },
    {
      role: 'arpeggio',
      name: 'Sequence',
      instrument: 'poly-synth',
      level: 57,
      pan: -24,
      brief: { low: 53, high: 72, busyness: 14 },
    },
    {
      role: 'pad',
      name: 'Pad',
      instrument: 'synth-strings',
      level: 50,
      pan: 18,
      brief: { low: 52, high: 71, busyness: 1 },
    },
    {
      role: 'bass',
      name: 'Bass',
      instrument: 'round-synth-bass',
      level: 78,
      pan: 0,
      brief: { low: 28, high: 50, busyness: 8 },
    },
    { role: 'drums', name: 'Drums', instrument: 'electronic-kit', level: 74, pan: 0, brief: { busyness: 12 } },
  ],
};
