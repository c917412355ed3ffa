/** Bars that stand beside each other on paper. */
export interface System {
  /** The first of them and the one after the last, counted from 0. */
  readonly from: number;
  readonly to: number;
}

/**
 * Parts bars into systems: as many beside each other as there is room for, up to four, and no section begins inside of a
 * system unless it would leave a single bar before it.
 *
 * @param widths  what each bar needs at least, with what stands before its notes
 * @param room    the width of a system
 * @param begins  true where a section begins
 */
export function systemsOf(widths: readonly number[], room: number, begins: readonly boolean[]): readonly System[] {
  const systems: System[] = [];
  let from = 0;
  while (from < widths.length) {
    let to = from + 1;
    let taken = widths[from] as number;
    while (to < widths.length && to - from < MOST && taken + (widths[to] as number) <= room) {
      if (begins[to] && to - from > 1) break;
      taken += widths[to++] as number;
    }
    systems.push({ from, to });
    from = to;
  }
  return systems;
}

/** Bars of a system at the most. */
const MOST = 4;

/** What a bar needs: for what stands before its notes, which is as wide as it is, and for them. */
export interface BarNeeds {
  readonly before: number;
  readonly notes: number;
}

/**
 * How wide each bar of a system stands, so that all of them fill it: by what their notes need.
 *
 * @param stretches  false where the last system of a sheet is hardly begun: it is no wider than it needs to be
 */
export function widthsIn(bars: readonly BarNeeds[], room: number, stretches: boolean): readonly number[] {
  const fixed = bars.reduce((sum, { before }) => sum + before, 0);
  const needed = bars.reduce((sum, { notes }) => sum + notes, 0);
  const share = (room - fixed) / needed;
  const by = stretches ? share : Math.min(share, 1.6);
  return bars.map(({ before, notes }) => before + notes * by);
}
