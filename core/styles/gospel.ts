import { FIFTHS_MAJOR, FIFTHS_MINOR } from './dialects';
import type { Style } from '../song/style';

export const gospel: Style = {
  id: 'gospel',
  name: 'Gospel',
  family: 'Soul and gospel',
  moods: ['proud', 'joyful', 'rising'],
  tempo: { low: 62, usual: 84, high: 126 },
  metres: ['12/8', '4/4', '6/8', '3/4'],
  swing: 0,
  scales: ['major', 'mixolydian', 'minor'],
  harmony: {
    major: FIFTHS_MAJOR,
    minor: FIFTHS_MINOR,
    pace: 1,
    colouring: 'sevenths',
    adventure: 32,
    splits: 50,
    leadingNote: true,
  },
  melody: [
    { name: 'sway', steps: 'x.x-x.x-x..-...' },
    { name: 'pick up and hold', steps: '..x-x.x-x.x-x..' },
    { name: 'answer', steps: 'x..-.xx-x.x-..x' },
    { name: 'testify', steps: 'xxx-x.x-x..-..x' },
    { name: 'turned', steps: 'x.xxx.-x..-...-..x' },
    { name: 'lifting', steps: 'x..-..x-x.x-xxx' },
  ],
  comping: [
    { name: 'rolling threes', steps: 'X.x.x.X.x.x.X.x.x.X.x.x.', length: 82 },
    { name: 'pushes', steps: 'X.........x.X.....x...7.', length: 88 },
    { name: 'hand claps', steps: '......X...x.......X...x.', length: 56 },
  ],
  arpeggio: [
    { name: 'rising', order: [0, 1, 2, 3], rate: 2, length: 96 },
    { name: 'flourish', order: [0, 1, 2, 3, 2, 1], rate: 2, length: 100 },
  ],
  bass: [
    { name: 'walking up', steps: 'R.....W.....W.....A...a.', length: 88 },
    { name: 'pushing roots', steps: 'R.........R.R.....F...A.', length: 82 },
    { name: 'octave calls', steps: 'R...r.......O.....F...A.', length: 80 },
  ],
  grooves: [
    {
      name: 'choir beat',
      voices: {
        kick: 'x.........x.x.......4...',
        snare: '......X...........X.....',
        tambourine: 'x.x.X.x.x.X.x.x.X.x.x.X.',
      },
    },
    {
      name: 'clap and stomp',
      voices: {
        kick: 'x.....x.....x.....x.....',
        clap: '......X...........X...x.',
        tambourine: 'x...x.x...x.x...x.x...x.',
      },
    },
  ],
  fills: [
    { name: 'snare shout', voices: { snare: '............x.x.x.x.x.X.' } },
    {
      name: 'toms rolling up',
      voices: { 'low tom': '............x.x.x.......', 'high tom': '..................x.x.x.' },
    },
    { name: 'claps', voices: { clap: '............x...x...x...' } },
    { name: 'shout break', voices: { snare: '............X.x.x.X.x.x.', clap: '............x.....x.....' } },
  ],
  feel: { late: { drums: 4, bass: 6, comping: 6, ensemble: 10 }, drums: { snare: 9, clap: 12 } },
  ending: 'plagal',
  band: [
    {
      role: 'melody',
      name: 'Lead',
      instrument: 'alto-saxophone',
      level: 74,
      pan: 6,
      brief: { low: 56, high: 76, busyness: 5, syncopation: 40, adventure: 30 },
    },
    {
      role: 'ensemble',
      name: 'Choir',
      instrument: 'choir',
      level: 62,
      pan: 18,
      brief: { low: 49, high: 68, busyness: 3, voices: 4 },
    },
    {
      role: 'comping',
      name: 'Organ',
      instrument: 'drawbar-organ',
      level: 56,
      pan: -20,
      brief: { low: 45, high: 64, busyness: 4 },
    },
    {
      role: 'bass',
      name: 'Bass',
      instrument: 'fingered-bass',
      level: 80,
      pan: 0,
      brief: { low: 28, high: 50, busyness: 4 },
    },
    { role: 'drums', name: 'Drums', instrument: 'standard-kit', level: 70, pan: 0, brief: { busyness: 13 } },
  ],
};
