import { CURVE_KINDS, curveOf } from '../../song/curve';
import { TONE_KINDS, type MoveKind } from '../../song/moves';
import type { Curve, CurveKind, Tone } from '../../song/schema';
import { aroundController, levelController } from '../../sounding/setup';
import { clamp, countLeading, type Semitones, type Ticks } from '../../theory/units';
import type { MidiEvent } from './midi-write';

/** Bends, vibrato and swells as MIDI says them, out and in: pitch bend with its range, modulation, expression. */

/** The MIDI controllers of vibrato and swell. */
const [MODULATION, EXPRESSION] = [1, 11];
/** The middle of a bend, where nothing is bent, and its furthest. */
const [MIDDLE, FURTHEST] = [8192, 8191];
/** Ranges that a bend can be given in, in semitones; the first is every synthesizer's own. */
const RANGES = [2, 12, 24] as const;

interface Control {
  readonly control: CurveKind | MoveKind;
  readonly value: number;
}

/** The narrowest range that holds all bends, in semitones; null where nothing is bent. */
export function bendRange(controls: readonly Control[]): Semitones | null {
  const bends = controls.filter(({ control }) => control === 'bend').map(({ value }) => Math.abs(value));
  if (bends.length === 0) return null;
  const widest = Math.max(...bends) / 100;
  return RANGES.find((range) => range >= widest) ?? 24;
}

/** A bend of so many cents in a range, 0–16383. */
export const bendValue = (cents: number, range: Semitones): number =>
  clamp(Math.round(MIDDLE + (cents / (100 * range)) * FURTHEST), 0, 16_383);

type ByController = Exclude<Control['control'], 'bend'>;

const CONTROLLERS: Readonly<Record<ByController, number>> = {
  vibrato: MODULATION,
  level: 7,
  pan: 10,
  swell: EXPRESSION,
  release: 72,
  attack: 73,
  brightness: 74,
  room: 91,
  chorus: 93,
};
/** Those that go either way from the middle of their controller. */
const AROUND: ReadonlySet<string> = new Set(['pan', 'brightness', 'attack', 'release']);

const KINDS: ReadonlyMap<number, { readonly kind: ByController; readonly around: boolean }> = new Map(
  Object.entries(CONTROLLERS).map(([kind, controller]) => [
    controller,
    { kind: kind as ByController, around: AROUND.has(kind) },
  ]),
);

/** What a MIDI controller moves, and whether it goes either way from its middle; undefined for all others. */
export const kindOfController = (
  controller: number,
): { readonly kind: ByController; readonly around: boolean } | undefined => KINDS.get(controller);

/** A MIDI controller and its value, 0–127. */
export const controllerOf = (control: ByController, value: number): { controller: number; value: number } => ({
  controller: CONTROLLERS[control],
  value: AROUND.has(control) ? aroundController(value) : levelController(value),
});

type ControlValue =
  | { readonly kind: 'bend'; readonly value: number }
  | { readonly kind: 'controller'; readonly controller: number; readonly value: number };

export function controlValue({ control, value }: Control, range: Semitones | null): ControlValue {
  if (control === 'bend') return { kind: 'bend', value: bendValue(value, range ?? RANGES[0]) };
  return { kind: 'controller', ...controllerOf(control, value) };
}

/** The controllers of a tone, those that it says something of. */
export const toneControllers = (tone: Tone): { readonly controller: number; readonly value: number }[] =>
  TONE_KINDS.flatMap((kind) => {
    const value = tone[kind];
    return value === undefined ? [] : [controllerOf(kind, value)];
  });

/** Sets how far a bend goes (registered parameter 0), and closes the parameter, so that nothing else changes it. */
export const rangeEvents = (range: Semitones | null, channel: number): MidiEvent[] =>
  range === null
    ? []
    : (
        [
          [101, 0],
          [100, 0],
          [6, range],
          [38, 0],
          [101, 127],
          [100, 127],
        ] as const
      ).map(([controller, value]) => ({ at: 0, kind: 'controller', channel, controller, value }));

/** What one channel of a file does besides its notes; values in the unit of their curve. */
export type ReadControls = Readonly<Record<CurveKind, readonly { readonly at: Ticks; readonly value: number }[]>>;

interface Sounding {
  readonly start: Ticks;
  readonly duration: Ticks;
}

/** Swells that always have one value are a level: they say nothing of single notes. */
export const saysSomething = (controls: ReadControls): ReadControls => ({
  ...controls,
  swell: controls.swell.some(({ value }) => value !== controls.swell[0]?.value) ? controls.swell : [],
});

/**
 * What a note's own curves are in a file: how its channel was bent, trembled and swelled from its start to its end.
 *
 * @param controls  each kind in order of its moments
 * @returns no curve of what only rests
 */
export function curvesOver({ start, duration }: Sounding, controls: ReadControls): Partial<Record<CurveKind, Curve>> {
  return Object.fromEntries(
    CURVE_KINDS.flatMap((kind) => {
      const events = controls[kind];
      const rest = kind === 'swell' ? 100 : 0;
      if (events.length === 0) return [];
      const first = countLeading(events, ({ at }) => at <= start);
      const before = events[first - 1]?.value ?? rest;
      const during = events.slice(
        first,
        countLeading(events, ({ at }) => at < start + duration),
      );
      if (during.length === 0 && before === rest) return [];
      // A value stays until the next one: two points make each step.
      const points = during.flatMap(({ at, value }, index) => [
        { at: at - start - 1, value: during[index - 1]?.value ?? before },
        { at: at - start, value },
      ]);
      const curve = curveOf(kind, [{ at: 0, value: before }, ...smooth(points)]);
      return curve ? [[kind, curve] as const] : [];
    }),
  );
}

/** Steps that follow each other closely are one line: only a step after a rest keeps its edge. */
const CLOSE: Ticks = 60;

function smooth(points: readonly { at: Ticks; value: number }[]): { at: Ticks; value: number }[] {
  return points.filter((point, index) => {
    const edge = index % 2 === 0;
    const before = points[index - 1];
    return !edge || point.at + 1 - (before?.at ?? 0) > CLOSE;
  });
}
