import { FIFTHS_MAJOR, FIFTHS_MINOR } from './dialects';
import type { Style } from '../song/style';

export const swing: Style = {
  id: 'swing',
  name: 'Jazz swing',
  family: 'Jazz',
  moods: ['swinging', 'bright', 'smoky'],
  tempo: { low: 100, usual: 144, high: 220 },
  metres: ['4/4', '3/4'],
  swing: 85,
  scales: ['major', 'dorian', 'minor', 'bebop-dominant'],
  harmony: {
    major: FIFTHS_MAJOR,
    minor: FIFTHS_MINOR,
    pace: 1,
    colouring: 'extended',
    adventure: 30,
    splits: 45,
    leadingNote: true,
  },
  melody: [
    { name: 'eighths', steps: 'xx-xx-.x-.x' },
    { name: 'around the bar', steps: '.x-xx-xx-x' },
    { name: 'short call', steps: 'x-.x-.-.' },
    { name: 'triplet turn', steps: 'xx-xxx-x-.x' },
    { name: 'off the beats', steps: '.x-.x-xx-.x' },
    { name: 'long run', steps: '.x-xx-xx-xx|x-.x-.-.' },
    { name: 'bite', steps: 'x-.x-.x-xx' },
  ],
  comping: [
    { name: 'two and the push', steps: '......x.......x.', length: 40 },
    { name: 'dance-hall', steps: 'X.....x.........|......x.....x...', length: 46 },
    { name: 'four on top', steps: 'x...x...x...x...', length: 34 },
  ],
  arpeggio: [
    { name: 'upper structure', order: [1, 2, 3, 2], rate: 2, length: 80 },
    { name: 'broken sevenths', order: [0, 2, 1, 3], rate: 2, length: 80 },
  ],
  bass: [
    { name: 'walking', steps: 'R...W...F...A...', length: 88 },
    { name: 'walking from the third', steps: 'R...T...W...A...', length: 88 },
    { name: 'two feel', steps: 'R.......F.....a.', length: 86 },
  ],
  grooves: [
    {
      name: 'ride time',
      voices: { ride: 'x...x.x.x...x.x.', 'pedal hat': '....x.......x...', kick: '5.......5.....2.' },
    },
    {
      name: 'ride with chatter',
      voices: { ride: 'x...x.x.x...x.x.', 'pedal hat': '....x.......x...', snare: '..2...3...2...3.' },
    },
  ],
  fills: [
    { name: 'triplet snare', voices: { snare: '........x.x.x.x.' } },
    { name: 'drop a bomb', voices: { kick: '..............X.', snare: '........x.x.....' } },
    { name: 'toms in time', voices: { 'high tom': '....x.x.........', 'low tom': '........x.x.....' } },
    { name: 'snare triplets', voices: { snare: '........x.x...x.', 'pedal hat': '....x.......x...' } },
  ],
  feel: { late: { drums: 0, bass: -3, comping: 4, melody: 7, solo: 8 }, drums: { ride: -2 }, accents: [0, 0, 4, 6] },
  ending: 'turn',
  band: [
    {
      role: 'melody',
      name: 'Horn',
      instrument: 'trumpet',
      level: 72,
      pan: 8,
      brief: { low: 58, high: 80, busyness: 6, syncopation: 55, stride: 45, adventure: 35 },
    },
    {
      role: 'comping',
      name: 'Piano',
      instrument: 'grand-piano',
      level: 60,
      pan: -16,
      brief: { low: 47, high: 66, busyness: 3, length: 35 },
    },
    {
      role: 'counter',
      name: 'Second horn',
      instrument: 'alto-saxophone',
      level: 56,
      pan: 20,
      brief: { low: 52, high: 72, busyness: 3 },
    },
    {
      role: 'bass',
      name: 'Bass',
      instrument: 'acoustic-bass',
      level: 80,
      pan: 0,
      brief: { low: 28, high: 52, busyness: 4 },
    },
    { role: 'drums', name: 'Drums', instrument: 'brush-kit', level: 74, pan: 0, brief: { busyness: 11 } },
  ],
};
