import { VAMP_MAJOR, VAMP_MINOR } from './dialects';
import type { Style } from '../song/style';

export const house: Style = {
  id: 'house',
  name: 'House',
  family: 'Dance',
  moods: ['deep', 'warm', 'driving'],
  tempo: { low: 118, usual: 124, high: 128 },
  metres: ['4/4'],
  swing: 14,
  scales: ['minor', 'dorian', 'major'],
  harmony: {
    major: VAMP_MAJOR,
    minor: VAMP_MINOR,
    pace: 0.5,
    colouring: 'sevenths',
    adventure: 18,
    splits: 8,
    loops: 85,
  },
  melody: [
    { name: 'off', steps: '.-.x-.x-.' },
    { name: 'late push', steps: '..x.-.x..-x-.' },
    { name: 'call', steps: '.x-.-.x-x' },
    { name: 'chop', steps: 'x..x-.-..x.-.' },
    { name: 'lift', steps: '..xx-x-.-.' },
    { name: 'up there', steps: '..x.-..x.-..x.-x' },
  ],
  comping: [
    { name: 'piano stabs', steps: 'X..X..X...X..X..', length: 34 },
    { name: 'off-beat chords', steps: '..X...X...X...X.', length: 40 },
    { name: 'long swells', steps: 'X...............|................', length: 100 },
  ],
  arpeggio: [
    { name: 'rolling', order: [0, 2, 1, 3], rate: 4, length: 50 },
    { name: 'up', order: [0, 1, 2, 3], rate: 2, length: 70 },
  ],
  bass: [
    { name: 'off-beat', steps: '..R...R...R...R.', length: 50 },
    { name: 'rolling', steps: 'R.rR..R.R.rR..O.', length: 44 },
    { name: 'jacking', steps: 'R..R..R...R.O...', length: 50 },
  ],
  grooves: [
    {
      name: 'floor',
      voices: {
        kick: 'x...x...x...x...',
        clap: '....X.......X...',
        'open hat': '..x...x...x...x.',
        shaker: 'x3x3x3x3x3x3x3x3',
      },
    },
    {
      name: 'deep',
      voices: {
        kick: 'x...x...x...x...',
        clap: '....X.......X...',
        'open hat': '..x...x...x...x.',
        stick: '...3..x...3...x.',
      },
    },
  ],
  fills: [
    { name: 'clap build', voices: { clap: 'x...x...x.x.xxxx' } },
    { name: 'kick out', voices: { 'open hat': '..x...x...x...x.' } },
    { name: 'snare roll', voices: { snare: '........x.x.xxxx' } },
    { name: 'hat lift', voices: { 'open hat': '..x...x...x.x.x.', clap: '............x.x.' } },
  ],
  feel: { late: { bass: 2, comping: 4, drums: 0 }, drums: { clap: -4, 'open hat': 3 } },
  ending: 'stop',
  band: [
    {
      role: 'melody',
      name: 'Lead',
      instrument: 'voices',
      level: 60,
      pan: 6,
      brief: { low: 57, high: 76, busyness: 3, syncopation: 50, breath: 70 },
    },
    {
      role: 'comping',
      name: 'Piano',
      instrument: 'grand-piano',
      level: 68,
      pan: -10,
      brief: { low: 46, high: 65, busyness: 5, length: 40 },
    },
    { role: 'pad', name: 'Pad', instrument: 'warm-pad', level: 50, pan: 16, brief: { low: 47, high: 66, busyness: 1 } },
    {
      role: 'bass',
      name: 'Bass',
      instrument: 'round-synth-bass',
      level: 82,
      pan: 0,
      brief: { low: 28, high: 48, busyness: 6 },
    },
    { role: 'drums', name: 'Drums', instrument: 'electronic-kit', level: 78, pan: 0, brief: { busyness: 16 } },
  ],
};
