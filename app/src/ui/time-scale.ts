import { scaleLinear, type ScaleLinear } from 'd3';
import type { Ticks } from '@fendro/core/theory/units';

/** Where ticks lie on a stretch of the page. */
export type TimeScale = ScaleLinear<number, number>;

/**
 * The one way between ticks and places on the page.
 *
 * @param from   tick at the left edge
 * @param to     tick at the right edge
 * @param width  of the stretch: in % unless said otherwise
 * @param inset  what stays free at its left, in the same unit
 */
export const timeScale = (from: Ticks, to: Ticks, width = 100, inset = 0): TimeScale =>
  scaleLinear([from, to], [inset, width]);

/** @returns the tick under a pointer, not rounded; the nearest edge's where the pointer is outside */
export const tickUnder = (
  { clientX }: { readonly clientX: number },
  { left, width }: { readonly left: number; readonly width: number },
  from: Ticks,
  to: Ticks,
): Ticks =>
  timeScale(from, to, width)
    .clamp(true)
    .invert(clientX - left);
