import { isDrumRole } from './roles';
import { clamp, type Percent, type Ticks, type Velocity } from '../theory/units';
import { layOut, type Placed } from './resolve';
import type { Brief, EnergyPoint, Role, Score, SectionId } from './schema';

/** What a song feels like where nothing is drawn. */
export const EVEN: Percent = 50;

interface Mark {
  readonly at: Ticks;
  readonly value: Percent;
}

/** The points of the energy line in song time, in order. */
function marksOf(score: Score, placed: readonly Placed[]): Mark[] {
  return placed
    .flatMap(({ occurrence, start, length }) =>
      score.energy
        .filter((point) => point.occurrence === occurrence.id && point.at <= length)
        .map(({ at, value }) => ({ at: start + at, value })),
    )
    .sort((a, b) => a.at - b.at);
}

function between(marks: readonly Mark[], at: Ticks): Percent {
  const after = marks.findIndex((mark) => mark.at > at);
  if (after === 0) return marks[0]?.value ?? EVEN;
  const before = marks[(after < 0 ? marks.length : after) - 1];
  const next = after < 0 ? undefined : marks[after];
  if (!before) return EVEN;
  if (!next) return before.value;
  return before.value + ((next.value - before.value) * (at - before.at)) / (next.at - before.at);
}

/**
 * The energy over the running order: straight lines between the points that are drawn.
 *
 * @returns energy in % at a tick of the running order, or null where no line is drawn at all
 */
export function energyCurve(score: Score, placed: readonly Placed[] = layOut(score)): ((at: Ticks) => Percent) | null {
  if (score.energy.length === 0) return null;
  const marks = marksOf(score, placed);
  return marks.length === 0 ? null : (at) => between(marks, at);
}

const SAMPLES = 8;

/** Mean energy over all places of a section, in whole %; null where no line is drawn. */
export function meanEnergy(score: Score, section: SectionId): Percent | null {
  const placed = layOut(score);
  const curve = energyCurve(score, placed);
  const own = placed.filter((place) => place.section.id === section);
  if (!curve || own.length === 0) return null;
  const values = own.flatMap(({ start, length }) =>
    Array.from({ length: SAMPLES }, (_, index) => curve(start + ((index + 0.5) * length) / SAMPLES)),
  );
  return Math.round(values.reduce((sum, value) => sum + value, 0) / values.length);
}

/** How much louder or softer the whole range of energy makes a note. */
const LOUDER = 22;

export const energised = (velocity: Velocity, energy: Percent): Velocity =>
  clamp(Math.round(velocity + (LOUDER * (energy - EVEN)) / EVEN), 1, 127);

/** Notes of a register that energy may leave out at one end. */
const NARROWED = 3;
/** A register keeps at least this many semitones. */
const ROOM = 12;

/**
 * A brief under an energy: busier with more, and in the upper part of its register; calmer and lower with less. It
 * never leaves the limits that the brief sets.
 */
export function withEnergy(brief: Brief, energy: Percent, role: Role): Brief {
  if (!brief.follows) return brief;
  const lean = (energy - EVEN) / EVEN;
  const fixed = isDrumRole(role) || role === 'bass' || brief.high - brief.low < ROOM + NARROWED;
  const shift = fixed ? 0 : Math.round(NARROWED * lean);
  return {
    ...brief,
    busyness: clamp(brief.busyness * (1 + 0.45 * lean), 0.5, 24),
    low: brief.low + Math.max(0, shift),
    high: brief.high + Math.min(0, shift),
  };
}

/** Shapes of a whole song, as values over its time from 0 to 1. */
export const ENERGY_SHAPES: readonly {
  readonly name: string;
  readonly points: readonly (readonly [time: number, value: Percent])[];
}[] = [
  {
    name: 'build',
    points: [
      [0, 20],
      [1, 95],
    ],
  },
  {
    name: 'arch',
    points: [
      [0, 25],
      [0.6, 95],
      [1, 30],
    ],
  },
  {
    name: 'waves',
    points: [
      [0, 30],
      [0.2, 75],
      [0.35, 40],
      [0.55, 85],
      [0.7, 45],
      [0.9, 95],
      [1, 60],
    ],
  },
  {
    name: 'drop and return',
    points: [
      [0, 55],
      [0.5, 80],
      [0.55, 10],
      [0.7, 20],
      [0.75, 95],
      [1, 80],
    ],
  },
];

/** The points of a shape laid over the running order: at every place's beginning, and where the shape turns. */
export function shapedEnergy(score: Score, shape: (typeof ENERGY_SHAPES)[number]): EnergyPoint[] {
  const placed = layOut(score);
  const end = placed.reduce((total, { length }) => total + length, 0);
  const marks = shape.points.map(([time, value]): Mark => ({ at: time * end, value }));
  return placed.flatMap(({ occurrence, start, length }): EnergyPoint[] => {
    const turns = marks.filter(({ at }) => at > start && at < start + length).map(({ at }) => Math.round(at - start));
    return [...new Set([0, ...turns, length])].map((at) => ({
      occurrence: occurrence.id,
      at,
      value: Math.round(between(marks, start + at)),
    }));
  });
}
