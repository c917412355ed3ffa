import { METRES, metreName } from '../theory/metre';

/** How full a rhythm is. */
export type Fullness = 'sparse' | 'steady' | 'busy';

/**
 * A rhythm for chords on sixteenths, bars parted by `|`, written for one metre and carried to any other by what each
 * beat
 * does in its bar. Struck: `X` accented, `x` always, `1`–`9` in 10–90 % of cases; `<` takes the coming chord, `~` is
 * a
 * muted stroke, `,` stops what sounds; `.` lets it sound on.
 */
export interface ChordRhythm {
  readonly id: string;
  readonly name: string;
  readonly family: string;
  readonly fullness: Fullness;
  readonly metre: string;
  readonly steps: string;
  /** How much of the way to the next stroke a chord sounds, in %. */
  readonly length: number;
}

/** family | fullness | metre | length | name | steps */
const TABLE = `
Ballad | sparse | 4/4 | 100 | whole bars | X...............
Ballad | sparse | 4/4 | 100 | two halves | X.......x.......
Ballad | sparse | 4/4 | 96 | late second half | X.........x.....
Ballad | steady | 4/4 | 92 | heartbeats | X...x...x...x...
Ballad | steady | 4/4 | 96 | leaning on two | X...x.......x...
Ballad | busy | 4/4 | 90 | rocking eighths | X.x.x.x.X.x.x.x.
Ballad | busy | 4/4 | 94 | long and two short | X...x.x.X...x.x.
Songwriter | sparse | 4/4 | 96 | down and a breath | X.......x.....4.
Songwriter | sparse | 4/4 | 98 | first and last | X...........x...
Songwriter | steady | 4/4 | 86 | campfire | X...x.x...x.x.x.
Songwriter | steady | 4/4 | 88 | walking pace | X...x.x.x...x.x.
Songwriter | steady | 4/4 | 92 | carried over | X.....x.....x...
Songwriter | busy | 4/4 | 80 | train window | X.xxx.xxX.xxx.xx
Songwriter | busy | 4/4 | 84 | open road | X.x.x.xx.xx.x.xx
Folk | sparse | 4/4 | 90 | bass place and brush | X...x...,...x...
Folk | steady | 4/4 | 78 | boom and chick | x...X...x...X...
Folk | steady | 4/4 | 82 | boom chick-a | x...X.x.x...X.x.
Folk | busy | 4/4 | 74 | rolling sixteenths | X.xxX.xxX.xxX.xx
Folk | busy | 4/4 | 80 | reel drive | Xxx.xx.xXxx.xx.x
Rock | sparse | 4/4 | 98 | power halves | X.......X.......
Rock | sparse | 4/4 | 90 | hit and hang | X.X.............
Rock | steady | 4/4 | 88 | straight eighths | X.x.x.x.x.x.x.x.
Rock | steady | 4/4 | 84 | pushed four | X.....x...x...<.
Rock | steady | 4/4 | 90 | two-bar shove | X.....X.....x...|X.....x.......<.
Rock | busy | 4/4 | 60 | tight gallop | X.xxX.xxX.xxX.xx
Rock | busy | 4/4 | 70 | down strokes | XxxxXxxxXxxxXxxx
Soul | sparse | 4/4 | 60 | back beat chops | ....X.......X...
Soul | sparse | 4/4 | 88 | late answer | X.........x...6.
Soul | steady | 4/4 | 70 | stab and hold | X..x......x.....
Soul | steady | 4/4 | 84 | sanctified push | X.....x...x...<.
Soul | busy | 4/4 | 66 | syncopated keys | X..x..x...x.x..x
Funk | sparse | 4/4 | 40 | on the one | X...............
Funk | steady | 4/4 | 35 | scratch and hit | X.~.~.x.~.~.X.~.
Funk | steady | 4/4 | 40 | off the sixteenth | x..X..x.~..X..x.
Funk | busy | 4/4 | 34 | sixteenth engine | X~~x~~x~~x~~X~x~
Funk | busy | 4/4 | 38 | chattering | x.X~x~.xX~.x~x.~
Jazz | sparse | 4/4 | 40 | two and the and of three | ......x...x.....
Jazz | sparse | 4/4 | 92 | held with a lift | X.............<.
Jazz | steady | 4/4 | 60 | four to the bar | x...X...x...X...
Jazz | steady | 4/4 | 50 | dance-hall comping | X.....x.........|......x.....x...
Jazz | busy | 4/4 | 46 | conversational | x.....x...5...<.|..x...6...x.....
Latin | sparse | 4/4 | 80 | bossa half | X.....x...x.....
Latin | steady | 4/4 | 76 | bossa turn | X.....x...x...x.|..x...x...x.....
Latin | steady | 4/4 | 62 | son strokes | X.....x.....x...|....x...x.......
Latin | busy | 4/4 | 58 | montuno eighths | X.x..xx.x.x..xx.|.xx.x.x..xx.x.x.
Latin | busy | 4/4 | 60 | samba comping | X..x..x...x..x.x
Island | sparse | 4/4 | 40 | one chop a bar | ........X.......
Island | steady | 4/4 | 34 | off-beat skank | ..X...X...X...X.
Island | busy | 4/4 | 36 | double skank | ..Xx..Xx..Xx..Xx
Dance | sparse | 4/4 | 96 | long swells | X...............|................
Dance | steady | 4/4 | 50 | off-beat stabs | ..X...X...X...X.
Dance | steady | 4/4 | 56 | three over four | X..X..X..X..X.X.
Dance | busy | 4/4 | 44 | piano drive | X..X..X...X..X..
Dance | busy | 4/4 | 40 | trance gate | X.xxX.xxX.xxX.x.
Hip hop | sparse | 4/4 | 90 | dusty loop | X.....x.........
Hip hop | steady | 4/4 | 72 | late and lazy | X......x..x.....|X......x....x.5.
March | steady | 4/4 | 48 | parade | X...x...X...x...
March | busy | 4/4 | 42 | parade with pick-ups | X.x.x.xxX.x.x.xx
Film | sparse | 4/4 | 100 | tide | X...............|........4.......
Film | steady | 4/4 | 96 | slow pulse | X...x...x...x...
Waltz | sparse | 3/4 | 98 | bar by bar | X...........
Waltz | steady | 3/4 | 64 | two and three | ....x...x...
Waltz | steady | 3/4 | 84 | full turn | X...x...x...
Waltz | busy | 3/4 | 72 | turning eighths | X.x.x.x.x.x.
Six-eight | sparse | 6/8 | 98 | two waves | X.....x.....
Six-eight | steady | 6/8 | 80 | lilting | X...x.X...x.
Six-eight | steady | 6/8 | 86 | rowing | X.....x...x.
Six-eight | busy | 6/8 | 84 | rolling sixths | X.x.x.X.x.x.
Six-eight | busy | 6/8 | 70 | jig | Xxx.x.Xxx.x.
Odd | steady | 7/8 | 80 | two two three | X...x...x.x...
Odd | steady | 5/4 | 86 | three and two | X...x...x...X...x...
`;

