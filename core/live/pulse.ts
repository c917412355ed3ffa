import { sum, TICKS_PER_QUARTER, type Ticks } from '../theory/units';

/** A tempo that was found in playing: when each quarter began, in seconds. */
export interface Pulse {
  /** BPM, on the whole. */
  readonly tempo: number;
  /** The place of a moment, in ticks from the first beat. */
  readonly ticksAt: (seconds: number) => Ticks;
}

/** What is struck within so many seconds is one stroke. */
const ONE_STROKE = 0.045;
/** How far the tempo that is looked for may lie from the one expected: half an octave either way, so that it is never doubled. */
const REACH = 1.41;
/** Tempos that are tried, each so much quicker than the one before. */
const STEP = 1.004;
/** How quickly the pulse follows hands that hurry or drag. */
const [PULL, PERIOD_PULL] = [0.2, 0.05];

/** Strokes, each by its first note, in seconds, rising. */
function strokesIn(onsets: readonly number[]): readonly number[] {
  const sorted = [...onsets].sort((a, b) => a - b);
  return sorted.filter((at, index) => index === 0 || at - (sorted[index - 1] as number) > ONE_STROKE);
}

/** How well onsets agree with a period: the length of their mean direction on its circle, 0–1. */
function agreement(onsets: readonly number[], period: number): number {
  let [x, y] = [0, 0];
  for (const at of onsets) {
    const angle = (2 * Math.PI * at) / period;
    x += Math.cos(angle);
    y += Math.sin(angle);
  }
  return Math.sqrt(x * x + y * y) / Math.max(1, onsets.length);
}

/**
 * The tempo of what was played freely, and where each moment lies in it. The period is the one on whose beats, eighths and
 * sixteenths the strokes lie most nearly (mean direction on the circle: Fisher, Statistical Analysis of Circular Data,
 * 1993); from stroke to stroke the pulse then gives way a little, as a listener's does (Large and Jones, The dynamics of
 * attending, 1999).
 *
 * @param onsets  in seconds
 * @param around  the tempo that is expected, in BPM
 * @returns the pulse, its first beat the one nearest to the first stroke; as expected where there is too little to tell
 */
export function foundPulse(onsets: readonly number[], around: number): Pulse {
  const strokes = strokesIn(onsets);
  const [first] = strokes;
  const usual = 60 / around;
  if (first === undefined) return { tempo: around, ticksAt: () => 0 };
  const shifted = strokes.map((at) => at - first);
  const period = shifted.length < 4 ? usual : bestPeriod(shifted, usual);
  const beats = followed(shifted, period);
  const [start, end] = [beats[0], beats.at(-1)];
  const quarters = start && end ? (end.beat - start.beat) / Math.max(1e-9, end.at - start.at) : 0;
  return {
    tempo: Math.round(600 * (quarters > 0 && beats.length > 3 ? quarters : 1 / period)) / 10,
    ticksAt: (seconds) => Math.round(beatAt(beats, seconds - first, period) * TICKS_PER_QUARTER),
  };
}

/** How much each division of a beat speaks for a period: all else alike, beats count most. */
const DIVISIONS = [
  [1, 0.5],
  [2, 0.8],
  [4, 1],
] as const;

/** Strokes that are looked at together: over more of them, hands are not as even as that. */
const TOGETHER = 16;

function bestPeriod(onsets: readonly number[], usual: number): number {
  const windows = Array.from({ length: Math.ceil(onsets.length / TOGETHER) }, (_, index) =>
    onsets.slice(index * TOGETHER, (index + 1) * TOGETHER),
  ).filter((window, index) => index === 0 || window.length > TOGETHER / 2);
  let best = { period: usual, score: -1 };
  for (let period = usual / REACH; period <= usual * REACH; period *= STEP) {
    const agreed = ([division, weight]: readonly [number, number]): number =>
      weight * sum(windows.map((window) => agreement(window, period / division)));
    const score = sum(DIVISIONS.map(agreed));
    if (score > best.score) best = { period, score };
  }
  return best.period;
}

interface Beat {
  readonly at: number;
  readonly beat: number;
}

/** Where each stroke lies, in beats: the pulse moves towards the sixteenth that a stroke lies nearest to. */
function followed(onsets: readonly number[], first: number): readonly Beat[] {
  let [period, last, beat] = [first, 0, 0];
  return onsets.map((at) => {
    const reached = beat + (at - last) / period;
    const nearest = Math.round(reached * 4) / 4;
    const error = nearest - reached;
    period *= 1 - PERIOD_PULL * error;
    beat = reached + PULL * error;
    last = at;
    return { at, beat };
  });
}

/** Between strokes the pulse goes evenly, and on and on after the last. */
function beatAt(beats: readonly Beat[], at: number, period: number): number {
  const next = beats.findIndex((stroke) => stroke.at >= at);
  const [before, after] = [beats[next - 1], beats[next]];
  if (next < 0) {
    const last = beats.at(-1);
    return last ? last.beat + (at - last.at) / period : 0;
  }
  if (!before || !after) return (beats[0]?.beat ?? 0) + (at - (beats[0]?.at ?? 0)) / period;
  return before.beat + ((after.beat - before.beat) * (at - before.at)) / Math.max(1e-9, after.at - before.at);
}
