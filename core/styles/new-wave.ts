import { LOOP_MAJOR, LOOP_MINOR } from './dialects';
import type { Style } from '../song/style';

export const newWave: Style = {
  id: 'new-wave',
  name: 'New wave',
  family: 'Pop',
  moods: ['cool', 'nervous', 'bright'],
  tempo: { low: 112, usual: 132, high: 158 },
  metres: ['4/4'],
  swing: 0,
  scales: ['major', 'minor', 'dorian'],
  harmony: { major: LOOP_MAJOR, minor: LOOP_MINOR, pace: 1, colouring: 'triads', adventure: 15, splits: 12, loops: 70 },
  melody: [
    { name: 'cool', steps: 'x-x-.x-xx' },
    { name: 'clipped', steps: '.x-.x-xx-x' },
    { name: 'aside', steps: 'xx-.x-.x-x' },
    { name: 'glance', steps: 'x..x-..x.-x-x' },
    { name: 'stiff', steps: 'x-x-xx-.x' },
    { name: 'robot', steps: 'x-.-xx-xx' },
  ],
  comping: [
    { name: 'nervous eighths', steps: 'x.x.x.x.x.x.x.x.', length: 50 },
    { name: 'off-beat stabs', steps: '..x...x...x...x.', length: 40 },
    { name: 'broad', steps: 'X.........x.....', length: 92 },
  ],
  arpeggio: [
    { name: 'sequenced', order: [0, 2, 1, 2], rate: 4, length: 70 },
    { name: 'sparkle', order: [3, 1, 2, 0], rate: 4, length: 60 },
  ],
  bass: [
    { name: 'straight eighths', steps: 'R.R.R.R.R.R.R.R.', length: 72 },
    { name: 'octaves', steps: 'R.O.R.O.R.O.R.O.', length: 66 },
    { name: 'hooking', steps: 'R..R..O.R..R.WA.', length: 70 },
  ],
  grooves: [
    {
      name: 'tight machine',
      voices: { kick: 'x.......x.x.....', snare: '....X.......X...', 'closed hat': 'x.x.x.x.x.x.x.x.' },
    },
    {
      name: 'floor drive',
      voices: { kick: 'x...x...x...x...', snare: '....X.......X...', 'open hat': '..x...x...x...x.' },
    },
  ],
  fills: [
    { name: 'tom hook', voices: { 'high tom': 'x..x..x.........', 'low tom': '........x..x..x.' } },
    { name: 'clap run', voices: { clap: '........x.x.xxxx' } },
    { name: 'snare sixteenths', voices: { snare: '........xxxxxxxx' } },
    { name: 'machine toms', voices: { 'high tom': '........x..x....', 'low tom': '...........x..x.' } },
  ],
  ending: 'stop',
  band: [
    {
      role: 'melody',
      name: 'Lead',
      instrument: 'square-lead',
      level: 66,
      pan: 8,
      brief: { low: 60, high: 79, busyness: 5, syncopation: 30 },
    },
    {
      role: 'comping',
      name: 'Synth',
      instrument: 'poly-synth',
      level: 60,
      pan: -20,
      brief: { low: 49, high: 68, busyness: 6, length: 35 },
    },
    {
      role: 'strum',
      name: 'Guitar',
      instrument: 'clean-guitar',
      level: 56,
      pan: 22,
      brief: { low: 45, high: 82, busyness: 7, length: 30, voices: 4 },
    },
    {
      role: 'bass',
      name: 'Bass',
      instrument: 'picked-bass',
      level: 80,
      pan: 0,
      brief: { low: 28, high: 50, busyness: 8 },
    },
    { role: 'drums', name: 'Drums', instrument: 'electronic-kit', level: 72, pan: 0, brief: { busyness: 13 } },
  ],
};
