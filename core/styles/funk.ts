import { VAMP_MAJOR, VAMP_MINOR } from './dialects';
import type { Style } from '../song/style';

export const funk: Style = {
  id: 'funk',
  name: 'Funk',
  family: 'Soul and gospel',
  moods: ['tight', 'strutting', 'playful'],
  tempo: { low: 88, usual: 104, high: 122 },
  metres: ['4/4'],
  swing: 10,
  scales: ['dorian', 'mixolydian', 'minor-pentatonic', 'minor'],
  harmony: {
    major: VAMP_MAJOR,
    minor: VAMP_MINOR,
    pace: 0.5,
    colouring: 'extended',
    adventure: 25,
    splits: 8,
    loops: 75,
    majorChords: { 1: '1 3 5 b7 9', 4: '1 3 5 b7 9' },
  },
  melody: [
    { name: 'chop', steps: 'x..x-..x.-.x.x-..x.' },
    { name: 'stab', steps: 'x.xx-.x..-..xx-.' },
    { name: 'between', steps: '.x.x-.x.x-x-.' },
    { name: 'one and gone', steps: 'x-..xx-.x.x-x' },
    { name: 'chatter', steps: 'xx.x-.-x.xx-.x..' },
    { name: 'pocket', steps: 'x-.x.x-..x.-.xx.' },
  ],
  comping: [
    { name: 'scratch', steps: 'x..X..x.x..X..x.', length: 24 },
    { name: 'on the one', steps: 'X...............|X......x..x.....', length: 40 },
    { name: 'sixteenth answers', steps: '..x...xx..x...x.', length: 22 },
  ],
  arpeggio: [
    { name: 'clipped', order: [0, 2, 1, 3], rate: 4, length: 40 },
    { name: 'rising stabs', order: [0, 1, 2, 3], rate: 2, length: 30 },
  ],
  bass: [
    { name: 'on the one', steps: 'R..R..O..R.W..a.', length: 40 },
    { name: 'popping', steps: 'R..O..R...O.W.A.', length: 36 },
    { name: 'sixteenth grease', steps: 'R..w.RO...R.W.a.', length: 44 },
  ],
  grooves: [
    {
      name: 'linear pocket',
      voices: {
        kick: 'x..5..x...x..x..',
        snare: '....X..3.3..X..3',
        'closed hat': 'xxx.xx.xx.xxxx.x',
        'open hat': '...............4',
      },
    },
    {
      name: 'broken sixteenths',
      voices: { kick: 'x.x...5x..x.....', snare: '....X.3..3..X.3.', 'closed hat': 'x.xxx.xxx.xxx.xx' },
    },
  ],
  fills: [
    { name: 'ghost run', voices: { snare: '3x3xX3x33x3xX3xX' } },
    { name: 'stop on two', voices: { kick: 'x...............', snare: '....X...........' } },
    { name: 'tom splash', voices: { 'high tom': '........x.x.....', 'low tom': '............x..x' } },
    { name: 'paradiddle', voices: { snare: '........x.33x3x3', kick: '..........x.....' } },
  ],
  feel: { late: { drums: 0, bass: -3, comping: 2, strum: 2 }, drums: { snare: -4 }, accents: [6, -8, 0, -4] },
  ending: 'stop',
  band: [
    {
      role: 'melody',
      name: 'Lead',
      instrument: 'alto-saxophone',
      level: 72,
      pan: 8,
      brief: { low: 55, high: 76, busyness: 6, syncopation: 70, adventure: 25 },
    },
    {
      role: 'strum',
      name: 'Scratch guitar',
      instrument: 'muted-guitar',
      level: 60,
      pan: -24,
      brief: { low: 45, high: 84, busyness: 10, length: 15, voices: 5 },
    },
    {
      role: 'comping',
      name: 'Clav',
      instrument: 'electric-grand',
      level: 58,
      pan: 22,
      brief: { low: 45, high: 64, busyness: 6, length: 30 },
    },
    {
      role: 'bass',
      name: 'Bass',
      instrument: 'fingered-bass',
      level: 84,
      pan: 0,
      brief: { low: 28, high: 52, busyness: 7, syncopation: 60 },
    },
    { role: 'drums', name: 'Drums', instrument: 'standard-kit', level: 72, pan: 0, brief: { busyness: 18 } },
  ],
};
