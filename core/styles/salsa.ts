import { VAMP_MAJOR } from './dialects';
import type { Style } from '../song/style';

export const salsa: Style = {
  id: 'salsa',
  name: 'Salsa',
  family: 'Latin',
  moods: ['hot', 'dancing', 'proud'],
  tempo: { low: 84, usual: 98, high: 112 },
  metres: ['4/4'],
  swing: 0,
  scales: ['minor', 'major', 'dorian', 'harmonic-minor'],
  harmony: {
    major: VAMP_MAJOR,
    minor: {
      1: { 4: 34, 5: 34, 7: 18, 6: 14 },
      2: { 5: 90, 1: 10 },
      3: { 6: 40, 4: 30, 7: 30 },
      4: { 5: 46, 1: 34, 7: 20 },
      5: { 1: 80, 6: 20 },
      6: { 5: 50, 4: 26, 7: 24 },
      7: { 6: 40, 1: 36, 3: 24 },
    },
    pace: 1,
    colouring: 'sevenths',
    adventure: 25,
    splits: 20,
    loops: 70,
    leadingNote: true,
  },
  melody: [
    { name: 'three and two', steps: 'x-.x-.-x|.-x-x-.' },
    { name: 'two and three', steps: '.-x-x-.|x-.x-.-x' },
    { name: 'pregon', steps: '.x-.x-x-xx' },
    { name: 'answer', steps: 'x-.x-.x-xx' },
    { name: 'coro', steps: 'xx-.x-.x-x|.x-x-x-.' },
    { name: 'push', steps: '.x-.x-.x-.x' },
  ],
  comping: [
    { name: 'montuno', steps: 'X.x..xx.x.x..xx.|.xx.x.x..xx.x.x.', length: 50 },
    { name: 'son strokes', steps: 'X.....x.....x...|....x...x.......', length: 60 },
    { name: 'bells', steps: 'x...x...x...x...', length: 44 },
  ],
  arpeggio: [
    { name: 'montuno eighths', order: [0, 2, 3, 2, 1, 3], rate: 2, length: 60 },
    { name: 'octaves', order: [0, 3, 1, 3], rate: 2, length: 60 },
  ],
  bass: [
    { name: 'tumbao', steps: '......F.....O...', length: 90 },
    { name: 'tumbao with a root', steps: 'R.....F.....O...', length: 86 },
    { name: 'anticipated', steps: '......F.....A...', length: 90 },
  ],
  grooves: [
    {
      name: 'clave and bell',
      voices: { clave: 'x.....x.....x...|....x...x.......', cowbell: 'x...x.x.x...x.x.', kick: '......4.....x...' },
    },
    {
      name: 'timbale shell',
      voices: { stick: 'x.x.xx.x.xx.x.x.', cowbell: 'x...x...x...x...', kick: '......4.....x...' },
    },
  ],
  fills: [
    { name: 'abanico', voices: { snare: '........xxxxX...' } },
    { name: 'toms', voices: { 'high tom': '........x.xx....', 'low tom': '............x.x.' } },
    { name: 'stop', voices: { kick: 'x...............', cowbell: 'x...............' } },
    { name: 'bell call', voices: { cowbell: '........X.xxX.X.' } },
  ],
  percussion: [
    {
      name: 'marcha',
      voices: { 'muted conga': 'x.x...x.x.x.....', 'open conga': '............X.X.', 'low conga': '......3.......3.' },
    },
    { name: 'bongo march', voices: { 'high bongo': 'X.x.x.x.X.x.x.x.', 'low bongo': '............x...' } },
  ],
  feel: { late: { comping: -5, bass: -4, drums: 0 }, drums: { clave: -3, cowbell: -2 } },
  ending: 'stop',
  band: [
    {
      role: 'melody',
      name: 'Trumpet',
      instrument: 'trumpet',
      level: 74,
      pan: 10,
      brief: { low: 58, high: 79, busyness: 5, syncopation: 60 },
    },
    {
      role: 'comping',
      name: 'Piano',
      instrument: 'grand-piano',
      level: 64,
      pan: -18,
      brief: { low: 47, high: 66, busyness: 8 },
    },
    {
      role: 'ensemble',
      name: 'Brass',
      instrument: 'brass-section',
      level: 58,
      pan: 18,
      brief: { low: 51, high: 70, busyness: 3, voices: 3 },
    },
    {
      role: 'bass',
      name: 'Bass',
      instrument: 'acoustic-bass',
      level: 82,
      pan: 0,
      brief: { low: 28, high: 50, busyness: 3, syncopation: 70 },
    },
    { role: 'percussion', name: 'Congas', instrument: 'standard-kit', level: 76, pan: -8, brief: { busyness: 10 } },
    { role: 'drums', name: 'Timbales', instrument: 'standard-kit', level: 61, pan: 8, brief: { busyness: 9 } },
  ],
};
