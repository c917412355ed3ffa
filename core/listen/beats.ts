import { clamp, modulo } from '../theory/units';
import { FRAMES_A_SECOND } from './frames';
import { topOf } from './transcribed';

/**
 * Beats, by the period at which a recording is most like itself and the course of beats that meets most of what is
 * struck (D. Ellis, “Beat Tracking by Dynamic Programming”, 2007).
 */

/** The tempo that people tap to most gladly, in beats a minute, and how far, in octaves, they go from it. */
const [USUAL, WIDTH] = [126, 0.9] as const;
const [SLOWEST, FASTEST] = [48, 216] as const;
/** Tempi are tried in steps of this share. */
const FINE = 1.004;
/** How likeness at so many beats' distance counts: what comes again after whole bars says most. */
const ALIKE: readonly (readonly [beats: number, weight: number])[] = [
  [1, 0.8],
  [2, 0.9],
  [3, 0.2],
  [4, 1.3],
  [8, 1.2],
  [16, 0.6],
];
/** What leaving the tempo costs. */
const TIGHT = 300;
/** Beats that lie nearer than this to an even course, in seconds, in the middle, were meant to be even. */
const EVEN = 0.022;
/** The ends of a course may be moved by this, in seconds, to bring it onto a whole tempo. */
const HARDLY = 0.016;

/** Beats in order, in seconds; some lie before the first note, some behind the last. */
export interface Beats {
  readonly times: readonly number[];
  /** True where they come as even as a machine's. */
  readonly even: boolean;
}

/** How alike the pulse is to itself so many frames later; between frames too. */
function likeness(pulse: Float32Array): (lag: number) => number {
  const whole = new Map<number, number>();
  const at = (lag: number): number => {
    const known = whole.get(lag);
    if (known !== undefined) return known;
    let sum = 0;
    for (let frame = lag; frame < pulse.length; frame++)
      sum += (pulse[frame] as number) * (pulse[frame - lag] as number);
    // What is compared less often would seem less alike.
    const value = pulse.length > lag ? (sum * pulse.length) / (pulse.length - lag) : 0;
    whole.set(lag, value);
    return value;
  };
  return (lag) => {
    const frame = Math.floor(lag);
    return at(frame) + (lag - frame) * (at(frame + 1) - at(frame));
  };
}

/** How gladly people tap so fast. */
const gladly = (tempo: number): number => Math.exp(-0.5 * (Math.log2(tempo / USUAL) / WIDTH) ** 2);

/**
 * The tempo of a pulse, in beats a minute; the usual one where nothing repeats.
 *
 * @param near  looks only near this tempo
 */
export function tempoOf(pulse: Float32Array, near?: number): number {
  const alike = likeness(pulse);
  const [from, to] = near === undefined ? [SLOWEST, FASTEST] : [near * 0.94, near * 1.06];
  let [best, most] = [near ?? USUAL, 0];
  for (let tempo = from; tempo <= to; tempo *= FINE) {
    const period = (60 * FRAMES_A_SECOND) / tempo;
    const score = ALIKE.reduce(
      (sum, [beats, weight]) => sum + (beats * period < pulse.length / 2 ? weight * alike(beats * period) : 0),
      0,
    );
    const weighed = score * (near === undefined ? gladly(tempo) : 1);
    if (weighed > most) [best, most] = [tempo, weighed];
  }
  return best;
}

/** A tempo that moves is looked at in stretches of so many frames, each second; from one to the next it moves by no more. */
const [STRETCH, EACH, MOVES] = [Math.round(8 * FRAMES_A_SECOND), Math.round(FRAMES_A_SECOND), 1.06] as const;

/** The period around a frame that is most like itself, near the one beside it. */
function periodAround(pulse: Float32Array, frame: number, beside: number): number {
  const alike = likeness(pulse.subarray(Math.max(0, frame - STRETCH / 2), frame + STRETCH / 2));
  let [best, most] = [beside, 0];
  for (let period = beside / MOVES; period <= beside * MOVES; period *= 1.01) {
    const score = alike(period) + alike(2 * period) + alike(4 * period) / 2;
    if (score > most) [best, most] = [period, score];
  }
  return best;
}

