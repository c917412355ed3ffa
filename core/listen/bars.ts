import { modulo } from '../theory/units';
import type { Beats } from './beats';
import { FRAMES_A_SECOND } from './frames';
import type { HeardSound } from './heard-sound';

/**
 * Bar lines: every beat is asked how much speaks for it as the first of its bar. Harmony changes there, basses and kicks
 * are struck there, long notes begin there (D. Temperley, “The Cognition of Basic Musical Structures”, 2001).
 */

/** What speaks for a beat as the first of its bar. */
const WEIGHTS = { harmony: 1.2, bass: 1, low: 0.6, high: -0.35, length: 0.7 } as const;
type Kind = keyof typeof WEIGHTS;
const KINDS = Object.keys(WEIGHTS) as Kind[];
/** What is struck so near to a beat, in seconds, is struck on it. */
const NEAR = 0.07;
const BASS_BELOW = 52;
/** Music mostly begins with a bar: this speaks for the place that the first note stands on. */
const OPENING = 0.1;
/** Bars of a rarer count have to be so much more like each other than bars of the usual one. */
const RARER = 0.06;
/** Beats between the heard ones have to have first beats that are so much clearer. */
const CLEARER = 1;

/** Where bars begin. */
export interface Bars {
  readonly beats: Beats;
  /** Beats in a bar. */
  readonly count: number;
  /** The index of a beat that a bar begins on, less than `count`. */
  readonly first: number;
}

type Evidence = Readonly<Record<Kind, Float64Array>>;

const standardised = (values: Float64Array): Float64Array => {
  const mean = values.reduce((sum, value) => sum + value, 0) / Math.max(1, values.length);
  const spread = Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / Math.max(1, values.length));
  return spread === 0 ? values.map(() => 0) : values.map((value) => (value - mean) / spread);
};

/** The loudest stroke near each beat. */
function strokesOn(times: readonly number[], strokes: Float32Array): Float64Array {
  return Float64Array.from(times, (time) => {
    const frame = Math.round(time * FRAMES_A_SECOND);
    return Math.max(0, ...[-2, -1, 0, 1, 2, 3].map((beside) => Math.min(10, strokes[frame + beside] ?? 0)));
  });
}

/** How much of each pitch class sounds from each beat to the next. */
function chromaOf({ notes }: HeardSound, times: readonly number[]): Float64Array[] {
  const chroma = times.map(() => new Float64Array(12));
  let from = 0;
  for (const { start, end, pitch, strength } of notes) {
    while (from < times.length - 1 && (times[from + 1] as number) <= start + NEAR) from++;
    for (let beat = from; beat < times.length && (times[beat] as number) < end; beat++) {
      const until = Math.min(end, times[beat + 1] ?? end);
      const sounding = until - Math.max(start, times[beat] as number);
      const own = chroma[beat];
      if (own && sounding > 0) own[modulo(pitch, 12)] = (own[modulo(pitch, 12)] as number) + sounding * strength;
    }
  }
  return chroma;
}

function unlike(a: Float64Array, b: Float64Array): number {
  let [both, own, other] = [0, 0, 0];
  for (let at = 0; at < a.length; at++) {
    both += (a[at] as number) * (b[at] as number);
    own += (a[at] as number) ** 2;
    other += (b[at] as number) ** 2;
  }
  return own * other === 0 ? 0 : 1 - both / Math.sqrt(own * other);
}

const added = (lists: readonly (Float64Array | undefined)[]): Float64Array =>
  Float64Array.from({ length: 12 }, (_, at) => lists.reduce((sum, list) => sum + (list?.[at] ?? 0), 0));

/** What is heard on each beat, each kind with a mean of 0 and a spread of 1. */
function evidenceOf(sound: HeardSound, times: readonly number[]): Evidence {
  const chroma = chromaOf(sound, times);
  const [bass, length] = [new Float64Array(times.length), new Float64Array(times.length)];
  let beat = 0;
  for (const { start, end, pitch, strength } of sound.notes) {
    while (
      beat < times.length - 1 &&
      Math.abs((times[beat + 1] as number) - start) < Math.abs((times[beat] as number) - start)
    )
      beat++;
    if (Math.abs((times[beat] as number) - start) > NEAR) continue;
    if (pitch < BASS_BELOW) bass[beat] = Math.max(bass[beat] as number, strength);
    length[beat] = (length[beat] as number) + Math.min(2, end - start) * strength;
  }
  const harmony = Float64Array.from(times, (_, at) =>
    unlike(added([chroma[at - 1], chroma[at - 2]]), added([chroma[at], chroma[at + 1]])),
  );
  return {
    harmony: standardised(harmony),
    bass: standardised(bass),
    low: standardised(strokesOn(times, sound.strokes.low)),
    high: standardised(strokesOn(times, sound.strokes.high)),
    length: standardised(length),
  };
}

