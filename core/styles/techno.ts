import { VAMP_MAJOR, VAMP_MINOR } from './dialects';
import type { Style } from '../song/style';

export const techno: Style = {
  id: 'techno',
  name: 'Techno',
  family: 'Dance',
  moods: ['hypnotic', 'cold', 'driving'],
  tempo: { low: 126, usual: 132, high: 142 },
  metres: ['4/4'],
  swing: 0,
  scales: ['minor', 'phrygian', 'dorian'],
  harmony: {
    major: VAMP_MAJOR,
    minor: VAMP_MINOR,
    pace: 0.5,
    colouring: 'triads',
    adventure: 12,
    splits: 0,
    loops: 90,
  },
  melody: [
    { name: 'stutter', steps: 'x..x-.x..-x..x-.x..' },
    { name: 'offs', steps: '..x.-..x.-..x.-.xx.' },
    { name: 'machine', steps: 'x.x.-.x.x-..x.-.x..' },
    { name: 'alarm', steps: 'xx..-xx..-..xx-.' },
  ],
  comping: [
    { name: 'one stab', steps: '......X.........', length: 24 },
    { name: 'gate', steps: 'x.xxx.xxx.xxx.xx', length: 20 },
    { name: 'drone', steps: 'X...............|................', length: 100 },
  ],
  arpeggio: [
    { name: 'machine', order: [0, 0, 1, 0, 2, 0, 1, 0], rate: 4, length: 40 },
    { name: 'acid', order: [0, 3, 0, 1, 0, 2, 3, 1], rate: 4, length: 36 },
  ],
  bass: [
    { name: 'rumble', steps: '..rR..rR..rR..rR', length: 40 },
    { name: 'pulse', steps: 'R.R.R.R.R.R.R.R.', length: 34 },
    { name: 'offbeat', steps: '..R...R...R...R.', length: 44 },
  ],
  grooves: [
    {
      name: 'kick and hats',
      voices: { kick: 'x...x...x...x...', 'open hat': '..x...x...x...x.', 'closed hat': 'x.x.x.x.x.x.x.x.' },
    },
    {
      name: 'broken hats',
      voices: {
        kick: 'x...x...x...x...',
        clap: '....x.......x...',
        'closed hat': 'xx.xxx.xxx.xxx.x',
        stick: '...x..x....x..x.',
      },
    },
  ],
  fills: [
    { name: 'kick out', voices: { 'closed hat': 'xxxxxxxxxxxxxxxx' } },
    { name: 'clap storm', voices: { clap: '........x.xxx.xx' } },
    { name: 'tom loop', voices: { 'low tom': '..x..x..x..x..x.' } },
    { name: 'noise of hats', voices: { 'closed hat': 'xxxxxxxxxxxxxxxx', 'open hat': '..............x.' } },
  ],
  ending: 'stop',
  band: [
    {
      role: 'ostinato',
      name: 'Riff',
      instrument: 'saw-lead',
      level: 88,
      pan: 10,
      brief: { low: 50, high: 67, busyness: 9, syncopation: 60 },
    },
    {
      role: 'arpeggio',
      name: 'Sequence',
      instrument: 'poly-synth',
      level: 73,
      pan: -20,
      brief: { low: 48, high: 72, busyness: 16 },
    },
    {
      role: 'pad',
      name: 'Drone',
      instrument: 'warm-pad',
      level: 51,
      pan: 14,
      brief: { low: 50, high: 72, busyness: 1 },
    },
    {
      role: 'bass',
      name: 'Bass',
      instrument: 'hard-synth-bass',
      level: 82,
      pan: 0,
      brief: { low: 26, high: 45, busyness: 8 },
    },
    { role: 'drums', name: 'Drums', instrument: 'electronic-kit', level: 80, pan: 0, brief: { busyness: 18 } },
  ],
};