/** The period around every second of a pulse: from the middle, where it is known, to both ends. */
function periodsOf(pulse: Float32Array, period: number): Float64Array {
  const periods = new Float64Array(Math.ceil(pulse.length / EACH) + 1).fill(period);
  const middleOf = periods.length >> 1;
  for (const step of [1, -1])
    for (let at = middleOf; at >= 0 && at < periods.length; at += step)
      periods[at] = periodAround(pulse, at * EACH, at === middleOf ? period : (periods[at - step] as number));
  return periods;
}

/** The course of beats that meets most of the pulse at a tempo, in frames. */
function courseOf(pulse: Float32Array, period: number): number[] {
  const periods = periodsOf(pulse, period);
  const spread = Math.sqrt(pulse.reduce((sum, value) => sum + value * value, 0) / Math.max(1, pulse.length)) || 1;
  const [nearest, furthest] = [Math.max(1, Math.round(period / 2)), Math.round(2 * period)];
  const logs = Float64Array.from({ length: furthest + 1 }, (_, lag) => Math.log(Math.max(1, lag)));
  const [scores, before] = [new Float64Array(pulse.length), new Int32Array(pulse.length).fill(-1)];
  for (let frame = 0; frame < pulse.length; frame++) {
    let [best, from] = [0, -1];
    const own = Math.log(periods[Math.round(frame / EACH)] as number);
    for (let lag = nearest; lag <= furthest && lag <= frame; lag++) {
      const score = (scores[frame - lag] as number) - TIGHT * ((logs[lag] as number) - own) ** 2;
      if (score > best) [best, from] = [score, frame - lag];
    }
    scores[frame] = (pulse[frame] as number) / spread + best;
    before[frame] = from;
  }
  // The last beat lies within the last period that anything is struck in.
  let last = pulse.length - 1;
  while (last > 0 && (pulse[last] as number) < spread / 2) last--;
  let end = last;
  for (let frame = Math.max(0, last - Math.round(period)); frame <= last; frame++)
    if ((scores[frame] as number) > (scores[end] as number)) end = frame;
  const course: number[] = [];
  for (let frame = end; frame >= 0; frame = before[frame] as number) course.unshift(frame);
  return course;
}

const middle = (values: readonly number[]): number => values.toSorted((a, b) => a - b)[values.length >> 1] ?? 0;

/** An even course: the frame of its first beat, and its period in frames. */
interface Line {
  readonly first: number;
  readonly period: number;
}

/** How much of the pulse an even course meets. */
function met(pulse: Float32Array, { first, period }: Line): number {
  let sum = 0;
  for (let place = first; place < pulse.length - 1; place += period) {
    const frame = Math.floor(place);
    const [a, b] = [pulse[frame] as number, pulse[frame + 1] as number];
    sum += a + (place - frame) * (b - a);
  }
  return sum;
}

/** The even course near a tempo that meets most: both are looked for finer and finer. */
function evenCourse(pulse: Float32Array, period: number): Line {
  let best: Line = { first: 0, period };
  let most = -1;
  const beats = Math.max(4, pulse.length / period);
  const tryAll = (around: Line, width: number, step: number, reach: number, move: number): void => {
    for (let own = around.period - width; own <= around.period + width; own += step)
      for (let first = around.first - reach; first <= around.first + reach; first += move) {
        const line = { first: ((first % own) + own) % own, period: own };
        const sum = met(pulse, line) / (1 + pulse.length / own);
        if (sum > most) [best, most] = [line, sum];
      }
  };
  // Steps so fine that the last beat is off by no more than a frame.
  tryAll({ first: period / 2, period }, period * 0.02, 1.5 / beats, period / 2, 1);
  tryAll(best, 1.5 / beats, 0.2 / beats, 1, 0.25);
  return onWholeTempo(best, pulse.length);
}

