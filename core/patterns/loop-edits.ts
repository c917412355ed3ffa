import { boundsOf, LOOP_COUNT, MOST_STARTS, type Loop, type Loops } from '../song/schema';
import { clamp, type Ticks } from '../theory/units';

/** Every edit of loops is a pure function from one to the next; an edit of valid ones is valid. */

/** How far the notes of a new loop lie above those of the last, in steps of what they are of. */
const NEXT_DEGREE = 2;

/** Changes one of them; notches beyond its end go, and one stays. */
export function withLoop(pattern: Loops, place: number, change: Partial<Loop>): Loops {
  return {
    ...pattern,
    loops: pattern.loops.map((loop, index) => {
      if (index !== place) return loop;
      const changed = { ...loop, ...change };
      const inside = changed.notches.filter(({ step }) => step < changed.steps);
      const [first] = changed.notches;
      return { ...changed, notches: inside.length > 0 ? inside : [{ step: 0, degree: first?.degree ?? 0 }] };
    }),
  };
}

/** The degree that a loop strikes at a step; null where it strikes none. */
export const notchAt = (pattern: Loops, place: number, step: number): number | null =>
  pattern.loops[place]?.notches.find((notch) => notch.step === step)?.degree ?? null;

/**
 * Strikes a note at a step of a loop, or none any more; the last of its notches stays.
 *
 * @param degree  null takes the notch away
 */
export function withNotch(pattern: Loops, place: number, step: number, degree: number | null): Loops {
  const loop = pattern.loops[place];
  if (!loop || step < 0 || step >= loop.steps) return pattern;
  const others = loop.notches.filter((notch) => notch.step !== step);
  if (degree === null) return others.length === 0 ? pattern : withLoop(pattern, place, { notches: others });
  const { low, high } = boundsOf('degree', 'chord');
  const notches = [...others, { step, degree: clamp(Math.round(degree), low, high) }].sort((a, b) => a.step - b.step);
  return withLoop(pattern, place, { notches });
}

/** Starts the loops with each of some notes; none leaves them as they are. @param at  in ticks from the section's start */
export function startedAt(pattern: Loops, at: readonly Ticks[]): Loops {
  const moments = [...new Set(at)].sort((a, b) => a - b).slice(0, MOST_STARTS);
  return moments.length === 0 ? pattern : { ...pattern, starts: 'played', moments };
}

/** Adds a loop that is two steps longer than the last, on a note of its own; as long as there is room. */
export function withAnotherLoop(pattern: Loops): Loops {
  const last = pattern.loops.at(-1);
  if (!last || pattern.loops.length >= LOOP_COUNT.most) return pattern;
  const { low, high } = boundsOf('degree', 'chord');
  const degree = clamp((last.notches[0]?.degree ?? 0) + NEXT_DEGREE, low, high);
  const steps = Math.min(64, last.steps + 2);
  return { ...pattern, loops: [...pattern.loops, { ...last, steps, notches: [{ step: 0, degree }] }] };
}

/** Takes a loop away; two stay. */
export const withoutLoop = (pattern: Loops, place: number): Loops =>
  pattern.loops.length <= LOOP_COUNT.least
    ? pattern
    : { ...pattern, loops: pattern.loops.filter((_, index) => index !== place) };
