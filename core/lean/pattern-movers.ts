import { clamp, type Ticks } from '../theory/units';
import {
  boundsOf,
  FURTHEST_LOOP,
  MOST_VOICES,
  WANDERING_TICKS,
  type DrawnPattern,
  type Loop,
  type Loops,
  type Pattern,
  type Strip,
  type StripName,
  type Wandering,
} from '../song/schema';
import { loudnessBy, shareBy, type Movers } from './moving';

/** How far a notch moves a range of pitch, in semitones, and by how much longer notes last. */
const [SEMITONES, LONGER] = [3, 1.25];

interface Reaching {
  readonly low: number;
  readonly high: number;
}

/** A range of pitch moved as a whole, as far as MIDI goes. */
function register<P extends Reaching>(of: P, notches: number): P {
  const by = clamp(Math.round(SEMITONES * notches), -of.low, 127 - of.high);
  return { ...of, low: of.low + by, high: of.high + by };
}

/** Lengths of a step that are each twice the next. */
const PACES: readonly Ticks[] = [1920, 960, 480, 240, 120, 60];

/** A step that is by notches shorter, each half as long; one between two goes on from the nearest. */
function paced(rate: Ticks, notches: number): Ticks {
  const by = Math.round(notches);
  if (by === 0) return rate;
  const at = PACES.reduce((best, pace, index) => {
    const far = (one: Ticks): number => Math.abs(Math.log2(one / rate));
    return far(pace) < far(PACES[best] ?? pace) ? index : best;
  }, 0);
  return PACES[clamp(at + by, 0, PACES.length - 1)] ?? rate;
}

/** All values of a strip moved, and what chance may draw with them. */
function strip(name: Exclude<StripName, 'degree'>, move: (value: number, notches: number) => number) {
  return (of: DrawnPattern, notches: number): DrawnPattern => {
    const { low, high } = boundsOf(name, of.degrees);
    const to = (value: number): number => clamp(move(value, notches), low, high);
    const own = of.strips[name];
    const changed: Strip = { ...own, values: own.values.map(to), low: to(own.low), high: to(own.high) };
    return { ...of, strips: { ...of.strips, [name]: changed } };
  };
}

const longer = (percent: number, notches: number): number => Math.round(percent * LONGER ** notches);
const more = (count: number, notches: number): number => Math.round(count + notches);

const DRAWN: Movers<DrawnPattern> = {
  register,
  busyness: strip('likelihood', shareBy),
  loudness: strip('loudness', loudnessBy),
  length: strip('length', longer),
  rolls: strip('strikes', more),
  slide: strip('slide', shareBy),
  swing: (of, notches) => ({ ...of, swing: shareBy(of.swing, notches) }),
  pace: (of, notches) => ({ ...of, rate: paced(of.rate, notches) }),
};

const each =
  (move: (loop: Loop, notches: number) => Loop) =>
  (of: Loops, notches: number): Loops => ({ ...of, loops: of.loops.map((loop) => move(loop, notches)) });

const LOOPS: Movers<Loops> = {
  register,
  busyness: each((loop, notches) => ({ ...loop, chance: shareBy(loop.chance, notches) })),
  loudness: each((loop, notches) => ({ ...loop, loudness: loudnessBy(loop.loudness, notches) })),
  length: (of, notches) => ({ ...of, length: clamp(longer(of.length, notches), 5, 400) }),
  pace: each((loop, notches) => ({ ...loop, rate: paced(loop.rate, notches) })),
  /** Loops further apart, or nearer to each other. */
  stride: each((loop, notches) => ({
    ...loop,
    octave: clamp(loop.octave + Math.sign(loop.octave) * Math.round(notches / 2), -FURTHEST_LOOP, FURTHEST_LOOP),
  })),
};

const ticksBy = (ticks: Ticks, factor: number): Ticks =>
  clamp(Math.round(ticks * factor), WANDERING_TICKS.low, WANDERING_TICKS.high);
const rangeBy = (range: Reaching, factor: number): Reaching => ({
  low: ticksBy(range.low, factor),
  high: ticksBy(range.high, factor),
});

const WANDERING: Movers<Wandering> = {
  // Keys of a kit are no pitches.
  register: (of, notches) => (of.tones === 'kit' ? of : register(of, notches)),
  busyness: (of, notches) => ({ ...of, density: shareBy(of.density, notches) }),
  loudness: (of, notches) => ({
    ...of,
    loudness: { low: loudnessBy(of.loudness.low, notches), high: loudnessBy(of.loudness.high, notches) },
  }),
  length: (of, notches) => ({ ...of, length: rangeBy(of.length, LONGER ** notches) }),
  stride: (of, notches) => ({ ...of, stride: shareBy(of.stride, notches) }),
  voices: (of, notches) => ({ ...of, voices: clamp(more(of.voices, notches), 1, MOST_VOICES) }),
  rolls: (of, notches) => ({ ...of, double: shareBy(of.double, notches) }),
  pace: (of, notches) => ({
    ...of,
    gap: rangeBy(of.gap, 2 ** -Math.round(notches)),
    division: of.division === null ? null : paced(of.division, notches),
  }),
};

/** How the settings of a pattern lean. */
export function patternMovers({ of }: Pattern): Movers<Pattern> {
  const movers = { drawn: DRAWN, loops: LOOPS, wandering: WANDERING }[of];
  // A mover of a kind is asked with patterns of that kind alone.
  return movers as Movers<Pattern>;
}
