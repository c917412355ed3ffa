import { DRIFT_MAJOR, DRIFT_MINOR } from './dialects';
import type { Style } from '../song/style';

export const drumAndBass: Style = {
  id: 'drum-and-bass',
  name: 'Drum and bass',
  family: 'Dance',
  moods: ['racing', 'dark', 'weightless'],
  tempo: { low: 168, usual: 174, high: 178 },
  metres: ['4/4'],
  swing: 0,
  scales: ['minor', 'dorian', 'phrygian'],
  harmony: {
    major: DRIFT_MAJOR,
    minor: DRIFT_MINOR,
    pace: 0.5,
    colouring: 'sevenths',
    adventure: 25,
    splits: 0,
    loops: 80,
  },
  melody: [
    { name: 'float', steps: 'x-.-.x-.' },
    { name: 'far', steps: 'x-.-.-.x' },
    { name: 'glide', steps: '.x-.-x-.|x-.-.-.' },
    { name: 'half time', steps: 'x-.x-.-x' },
    { name: 'rise', steps: 'x-.-x-.|.-.x-.-.' },
    { name: 'hang', steps: '.-x-.-.x' },
  ],
  comping: [
    { name: 'wide chords', steps: 'X...............|................', length: 100 },
    { name: 'late stab', steps: '..........x.....', length: 40 },
    { name: 'echoes', steps: 'X.....x.....4...', length: 30 },
  ],
  arpeggio: [
    { name: 'glass', order: [0, 2, 3, 1], rate: 2, length: 80 },
    { name: 'fast climb', order: [0, 1, 2, 3], rate: 4, length: 50 },
  ],
  bass: [
    { name: 'long roots', steps: 'R...........r...', length: 96 },
    { name: 'rolling', steps: 'R..R....R..R..A.', length: 60 },
    { name: 'answer', steps: 'R.....w...R.....', length: 84 },
  ],
  grooves: [
    {
      name: 'two-step',
      voices: { kick: 'x.........x.....', snare: '....X.......X...', 'closed hat': 'x.x.x.x.x.x.x.x.' },
    },
    {
      name: 'chopped break',
      voices: { kick: 'x.x.......x.....', snare: '....X..3.3..X.3.', ride: 'x.x.x.x.x.x.x.x.' },
    },
  ],
  fills: [
    { name: 'break roll', voices: { snare: 'x.x.X.xx.x.xX.xx' } },
    { name: 'drop out', voices: { snare: '............X.xx' } },
    { name: 'ghosts', voices: { snare: '3.3.X.3.3.33X3X3' } },
    { name: 'chopped snares', voices: { snare: '....X..x.xX..xx.', kick: 'x.........x.....' } },
  ],
  feel: { late: { drums: 0, bass: 5 }, drums: { snare: -3 }, accents: [4, -10, 0, -8] },
  ending: 'stop',
  band: [
    {
      role: 'melody',
      name: 'Lead',
      instrument: 'voices',
      level: 60,
      pan: 8,
      brief: { low: 57, high: 76, busyness: 2.5, syncopation: 40, breath: 80 },
    },
    {
      role: 'arpeggio',
      name: 'Keys',
      instrument: 'electric-piano',
      level: 74,
      pan: -18,
      brief: { low: 48, high: 67, busyness: 7 },
    },
    {
      role: 'pad',
      name: 'Pad',
      instrument: 'synth-strings',
      level: 52,
      pan: 16,
      brief: { low: 47, high: 66, busyness: 1 },
    },
    {
      role: 'bass',
      name: 'Sub',
      instrument: 'round-synth-bass',
      level: 84,
      pan: 0,
      brief: { low: 26, high: 45, busyness: 3 },
    },
    { role: 'drums', name: 'Drums', instrument: 'electronic-kit', level: 78, pan: 0, brief: { busyness: 13 } },
  ],
};
