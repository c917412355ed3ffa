import type { BASS_WAYS } from '../song/brief-schema';
import type { BassFigure, Groove, GuitarFigure, MelodyCell } from '../song/style';

/**
 * Figures that serve every style that has none of its own; written on sixteenths in 4/4, carried to other metres like
 * all others.
 */

export const COMMON_CELLS: readonly MelodyCell[] = [
  { name: 'talking', steps: '.x-xx-x-.' },
  { name: 'even', steps: 'x-x-xx-x' },
  { name: 'dotted', steps: 'x-.x-x-x' },
  { name: 'held over', steps: 'x-xx-.x-.x' },
  { name: 'running', steps: 'xx-xx-xx-x' },
  { name: 'long', steps: 'x-.-x-.' },
];

export const COMMON_STRUMS: readonly GuitarFigure[] = [
  { name: 'one a bar', steps: 'D...............' },
  { name: 'two halves', steps: 'D.......D.......' },
  { name: 'down on the beats', steps: 'D...d...D...d...' },
  { name: 'campfire', steps: 'D...D.U...U.D.U.' },
  { name: 'down and up', steps: 'D.d.D.u.D.d.D.u.' },
  { name: 'pushing', steps: 'D...d.U...U.d.u.|D...d.U...U.D.u.' },
  { name: 'back beat slap', steps: 'D...~.U.D...~.U.' },
  { name: 'rolling sixteenths', steps: 'D.duD.duD.duD.du' },
  { name: 'all strings running', steps: 'D.DUD.DUd.duDUDU' },
];

export const COMMON_PICKING: readonly GuitarFigure[] = [
  { name: 'slow roll', steps: 'p.....i...m.....' },
  { name: 'bass and three', steps: 'p...i...m...a...' },
  { name: 'rising and falling', steps: 'p.i.m.a.m.i.m.i.' },
  { name: 'alternating thumb', steps: 'P.i.q.m.p.i.q.m.' },
  { name: 'thumb under a roll', steps: 'p.i.q.m.p.a.q.m.' },
  { name: 'tumbling', steps: 'p.a.m.i.q.a.m.i.' },
  { name: 'running sixteenths', steps: 'pimaqimapimaqima' },
];

/** A figure for each way of a bass; `P` stays on the key's own root whatever the chords do. */
export const BASS_WAY_FIGURES: Readonly<Record<(typeof BASS_WAYS)[number], BassFigure>> = {
  roots: { name: 'roots', steps: 'R...R...R...R...', length: 80 },
  octaves: { name: 'octaves', steps: 'R.O.R.O.R.O.R.O.', length: 60 },
  walking: { name: 'walking', steps: 'R...W...W...A...', length: 92 },
  arpeggiated: { name: 'arpeggiated', steps: 'R...T...F...O...', length: 88 },
  syncopated: { name: 'syncopated', steps: 'R..R..F...R..OA.', length: 72 },
  latin: { name: 'latin', steps: 'R.....F.....O...|......F.....A...', length: 88 },
  pedal: { name: 'pedal', steps: 'P.P.P.P.P.P.P.P.', length: 70 },
};

export const COMMON_PERCUSSION: readonly Groove[] = [
  { name: 'shaker alone', voices: { shaker: 'x.x.X.x.x.x.X.x.' } },
  { name: 'tambourine on the back beat', voices: { tambourine: '....X.......X...', shaker: '3.5.3.5.3.5.3.5.' } },
  {
    name: 'congas',
    voices: {
      'open conga': '............X.x.',
      'muted conga': 'x...x...x.......',
      'low conga': '......4.......4.',
      cabasa: 'x.x.x.x.x.x.x.x.',
    },
  },
  { name: 'bongo eighths', voices: { 'high bongo': 'X.x.x.x.X.x...x.', 'low bongo': '............x...' } },
  { name: 'clave and shaker', voices: { clave: 'x.....x.....x...|....x...x.......', shaker: 'x.x.x.x.x.x.x.x.' } },
  { name: 'running shaker', voices: { shaker: 'X3x3x3x3X3x3x3x3', tambourine: '....x.......x...' } },
];
