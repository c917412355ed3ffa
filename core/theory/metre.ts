import { modulo, sum, TICKS_PER_QUARTER, type Ticks } from './units';

/** 7/8 in 2+2+3 is `{ beats: 7, unit: 8, groups: [2, 2, 3] }`; groups count units. */
export interface Metre {
  readonly beats: number;
  readonly unit: 2 | 4 | 8 | 16;
  readonly groups: readonly number[];
}

/** What a beat does in its bar; drum grooves and comping figures are written in these words and so fit any metre. */
type BeatRole = 'down' | 'weak' | 'back' | 'strong';

export interface Beat {
  readonly at: Ticks;
  readonly length: Ticks;
  /** Two for simple beats, three for compound ones. */
  readonly division: 2 | 3;
  readonly role: BeatRole;
}

/** The metres offered by name; any other can be typed. */
export const METRES: readonly Metre[] = [
  { beats: 2, unit: 4, groups: [2] },
  { beats: 3, unit: 4, groups: [3] },
  { beats: 4, unit: 4, groups: [2, 2] },
  { beats: 5, unit: 4, groups: [3, 2] },
  { beats: 6, unit: 8, groups: [3, 3] },
  { beats: 7, unit: 8, groups: [2, 2, 3] },
  { beats: 9, unit: 8, groups: [3, 3, 3] },
  { beats: 12, unit: 8, groups: [3, 3, 3, 3] },
];

/** Beats of one bar at most. */
const MOST_BEATS = 16;
/** Eighths are felt in groups of so many: each group is a beat, and all that can be drafted lies on its halves and thirds. */
const [LEAST_GROUP, MOST_GROUP] = [2, 4];

/** How beats fall into groups where nobody says it: as in the metre of that name, else in threes or twos. */
function usualGroups(beats: number, unit: number): readonly number[] {
  const known = METRES.find((metre) => metre.beats === beats && metre.unit === unit);
  if (known) return known.groups;
  if (unit >= 8 && beats % 3 === 0) return Array.from({ length: beats / 3 }, () => 3);
  if (beats < 4) return [beats];
  // What is odd has its three at the end.
  return [...Array.from({ length: Math.floor(beats / 2) - (beats % 2) }, () => 2), ...(beats % 2 === 1 ? [3] : [])];
}

/** “7/8”, and its groups where they are not the usual ones: “7/8 3+2+2”. */
export function metreText({ beats, unit, groups }: Metre): string {
  const usual = usualGroups(beats, unit).join('+') === groups.join('+');
  return usual ? `${beats}/${unit}` : `${beats}/${unit} ${groups.join('+')}`;
}

/**
 * Reads a metre as it is written: `7/8`, `7/8 3+2+2`, or its groups over the unit, `3+2+2/8`. Units are halves, quarters
 * and eighths, these in groups of two to four, and a bar is at least a quarter long: all that can be drafted lies on the
 * grids of those.
 *
 * @returns null where the text is no metre that a bar can have
 */
export function readMetre(text: string): Metre | null {
  const found = /^\s*(\d{1,2}(?:\s*\+\s*\d{1,2})*)\s*\/\s*(2|4|8)(?:\s+(\d{1,2}(?:\s*\+\s*\d{1,2})*))?\s*$/.exec(text);
  if (!found) return null;
  const numbers = (list: string): number[] => list.split('+').map(Number);
  const [over, said] = [numbers(found[1] ?? ''), found[3]];
  const unit = Number(found[2]) as Metre['unit'];
  const beats = sum(over);
  if (beats > MOST_BEATS || 4 * beats < unit || over.includes(0)) return null;
  const groups = said !== undefined ? numbers(said) : over.length > 1 ? over : usualGroups(beats, unit);
  const felt = unit < 8 || groups.every((group) => group >= LEAST_GROUP && group <= MOST_GROUP);
  return felt && sum(groups) === beats && !groups.includes(0) ? { beats, unit, groups } : null;
}

export const metreName = (metre: Metre): string => `${metre.beats}/${metre.unit}`;

const unitTicks = (metre: Metre): Ticks => (TICKS_PER_QUARTER * 4) / metre.unit;

export const barTicks = (metre: Metre): Ticks => metre.beats * unitTicks(metre);

/** A beat before the bar's end or before a strong beat pulls back: 2 and 4 in 4/4, 3 in 3/4, the second of 6/8. */
function roleOf(index: number, strong: ReadonlySet<number>, count: number): BeatRole {
  if (index === 0) return 'down';
  if (strong.has(index)) return 'strong';
  return index === count - 1 || strong.has(index + 1) ? 'back' : 'weak';
}

/**
 * The felt beats of one bar: units in simple metres, groups in those written in eighths or sixteenths.
 */
export function beatsOf(metre: Metre): readonly Beat[] {
  const known = knownBeats.get(metre);
  if (known) return known;
  const beats = makeBeats(metre);
  knownBeats.set(metre, beats);
  return beats;
}

/** Metres never change, and drafters ask for their beats at every note. */
const knownBeats = new WeakMap<Metre, readonly Beat[]>();

function makeBeats(metre: Metre): readonly Beat[] {
  const unit = unitTicks(metre);
  const compound = metre.unit >= 8;
  const lengths = compound ? metre.groups : Array.from({ length: metre.beats }, () => 1);
  const strong = new Set<number>();
  if (compound) {
    if (lengths.length % 2 === 0 && lengths.length > 2) strong.add(lengths.length / 2);
  } else {
    metre.groups.slice(0, -1).reduce((start, group) => (strong.add(start + group), start + group), 0);
  }
  return lengths.map((length, index) => ({
    at: sum(lengths.slice(0, index)) * unit,
    length: length * unit,
    division: length === 3 ? 3 : 2,
    role: roleOf(index, strong, lengths.length),
  }));
}

/** Metrical weights from the bar line (5) over strong beats, beats and divisions to the finest notes (0). */
export const WEIGHT = { bar: 5, strong: 4, beat: 3, division: 2, subdivision: 1, finer: 0 } as const;

/**
 * How much a moment in the bar weighs, computed from the metre's groups.
 *
 * @param at  ticks from any bar line; may be negative or beyond the bar
 */
export function metricalWeight(metre: Metre, at: Ticks): number {
  const inBar = modulo(at, barTicks(metre));
  if (inBar === 0) return WEIGHT.bar;
  const beat = beatsOf(metre).findLast((candidate) => candidate.at <= inBar);
  if (!beat) return WEIGHT.finer;
  const inBeat = inBar - beat.at;
  if (inBeat === 0) return beat.role === 'strong' ? WEIGHT.strong : WEIGHT.beat;
  const step = beat.length / beat.division;
  if (inBeat % step === 0) return WEIGHT.division;
  return inBeat % (step / 2) === 0 ? WEIGHT.subdivision : WEIGHT.finer;
}

/**
 * The straight grid of one bar.
 *
 * @param steps  grid steps in a quarter note: 2 is eighths, 4 is sixteenths
 * @returns positions in ticks from the bar line, rising
 */
export function gridOf(metre: Metre, steps: number): Ticks[] {
  const step = TICKS_PER_QUARTER / steps;
  return Array.from({ length: Math.ceil(barTicks(metre) / step) }, (_, index) => index * step);
}