/** Machines keep whole tempos: the same course at the nearest of them, where that turns its ends by hardly anything. */
function onWholeTempo(line: Line, frames: number): Line {
  const period = (60 * FRAMES_A_SECOND) / Math.round((60 * FRAMES_A_SECOND) / line.period);
  const beats = Math.round(frames / 2 / line.period);
  const turned = Math.abs(period - line.period) * beats;
  if (turned > HARDLY * FRAMES_A_SECOND) return line;
  // Both have the beat in the middle of the recording.
  return { period, first: modulo(line.first + beats * (line.period - period), period) };
}

/** Beats of a course in frames, between frames where the pulse says so. */
const refined = (pulse: Float32Array, course: readonly number[]): number[] =>
  course.map((frame) => frame + topOf(pulse[frame - 1] ?? 0, pulse[frame] ?? 0, pulse[frame + 1] ?? 0));

/**
 * The beats of a recording.
 *
 * @param pulse  how strongly each frame pulses
 * @param tempo  in beats a minute; beats are looked for near it
 */
export function beatsOf(pulse: Float32Array, tempo: number): Beats {
  const period = (60 * FRAMES_A_SECOND) / tempo;
  if (pulse.length < 4 * period) return evenly({ first: 0, period }, pulse.length);
  const line = evenCourse(pulse, period);
  const course = refined(pulse, courseOf(pulse, line.period));
  const struck = course.filter((frame) => (pulse[Math.round(frame)] ?? 0) > 0.5);
  const off = struck.map((frame) => {
    const beats = (frame - line.first) / line.period;
    return Math.abs(beats - Math.round(beats)) * line.period;
  });
  // What lies between two beats of the even course is a turn of it, and no unevenness.
  const turned = off.map((value) => Math.min(value, Math.abs(line.period / 2 - value)));
  if (middle(turned) < EVEN * FRAMES_A_SECOND) return evenly(line, pulse.length);
  const played = smoothedCourse(course, struck, line.period);
  return { times: extended(played, line.period, pulse.length).map((frame) => frame / FRAMES_A_SECOND), even: false };
}

/** Beats that nothing is struck on lie evenly between those that are. */
function smoothedCourse(course: readonly number[], struck: readonly number[], period: number): readonly number[] {
  const known = new Set(struck);
  const sure = course.flatMap((frame, index) => (known.has(frame) ? [index] : []));
  if (sure.length < 2) return course.map((_, index) => (course[0] ?? 0) + index * period);
  return course.map((frame, index) => {
    if (known.has(frame)) return frame;
    const after = sure.findIndex((place) => place > index);
    // Before the first and after the last, the two that are nearest.
    const upper = clamp(after < 0 ? sure.length - 1 : after, 1, sure.length - 1);
    const [a, b] = [sure[upper - 1] ?? 0, sure[upper] ?? 0];
    const [from, to] = [course[a] ?? 0, course[b] ?? 0];
    return from + ((to - from) * (index - a)) / (b - a);
  });
}

/** Beats of a course, and on at its tempo to both ends of the recording, and a bar beyond. */
function extended(course: readonly number[], period: number, frames: number): number[] {
  const all = [...course];
  while ((all[0] ?? 0) > -8 * period) all.unshift((all[0] ?? 0) - period);
  while ((all.at(-1) ?? 0) < frames + 8 * period) all.push((all.at(-1) ?? 0) + period);
  return all;
}

const evenly = ({ first, period }: Line, frames: number): Beats => ({
  times: extended([first], period, frames).map((frame) => frame / FRAMES_A_SECOND),
  even: true,
});

/** The tempo of beats, in beats a minute, in the middle. */
export const tempoOfBeats = ({ times }: Beats): number => {
  const steps = times.slice(1).map((time, index) => time - (times[index] ?? 0));
  return clamp(60 / (middle(steps) || 0.5), 20, 400);
};
