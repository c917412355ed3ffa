import { TICKS_PER_QUARTER, type Ticks } from '../theory/units';

/** A stretch on one tempo, or on one that changes evenly from tick to tick. */
export interface TempoStretch {
  readonly start: Ticks;
  readonly end: Ticks;
  /** Quarter notes a minute where it starts. */
  readonly tempo: number;
  /** Quarter notes a minute where it ends; as it starts where nothing is said. */
  readonly endTempo?: number;
}

/** From ticks to seconds and back, over every change of tempo. */
export interface TempoMap {
  /** Seconds from tick 0 to a moment; negative before it. */
  readonly secondsAt: (tick: Ticks) => number;
  /** The moment at some seconds from tick 0, seldom a whole tick. */
  readonly tickAt: (seconds: number) => number;
}

interface Piece extends TempoStretch {
  readonly seconds: number;
}

/** Seconds of a tick at a tempo. */
export const secondsPerTick = (tempo: number): number => 60 / (tempo * TICKS_PER_QUARTER);

/** How much the tempo rises with each tick. */
const slopeOf = ({ start, end, tempo, endTempo = tempo }: TempoStretch): number => (endTempo - tempo) / (end - start);

/** Seconds from a stretch's start to a tick in it: the integral of 60 / (480 · tempo) over the ticks. */
function secondsInto(stretch: TempoStretch, tick: Ticks): number {
  const slope = slopeOf(stretch);
  const length = tick - stretch.start;
  if (slope === 0) return length * secondsPerTick(stretch.tempo);
  return (secondsPerTick(1) / slope) * Math.log1p((slope * length) / stretch.tempo);
}

/** The inverse of `secondsInto`. */
function tickIn(stretch: TempoStretch, seconds: number): number {
  const slope = slopeOf(stretch);
  if (slope === 0) return stretch.start + seconds / secondsPerTick(stretch.tempo);
  return stretch.start + (stretch.tempo / slope) * Math.expm1((seconds * slope) / secondsPerTick(1));
}

/** The last of rising values that is not above what is asked for, at least the first. */
function lastUpTo<T>(pieces: readonly T[], valueOf: (piece: T) => number, asked: number): T {
  let [low, high] = [0, pieces.length - 1];
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    if (valueOf(pieces[middle] as T) <= asked) low = middle;
    else high = middle - 1;
  }
  return pieces[low] as T;
}

/**
 * The map of neighbouring stretches. Before the first and after the last, the tempo there goes on.
 *
 * @param stretches  in order, each where the one before it ends; those without length do not count
 * @throws RangeError where there is none
 */
export function tempoMap(stretches: readonly TempoStretch[]): TempoMap {
  const long = stretches.filter(({ start, end }) => end > start);
  const first = long[0] ?? stretches[0];
  const last = long.at(-1) ?? stretches.at(-1);
  if (!first || !last) throw new RangeError('a tempo map needs a stretch');
  const pieces: Piece[] = [];
  const add = (stretch: TempoStretch, seconds: number): number => {
    pieces.push({ ...stretch, seconds });
    return seconds + secondsInto(stretch, stretch.end);
  };
  // Ticks before the first stretch go by its tempo, so that tick 0 is second 0.
  const end = long.reduce((seconds, stretch) => add(stretch, seconds), first.start * secondsPerTick(first.tempo));
  const after = last.endTempo ?? last.tempo;
  pieces.push({ start: last.end, end: last.end + 1, tempo: after, seconds: end });
  return {
    secondsAt: (tick) => {
      if (tick <= first.start) return tick * secondsPerTick(first.tempo);
      const piece = lastUpTo(pieces, ({ start }) => start, tick);
      return piece.seconds + secondsInto(piece, tick);
    },
    tickAt: (seconds) => {
      const piece = lastUpTo(pieces, (one) => one.seconds, seconds);
      if (seconds <= piece.seconds && piece === pieces[0]) return seconds / secondsPerTick(first.tempo);
      return tickIn(piece, seconds - piece.seconds);
    },
  };
}
