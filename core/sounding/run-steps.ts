import type { Ticks } from '../theory/units';
import type { Span } from './course';

/** How long each take of a run-through sounds. */
export type RunStep = { readonly bars: number } | { readonly loops: number };

/** The steps that can be asked for, in order. */
export const RUN_STEPS: readonly RunStep[] = [
  { bars: 1 },
  { bars: 2 },
  { bars: 4 },
  { bars: 8 },
  { loops: 1 },
  { loops: 2 },
];

/** A step of a run-through: what it spans in the loop, and whether another take comes at its end. */
export interface RunWindow extends Span {
  /** Rounds of the loop since the take came in, this one included. */
  readonly round: number;
  readonly last: boolean;
}

/**
 * The step that a tick of the loop lies in. Steps of bars begin at the loop's beginning; one that its end cuts short
 * ends there.
 *
 * @param round  rounds of the loop since the take came in, this one included
 */
export function runWindow(tick: Ticks, loop: Span, barTicks: Ticks, step: RunStep, round: number): RunWindow {
  if ('loops' in step) return { ...loop, round, last: round >= step.loops };
  const size = step.bars * barTicks;
  const from = loop.from + Math.max(0, Math.floor((tick - loop.from) / size)) * size;
  return { from, to: Math.min(loop.to, from + size), round, last: true };
}

/** A step in words: “2 bars”, “loop”, “2 loops”. */
export const sayStep = (step: RunStep): string =>
  'loops' in step ? (step.loops === 1 ? 'loop' : `${step.loops} loops`) : step.bars === 1 ? 'bar' : `${step.bars} bars`;
