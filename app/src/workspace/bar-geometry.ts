import { barOf } from '@fendro/core/song/ground';
import type { Score, Section } from '@fendro/core/song/schema';
import type { Ticks } from '@fendro/core/theory/units';
import { timeScale, type TimeScale } from '../ui/time-scale';

/** Bars that stand side by side before the sheet breaks, as at the end of a phrase. */
const BARS_IN_SYSTEM = 4;

/** One row of bars on the sheet. */
export interface System {
  readonly firstBar: number;
  readonly bars: number;
  readonly from: Ticks;
  /** End of its last bar; a short last system still leaves room for four, so that bars stay equally wide. */
  readonly to: Ticks;
  readonly room: Ticks;
}

export function systemsOf(section: Section, score: Score): System[] {
  const bar = barOf(score, section);
  const perSystem = section.bars <= BARS_IN_SYSTEM ? section.bars : BARS_IN_SYSTEM;
  return Array.from({ length: Math.ceil(section.bars / perSystem) }, (_, index) => {
    const firstBar = index * perSystem;
    const bars = Math.min(perSystem, section.bars - firstBar);
    return { firstBar, bars, from: firstBar * bar, to: (firstBar + bars) * bar, room: perSystem * bar };
  });
}

/** Places in a row of bars, in % of its width. */
export const percentIn = ({ from, room }: System): TimeScale => timeScale(from, from + room);
