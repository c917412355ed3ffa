/**
 * How far one clock stands from another, as of the last measure; measures tremble, since a page is told where its sound
 * is only now and then.
 */
export type Offset = number | null;

/** A measure so far off is no trembling: one of the clocks was set, in ms. */
const SET_MS = 25;
/** How much of what a measure is off by is believed. */
const BELIEVED = 0.02;

/**
 * The offset after another measure: a moving mean that goes along with clocks that run a little faster than each other,
 * and begins anew where one was set.
 *
 * @param measured  in ms
 */
export const steadied = (offset: Offset, measured: number): number =>
  offset === null || Math.abs(measured - offset) > SET_MS ? measured : offset + BELIEVED * (measured - offset);
