import { MOVE_KINDS, moveAt, movesOf } from '../song/moves';
import type { Part, Score } from '../song/schema';
import type { Ticks } from '../theory/units';
import type { Course } from './course';
import { stepsOf, type ControlEvent } from './expression';

/** How the levels and pans of parts move while a course is played. */

export const partMoves = (score: Score, part: Part): boolean => score.order.some(({ moves }) => moves?.[part.id]);

/**
 * The steps of a part's moves along a course. Where a place moves and the next does not, the part stands again as it does
 * in the mix; after the last one it stays, so that what rings does not jump.
 */
export function moveEvents(part: Part, course: Course): ControlEvent[] {
  return course.flatMap(({ place, start, length, part: { from, to } }, index) =>
    MOVE_KINDS.flatMap((control): ControlEvent[] => {
      const curve = movesOf(place, part.id)[control];
      if (!curve) return [];
      const event = (at: Ticks, value: number): ControlEvent => ({
        kind: 'control',
        voice: part.id,
        at: start + at,
        control,
        value,
      });
      const steps = stepsOf(control, curve, length).filter(({ at }) => at > from && at < to);
      const next = course[index + 1];
      const goesOn = !next || movesOf(next.place, part.id)[control] !== undefined;
      return [
        event(from, Math.round(moveAt(place, part, control, from))),
        ...steps.map(({ at, value }) => event(at, value)),
        ...(goesOn ? [] : [event(to, part[control])]),
      ];
    }),
  );
}

/** How a part that moves somewhere stands at a moment of a course. */
export function standsAt(part: Part, course: Course, at: Ticks): ControlEvent[] {
  const passage = course.find(({ start, part: own }) => start + own.from <= at && at < start + own.to) ?? null;
  return MOVE_KINDS.map((control) => ({
    kind: 'control',
    voice: part.id,
    at,
    control,
    value: Math.round(moveAt(passage?.place ?? null, part, control, at - (passage?.start ?? 0))),
  }));
}
