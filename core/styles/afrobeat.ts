import { VAMP_MAJOR, VAMP_MINOR } from './dialects';
import type { Style } from '../song/style';

export const afrobeat: Style = {
  id: 'afrobeat',
  name: 'Afrobeat',
  family: 'Groove',
  moods: ['circling', 'proud', 'dancing'],
  tempo: { low: 96, usual: 108, high: 124 },
  metres: ['4/4', '12/8'],
  swing: 8,
  scales: ['dorian', 'mixolydian', 'minor-pentatonic'],
  harmony: {
    major: VAMP_MAJOR,
    minor: VAMP_MINOR,
    pace: 0.5,
    colouring: 'sevenths',
    adventure: 20,
    splits: 0,
    loops: 85,
  },
  melody: [
    { name: 'cross', steps: 'x..x-..x.-..x.-x...' },
    { name: 'horns', steps: '.xx.-x.xx-.x..-.' },
    { name: 'chant', steps: 'x.x.-.xx.-x.x.-..x.' },
    { name: 'reply', steps: '..x.-xx.x-..x.-x' },
    { name: 'circle', steps: 'x..x-..x.-.x..-x.x.' },
  ],
  comping: [
    { name: 'interlocked', steps: '..x..x..x..x..x.', length: 30 },
    { name: 'answers', steps: 'x..x....x..x....', length: 36 },
    { name: 'organ holds', steps: 'X.......x.......', length: 94 },
  ],
  arpeggio: [
    { name: 'tenor line', order: [0, 2, 1, 2, 3, 2], rate: 4, length: 50 },
    { name: 'cross', order: [0, 1, 3, 1, 2, 1], rate: 4, length: 46 },
  ],
  bass: [
    { name: 'loop', steps: 'R..R..F...R.W...', length: 60 },
    { name: 'off the one', steps: '..R..R..F..R..O.', length: 56 },
    { name: 'rolling', steps: 'R..F..R.W..R..A.', length: 60 },
  ],
  grooves: [
    {
      name: 'circling',
      voices: {
        kick: 'x..x..x...x..x..',
        snare: '...3..x.3..x..3.',
        'closed hat': 'x.xxx.xxx.xxx.xx',
        'open hat': '......4.......4.',
      },
    },
    { name: 'broad', voices: { kick: 'x.....x.x..x....', snare: '....x..3....x.3.', ride: 'x.xxx.xxx.xxx.xx' } },
  ],
  fills: [
    { name: 'snare talk', voices: { snare: 'x..x..x.x..xx.x.' } },
    { name: 'open hats', voices: { 'open hat': 'x...x...x...x...', kick: 'x..x..x...x.x...' } },
    { name: 'toms', voices: { 'high tom': 'x..x....x.......', 'low tom': '......x....x..x.' } },
    { name: 'bell and snare', voices: { cowbell: 'x.x.xx.x.x.xx.x.', snare: '............x.xx' } },
  ],
  percussion: [
    { name: 'bell and shaker', voices: { cowbell: 'x.x.xx.x.x.xx.x.', shaker: 'x3x3x3x3x3x3x3x3' } },
    {
      name: 'congas and clave',
      voices: { clave: 'x..x..x...x.x...', 'open conga': '......x.......xx', 'muted conga': 'x.x...x.x.x.....' },
    },
  ],
  feel: {
    late: { bass: 2, comping: -2, strum: -4, drums: 0 },
    drums: { 'closed hat': -4, shaker: -4 },
    accents: [2, -6, 4, -2],
  },
  ending: 'tag',
  band: [
    {
      role: 'melody',
      name: 'Horn',
      instrument: 'alto-saxophone',
      level: 70,
      pan: 8,
      brief: { low: 56, high: 76, busyness: 5, syncopation: 55 },
    },
    {
      role: 'ostinato',
      name: 'Tenor guitar',
      instrument: 'clean-guitar',
      level: 60,
      pan: -24,
      brief: { low: 50, high: 69, busyness: 10, syncopation: 60 },
    },
    {
      role: 'ensemble',
      name: 'Horns',
      instrument: 'brass-section',
      level: 56,
      pan: 20,
      brief: { low: 49, high: 68, busyness: 2, voices: 3 },
    },
    {
      role: 'bass',
      name: 'Bass',
      instrument: 'fingered-bass',
      level: 82,
      pan: 0,
      brief: { low: 28, high: 48, busyness: 6, syncopation: 55 },
    },
    { role: 'drums', name: 'Drums', instrument: 'standard-kit', level: 70, pan: 0, brief: { busyness: 17 } },
    { role: 'percussion', name: 'Percussion', instrument: 'standard-kit', level: 86, pan: -8, brief: { busyness: 10 } },
  ],
};