const idOf = (family: string, name: string): string => `${family} ${name}`.toLowerCase().replaceAll(/[^a-z0-9]+/g, '-');

function parseRow(row: string): ChordRhythm {
  const [family = '', fullness = '', metre = '', length = '', name = '', steps = ''] = row
    .split(' | ')
    .map((cell) => cell.trim());
  return { id: idOf(family, name), name, family, fullness: fullness as Fullness, metre, steps, length: Number(length) };
}

// A step row may itself hold “|”, which has no spaces around it.
export const CHORD_RHYTHMS: readonly ChordRhythm[] = TABLE.trim().split('\n').map(parseRow);

const BY_ID: ReadonlyMap<string, ChordRhythm> = new Map(CHORD_RHYTHMS.map((rhythm) => [rhythm.id, rhythm]));

/**
 * A rhythm of one's own is written out in its id, so that it goes wherever the song goes: `own:Rain: 4/4 80
 * X...x...`.
 */
const OWN = /^own:([^:]{1,40}): (\d{1,2}\/\d{1,2}) (\d{1,3}) ([Xx1-9<~,.|]{4,96})$/;

export const ownRhythmId = (name: string, metre: string, length: number, steps: string): string =>
  `own:${name.trim().replaceAll(':', ' ').slice(0, 40) || 'own rhythm'}: ${metre} ${length} ${steps}`;

/** Struck steps a bar. */
const strokesOf = (steps: string): number => steps.replaceAll(/[.,|]/g, '').length / steps.split('|').length;

export const fullnessOf = (steps: string): Fullness => {
  const strokes = strokesOf(steps);
  return strokes <= 2 ? 'sparse' : strokes < 6 ? 'steady' : 'busy';
};

/** A rhythm by id; null for none and for what this build does not know. */
export function chordRhythmOf(id: string | null | undefined): ChordRhythm | null {
  if (!id) return null;
  const known = BY_ID.get(id);
  if (known) return known;
  const match = OWN.exec(id);
  if (!match) return null;
  const [, name = '', metre = '', length = '', steps = ''] = match;
  return {
    id,
    name,
    family: 'Own',
    fullness: fullnessOf(steps),
    metre,
    steps,
    length: Math.min(100, Math.max(5, Number(length))),
  };
}

/** True for a metre that figures can be written in. */
export const isWrittenMetre = (name: string): boolean => METRES.some((metre) => metreName(metre) === name);
