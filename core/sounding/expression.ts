import { CURVE_KINDS, CURVES, valueAt } from '../song/curve';
import type { Curve, CurveKind, LineId, Note } from '../song/schema';
import type { MoveKind } from '../song/moves';
import { type Ticks } from '../theory/units';
import type { VoiceId } from './setup';

/** A voice is bent, trembles or swells from here on: a value in the unit of its curve, cents or %. */
export interface ControlEvent {
  readonly kind: 'control';
  readonly voice: VoiceId;
  readonly at: Ticks;
  readonly control: CurveKind | MoveKind;
  readonly value: number;
}

/** Between two values of a curve lie at least so many ticks, about 10 ms, and so much. */
const FINEST: Ticks = 10;
const SMALLEST: Readonly<Record<CurveKind | MoveKind, number>> = {
  bend: 4,
  vibrato: 1,
  swell: 1,
  level: 1,
  pan: 2,
  brightness: 2,
  attack: 2,
  release: 2,
  room: 1,
  chorus: 1,
};
/** What rings after a curved note keeps its bend for so long, where nothing else begins: an eighth. */
const AFTER: Ticks = 240;

/** The steps in which a curve is played: at its points, and between them as finely as it needs. */
export function stepsOf(kind: CurveKind | MoveKind, curve: Curve, duration: Ticks): { at: Ticks; value: number }[] {
  const steps = [{ at: 0, value: Math.round(valueAt(curve, 0)) }];
  const edges = [...new Set([0, ...curve.map(({ at }) => at).filter((at) => at < duration), duration])];
  edges.slice(1).forEach((edge, index) => {
    const from = edges[index] as Ticks;
    const far = Math.abs(valueAt(curve, edge) - valueAt(curve, from));
    const count = Math.max(1, Math.min(Math.floor(far / SMALLEST[kind]), Math.floor((edge - from) / FINEST)));
    for (let step = 1; step <= count; step++) {
      const at = Math.round(from + ((edge - from) * step) / count);
      const value = Math.round(valueAt(curve, at));
      if (at < duration && value !== steps.at(-1)?.value) steps.push({ at, value });
    }
  });
  return steps;
}

/**
 * What the curves of some notes do to their voice. A curve is the voice's from its note's start to its end, or until the
 * next note with a curve of its kind begins: what sounds beside it goes along. Then the voice rests again, but not before
 * something else begins: a tail is not torn.
 *
 * @param notes  those that sound, in order, in ticks from the passage's start
 * @param start  of the passage, in ticks of the course
 * @param over   when something else takes the voice over, in ticks of the course
 */
export function controlEvents(
  voice: LineId,
  notes: readonly Note[],
  start: Ticks,
  over: Ticks,
): (ControlEvent & { readonly control: CurveKind })[] {
  return CURVE_KINDS.flatMap((control) => {
    const curved = notes.filter((note) => note[control]);
    return curved.flatMap((note, index) => {
      const next = curved[index + 1]?.start ?? Number.POSITIVE_INFINITY;
      const end = Math.min(note.start + note.duration, next, over - start);
      const event = (at: Ticks, value: number) => ({ kind: 'control' as const, voice, at: start + at, control, value });
      const steps = stepsOf(control, note[control] as Curve, note.duration).filter(({ at }) => note.start + at < end);
      const events = steps.map(({ at, value }) => event(note.start + at, value));
      if (end === next) return events;
      const onset = notes.find((other) => other.start >= end)?.start ?? end + AFTER;
      return [...events, event(Math.min(onset, end + AFTER, over - start), CURVES[control].rest)];
    });
  });
}

/** How curves stand at a moment, by the events before it; at rest where there are none yet. */
export function controlsAt(
  events: readonly (ControlEvent & { readonly control: CurveKind })[],
  at: Ticks,
): ControlEvent[] {
  const seen = new Map<string, ControlEvent>();
  for (const event of events) {
    const name = `${event.voice} ${event.control}`;
    const known = seen.get(name);
    if (event.at < at) seen.set(name, { ...event, at });
    else if (!known) seen.set(name, { ...event, at, value: CURVES[event.control].rest });
  }
  return [...seen.values()];
}
