import { barTicks } from '../theory/metre';
import { pitchClassOf } from '../theory/pitch';
import { tonicsFor } from '../theory/key';
import { clamp, modulo, range, type Semitones } from '../theory/units';
import type { Stretch } from './bar-edit';
import {
  LARGEST_LIFT,
  type Ground,
  type Occurrence,
  type OccurrenceId,
  type Part,
  type PartId,
  type Score,
} from './schema';

/** What is otherwise in one place of the running order than in the other places of its section. */

const changed = (score: Score, id: OccurrenceId, change: (place: Occurrence) => Occurrence): Score => ({
  ...score,
  order: score.order.map((place) => (place.id === id ? change(place) : place)),
});

/** Lets a place sound higher or lower; by nothing it sounds as its section does. */
export const liftPlace = (score: Score, id: OccurrenceId, lift: Semitones): Score =>
  changed(score, id, ({ lift: _before, ...place }) =>
    lift === 0 ? place : { ...place, lift: clamp(lift, -LARGEST_LIFT, LARGEST_LIFT) },
  );

/** A place in which a part plays all its bars. */
export function playingAll(place: Occurrence, part: PartId): Occurrence {
  const { [part]: _bars, ...others } = place.rests ?? {};
  const { rests: _rests, ...plain } = place;
  return Object.keys(others).length === 0 ? plain : { ...plain, rests: others };
}

/** True where a part rests in all of some bars of a place. */
export const restsIn = ({ rests }: Occurrence, part: PartId, bars: readonly number[]): boolean =>
  bars.length > 0 && bars.every((bar) => rests?.[part]?.includes(bar) ?? false);

/** Lets a part rest in bars of one place, or play in them again where it rests in all of them. */
export const toggleRest = (score: Score, id: OccurrenceId, part: PartId, bars: readonly number[]): Score =>
  changed(score, id, (place) => {
    const now = new Set(place.rests?.[part]);
    const plays = restsIn(place, part, bars);
    for (const bar of bars) {
      if (plays) now.delete(bar);
      else now.add(bar);
    }
    const left = [...now].sort((a, b) => a - b);
    return left.length === 0 ? playingAll(place, part) : { ...place, rests: { ...place.rests, [part]: left } };
  });

/** A place as its section is everywhere else. */
export const plainPlace = (score: Score, id: OccurrenceId): Score =>
  changed(score, id, ({ id: own, section }) => ({ id: own, section }));

/** True where a place is otherwise than its section. */
export const isOwn = ({ lift, rests, moves }: Occurrence): boolean =>
  lift !== undefined || rests !== undefined || moves !== undefined;

/** Bars that follow each other, as stretches in ticks from the section's start. */
export function restStretches({ rests }: Occurrence, part: PartId, { metre }: Pick<Ground, 'metre'>): Stretch[] {
  const bars = rests?.[part] ?? [];
  const bar = barTicks(metre);
  const firsts = bars.filter((own) => !bars.includes(own - 1));
  return firsts.map((first) => {
    const length = range(bars.length).findIndex((count) => !bars.includes(first + count + 1)) + 1;
    return { from: first * bar, to: (first + length) * bar };
  });
}

const grounds = new WeakMap<Ground, Map<Semitones, Ground>>();

/** A ground whose key lies higher; equal grounds stay the same object. */
export function liftedGround(ground: Ground, lift: Semitones): Ground {
  if (lift === 0) return ground;
  const known = grounds.get(ground) ?? new Map<Semitones, Ground>();
  grounds.set(ground, known);
  const wanted = modulo(pitchClassOf(ground.tonic) + lift, 12);
  const tonic = tonicsFor(ground.scale).find((one) => pitchClassOf(one) === wanted) ?? ground.tonic;
  const made = known.get(lift) ?? { ...ground, tonic };
  known.set(lift, made);
  return made;
}

/** What is otherwise in a place, in words: “2 semitones up”, “without Drums in bar 1”. */
export function tellPlace(
  { lift, rests = {}, moves = {} }: Occurrence,
  parts: readonly Pick<Part, 'id' | 'name'>[],
): string[] {
  const lifted =
    lift === undefined
      ? []
      : [`${Math.abs(lift)} ${Math.abs(lift) === 1 ? 'semitone' : 'semitones'} ${lift > 0 ? 'up' : 'down'}`];
  const resting = parts.flatMap(({ id, name }) => {
    const bars = rests[id];
    if (!bars) return [];
    return [`without ${name} in ${bars.length === 1 ? 'bar' : 'bars'} ${runsOf(bars).join(', ')}`];
  });
  const moving = parts.flatMap(({ id, name }) => {
    const kinds = Object.keys(moves[id] ?? {});
    return kinds.length === 0 ? [] : [`${kinds.sort().join(' and ')} of ${name} move${kinds.length === 1 ? 's' : ''}`];
  });
  return [...lifted, ...resting, ...moving];
}

/** “1–3, 5”: bars in order, counted from 1. */
function runsOf(bars: readonly number[]): string[] {
  return bars
    .filter((bar) => !bars.includes(bar - 1))
    .map((first) => {
      let last = first;
      while (bars.includes(last + 1)) last++;
      return first === last ? String(first + 1) : `${first + 1}–${last + 1}`;
    });
}
