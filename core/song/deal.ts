import type { Part, PartId } from './schema';

/** A part that deals to those parts only of which something is true; one that is left with none plays its line itself. */
export function dealingTo(part: Part, stays: (to: PartId) => boolean): Part {
  const { deals, ...own } = part;
  if (!deals || deals.to.every(stays)) return part;
  const to = deals.to.filter(stays);
  return to.length === 0 ? own : { ...own, deals: { ...deals, to } };
}
