import {
  boundsOf,
  MOST_OTHERS,
  MOST_STEPS,
  type Brief,
  type DegreesOf,
  type DrawnPattern,
  type OtherNote,
  type Pattern,
  type Strip,
  type StripName,
} from '../song/schema';
import type { Key } from '../theory/key';
import { clamp, modulo, range, type MidiNote } from '../theory/units';
import { pitchOfDegree } from './degrees';

/** Every edit of a pattern is a pure function from one to the next; an edit of a valid one is valid. */

const withStrip = (pattern: DrawnPattern, name: StripName, change: (strip: Strip) => Strip): DrawnPattern => ({
  ...pattern,
  strips: { ...pattern.strips, [name]: change(pattern.strips[name]) },
});

const toggled = (steps: readonly number[], step: number): number[] =>
  steps.includes(step) ? steps.filter((other) => other !== step) : [...steps, step].sort((a, b) => a - b);

/** Draws one step of a strip. */
export function withValue(pattern: DrawnPattern, name: StripName, step: number, value: number): DrawnPattern {
  const { low, high } = boundsOf(name, pattern.degrees);
  return withStrip(pattern, name, (strip) => ({
    ...strip,
    values: strip.values.map((own, index) => (index === step ? clamp(Math.round(value), low, high) : own)),
  }));
}

/** Makes a strip so many steps long: what it gets is what it has, said again. */
export function withSteps(pattern: DrawnPattern, name: StripName, steps: number): DrawnPattern {
  const length = clamp(Math.round(steps), 1, MOST_STEPS);
  const stays = (step: number): boolean => step < length;
  const changed = withStrip(pattern, name, (strip) => ({
    ...strip,
    values: range(length).map((index) => strip.values[modulo(index, strip.values.length)] ?? strip.low),
    held: strip.held.filter(stays),
  }));
  if (name !== 'degree') return changed;
  return { ...changed, ties: pattern.ties.filter(stays), others: pattern.others.filter(({ step }) => stays(step)) };
}

/** Holds a step on from the one before, or strikes it again. */
export const withTie = (pattern: DrawnPattern, step: number): DrawnPattern => ({
  ...pattern,
  ties: toggled(pattern.ties, step),
});

/** Holds a step against chance, or lets it go. */
export const withHeldStep = (pattern: DrawnPattern, name: StripName, step: number): DrawnPattern =>
  withStrip(pattern, name, (strip) => ({ ...strip, held: toggled(strip.held, step) }));

/** Holds a whole strip against chance, or lets it go. */
export const withStillStrip = (pattern: DrawnPattern, name: StripName): DrawnPattern =>
  withStrip(pattern, name, (strip) => ({ ...strip, still: !strip.still }));

/** Says in which range chance may draw. */
export function withRange(pattern: DrawnPattern, name: StripName, from: number, to: number): DrawnPattern {
  const { low, high } = boundsOf(name, pattern.degrees);
  const [least, most] = [Math.min(from, to), Math.max(from, to)].map((end) => clamp(Math.round(end), low, high));
  return withStrip(pattern, name, (strip) => ({ ...strip, low: least ?? low, high: most ?? high }));
}

/** What a step may take instead of its own note; as much as there is room for. */
export function withOthers(
  pattern: DrawnPattern,
  step: number,
  others: readonly Omit<OtherNote, 'step'>[],
): DrawnPattern {
  const { low, high } = boundsOf('degree', pattern.degrees);
  let left = 100;
  const fresh = others.slice(0, MOST_OTHERS).flatMap(({ value, share }): OtherNote[] => {
    const own = Math.min(left, Math.round(share));
    left -= Math.max(0, own);
    return own < 1 ? [] : [{ step, value: clamp(Math.round(value), low, high), share: own }];
  });
  return { ...pattern, others: [...pattern.others.filter((other) => other.step !== step), ...fresh] };
}

/** A range in which the notes of a pattern may lie: it holds an octave at least. */
export function reachBetween(low: MidiNote, high: MidiNote): { readonly low: MidiNote; readonly high: MidiNote } {
  const least = clamp(Math.round(Math.min(low, high)), 0, 116);
  return { low: least, high: clamp(Math.round(Math.max(low, high)), least + 11, 127) };
}

/** A pattern whose notes lie in the reach of another part. */
export const inReachOf = <P extends Pattern>(pattern: P, { low, high }: Pick<Brief, 'low' | 'high'>): P => ({
  ...pattern,
  ...reachBetween(low, high),
});

/** Takes degrees of something else: they stay what they are, but where pitches become degrees or degrees pitches. */
export function withDegrees(pattern: DrawnPattern, degrees: DegreesOf, key: Key): DrawnPattern {
  if (degrees === pattern.degrees) return pattern;
  const { low, high } = boundsOf('degree', degrees);
  const pitchIn = (of: DegreesOf, degree: number): MidiNote =>
    pitchOfDegree(degree, { ...pattern, degrees: of }, undefined, key) ?? pattern.low;
  const nearest = (pitch: MidiNote): number =>
    range(high - low + 1)
      .map((index) => low + index)
      .sort((a, b) => Math.abs(a) - Math.abs(b))
      .reduce((best, degree) =>
        Math.abs(pitchIn(degrees, degree) - pitch) < Math.abs(pitchIn(degrees, best) - pitch) ? degree : best,
      );
  const moved = (value: number): number => {
    if (degrees === 'fixed') return pitchIn(pattern.degrees, value);
    return pattern.degrees === 'fixed' ? nearest(value) : value;
  };
  const strip = pattern.strips.degree;
  const [from, to] = [moved(strip.low), moved(strip.high)];
  return {
    ...pattern,
    degrees,
    others: pattern.others.map((other) => ({ ...other, value: moved(other.value) })),
    strips: {
      ...pattern.strips,
      degree: { ...strip, values: strip.values.map(moved), low: Math.min(from, to), high: Math.max(from, to) },
    },
  };
}