/** The beats between which anything sounds. */
function soundingBeats({ notes, seconds }: HeardSound, times: readonly number[]): readonly [from: number, to: number] {
  const [first, last] = [notes[0]?.start ?? 0, notes.reduce((end, note) => Math.max(end, note.start), 0)];
  const from = times.findIndex((time) => time >= first - NEAR);
  const to = times.findIndex((time) => time > Math.min(seconds, last + NEAR));
  return [Math.max(0, from), to < 0 ? times.length : to];
}

/** How much speaks for each place of a bar as its first. */
const forPlaces = (evidence: Evidence, [from, to]: readonly [number, number], count: number): readonly number[] =>
  Array.from({ length: count }, (_, place) => {
    let [sum, number] = [0, 0];
    for (let beat = from; beat < to; beat++) {
      if (beat % count !== place) continue;
      number++;
      for (const kind of KINDS) sum += WEIGHTS[kind] * (evidence[kind][beat] as number);
    }
    const opening = from % count === place ? OPENING : 0;
    return number === 0 ? Number.NEGATIVE_INFINITY : sum / number + opening;
  });

/** How alike beats are that lie so many beats apart. */
function alike(evidence: Evidence, [from, to]: readonly [number, number], apart: number): number {
  let [sum, number] = [0, 0];
  for (let beat = from; beat + apart < to; beat++) {
    number++;
    for (const kind of KINDS)
      sum += Math.abs(WEIGHTS[kind]) * (evidence[kind][beat] as number) * (evidence[kind][beat + apart] as number);
  }
  const whole = KINDS.reduce((total, kind) => total + Math.abs(WEIGHTS[kind]), 0);
  return number === 0 ? 0 : sum / number / whole;
}

const greatest = (values: readonly number[]): number => values.indexOf(Math.max(...values));

/** Beats in a bar as they are heard: the first of two counts has to be so much clearer than the usual one. */
function countOf(evidence: Evidence, stretch: readonly [number, number], counts: readonly number[]): number {
  const [rarer = 4, usual] = counts;
  if (usual === undefined) return rarer;
  const [one = 0, other = 0] = [rarer, usual].map(
    (count) => (alike(evidence, stretch, count) + alike(evidence, stretch, 2 * count)) / 2,
  );
  return one > other + RARER ? rarer : usual;
}

const betweenOf = ({ times, even }: Beats): Beats => ({
  times: times.slice(1).map((time, index) => (time + (times[index] ?? time)) / 2),
  even,
});

/**
 * Finds the bar lines.
 *
 * @param counts  beats that a bar may have: one, or a rarer and a usual count
 */
export function barsIn(sound: HeardSound, heard: Beats, counts: readonly number[]): Bars {
  const tried = [heard, betweenOf(heard)].map((beats) => {
    const evidence = evidenceOf(sound, beats.times);
    const stretch = soundingBeats(sound, beats.times);
    const count = countOf(evidence, stretch, counts);
    const places = forPlaces(evidence, stretch, count);
    return { beats, count, first: greatest(places), clear: Math.max(...places), weight: onBeats(sound, beats.times) };
  });
  const [straight, between] = tried as [(typeof tried)[number], (typeof tried)[number]];
  const turned = between.weight > straight.weight && between.clear > straight.clear + CLEARER;
  const { beats, count, first } = turned ? between : straight;
  return { beats, count, first };
}

/** How far a bar line may lie beside a beat, in beats: one that lies further lies between two. */
const BESIDE = 0.25;

/**
 * Bars from a bar line that is known.
 *
 * @param line    a moment that a bar begins at, in seconds
 * @param counts  as above; the usual one is taken
 */
export function barsFrom(heard: Beats, line: number, counts: readonly number[]): Bars {
  const nearest = ({ times }: Beats): number =>
    times.reduce((best, time, at) => (Math.abs(time - line) < Math.abs((times[best] as number) - line) ? at : best), 0);
  const count = counts.at(-1) ?? 4;
  const own = nearest(heard);
  const step = Math.abs((heard.times[own + 1] ?? heard.times[own - 1] ?? 0) - (heard.times[own] ?? 0));
  const beats = Math.abs((heard.times[own] ?? 0) - line) > BESIDE * step ? betweenOf(heard) : heard;
  return { beats, count, first: nearest(beats) % count };
}

/** How strongly kicks and basses fall on beats, against what a recording has of them on average. */
function onBeats({ notes, strokes }: HeardSound, times: readonly number[]): number {
  const low = strokesOn(times, strokes.low).reduce((sum, value) => sum + value, 0) / Math.max(1, times.length) / 2;
  const basses = notes.filter(({ pitch }) => pitch < BASS_BELOW);
  let [beat, near] = [0, 0];
  for (const { start } of basses) {
    while (beat < times.length - 1 && (times[beat] as number) < start - NEAR) beat++;
    if (Math.abs((times[beat] as number) - start) < NEAR) near++;
  }
  return WEIGHTS.low * low + (basses.length === 0 ? 0 : (WEIGHTS.bass * near) / basses.length);
}
