import { MOVE_KINDS, moveAt, movesOf, standing, type MoveKind } from '../song/moves';
import type { Part, Score } from '../song/schema';
import type { Ticks } from '../theory/units';
import type { Course } from './course';
import { stepsOf, type ControlEvent } from './expression';

/** How parts move in the mix while a course is played. */

export const partMoves = (score: Score, part: Part): boolean => score.order.some(({ moves }) => moves?.[part.id]);

/** In what a part moves somewhere in the song. */
const kindsOf = (score: Score, part: Part): MoveKind[] =>
  MOVE_KINDS.filter((kind) => score.order.some((place) => movesOf(place, part.id)[kind]));

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
        ...(goesOn ? [] : [event(to, standing(part, control))]),
      ];
    }),
  );
}

/** How a part that moves somewhere stands at a moment of a course. */
export function standsAt(score: Score, part: Part, course: Course, at: Ticks): ControlEvent[] {
  const passage = course.find(({ start, part: own }) => start + own.from <= at && at < start + own.to) ?? null;
  return kindsOf(score, part).map((control) => ({
    kind: 'control',
    voice: part.id,
    at,
    control,
    value: Math.round(moveAt(passage?.place ?? null, part, control, at - (passage?.start ?? 0))),
  }));
}
