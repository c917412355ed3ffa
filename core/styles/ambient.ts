import { DRIFT_MAJOR, DRIFT_MINOR } from './dialects';
import type { Style } from '../song/style';

export const ambient: Style = {
  id: 'ambient',
  name: 'Film ambient',
  family: 'Film',
  moods: ['floating', 'vast', 'still'],
  tempo: { low: 54, usual: 68, high: 88 },
  metres: ['4/4', '3/4', '6/8', '5/4'],
  swing: 0,
  scales: ['lydian', 'major', 'minor', 'dorian'],
  harmony: { major: DRIFT_MAJOR, minor: DRIFT_MINOR, pace: 0.5, colouring: 'extended', adventure: 35, splits: 0 },
  comping: [
    { name: 'tide', steps: 'X...............|................', length: 100 },
    { name: 'two breaths', steps: 'X.......x.......', length: 100 },
    { name: 'one late bell', steps: '......x.........', length: 100 },
  ],
  arpeggio: [
    { name: 'slow climb', order: [0, 2, 1, 3], rate: 1, length: 100 },
    { name: 'drifting', order: [3, 1, 2, 0], rate: 1, length: 100 },
  ],
  bass: [
    { name: 'long roots', steps: 'R...............', length: 100 },
    { name: 'root then fifth', steps: 'R...............|F...............', length: 100 },
    { name: 'slow turn', steps: 'R...........W...', length: 100 },
  ],
  grooves: [
    { name: 'distant', voices: { kick: 'x...............', 'low tom': '........3.......' } },
    { name: 'pulse', voices: { kick: 'x.......3.......', shaker: '..2...2...2...2.' } },
  ],
  fills: [
    { name: 'swell', voices: { 'low tom': '........3.3.3.3.' } },
    { name: 'one cymbal', voices: { crash: '............x...' } },
    { name: 'nothing but air', voices: { triangle: '........x.......' } },
    { name: 'far toms', voices: { 'low tom': '........3...5...', 'middle tom': '............3...' } },
  ],
  percussion: [
    { name: 'far drum', voices: { 'low conga': 'x.......4.......' } },
    { name: 'triangle', voices: { triangle: '........x.......' } },
  ],
  ending: 'held',
  band: [
    {
      role: 'melody',
      name: 'Melody',
      instrument: 'cello',
      level: 66,
      pan: 6,
      brief: { low: 45, high: 72, busyness: 1.5, syncopation: 10, breath: 70 },
    },
    {
      role: 'pad',
      name: 'Strings',
      instrument: 'string-ensemble',
      level: 62,
      pan: -12,
      brief: { low: 45, high: 64, busyness: 1, voices: 4 },
    },
    {
      role: 'arpeggio',
      name: 'Bells',
      instrument: 'music-box',
      level: 57,
      pan: 22,
      brief: { low: 62, high: 88, busyness: 4 },
    },
    {
      role: 'ensemble',
      name: 'Choir',
      instrument: 'choir',
      level: 50,
      pan: 14,
      brief: { low: 45, high: 64, busyness: 1, voices: 3 },
    },
    {
      role: 'bass',
      name: 'Low strings',
      instrument: 'cello',
      level: 64,
      pan: -4,
      brief: { low: 36, high: 55, busyness: 1 },
    },
    { role: 'percussion', name: 'Far drums', instrument: 'standard-kit', level: 55, pan: 0, brief: { busyness: 2 } },
  ],
};
