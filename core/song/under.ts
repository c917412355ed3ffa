import type { Ticks } from '../theory/units';
import type { ChordSpan } from './schema';

/** A stretch under one chord; no chord where none was written. */
export interface Under {
  readonly from: Ticks;
  readonly to: Ticks;
  readonly span: ChordSpan | undefined;
}

/**
 * The chord that sounds at a moment and how long it lasts; what no chord covers lasts until the next.
 *
 * @param end  of the section, in ticks
 */
export function underAt(chords: readonly ChordSpan[], at: Ticks, end: Ticks): Under {
  const span = chords.find(({ start, duration }) => start <= at && at < start + duration);
  if (span) return { from: span.start, to: span.start + span.duration, span };
  const next = chords.find(({ start }) => start > at);
  const last = chords.findLast(({ start }) => start <= at);
  return { from: last ? last.start + last.duration : 0, to: next?.start ?? end, span: undefined };
}
