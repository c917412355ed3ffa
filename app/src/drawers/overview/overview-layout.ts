import type { GlancePlace } from '@fendro/core/sounding/glance';
import type { Part } from '@fendro/core/song/schema';
import { clamp, type Ticks } from '@fendro/core/theory/units';

/** A part's row: what it does, place by place. */
export interface OverviewRow {
  readonly part: Part;
  readonly places: readonly GlancePlace[];
}

/** A bar of a part: its row, the place and the bar in it, all counted from 0. */
export interface Cell {
  readonly row: number;
  readonly place: number;
  readonly bar: number;
}

/** What stands above the rows, and how high rows may be, in px. */
export const HEAD = 30;
const [LEAST_ROW, MOST_ROW] = [14, 30];

export const rowHeight = (height: number, rows: number): number =>
  rows === 0 ? MOST_ROW : clamp(Math.floor((height - HEAD) / rows), LEAST_ROW, MOST_ROW);

/** @returns the cell at a tick of the running order, in a row that need not be there */
export function cellAt(places: readonly GlancePlace[], at: Ticks, row: number): Cell | null {
  const place = places.findLastIndex(({ place: { start } }) => start <= at);
  const found = places[place];
  if (!found) return null;
  const bar = Math.floor((at - found.place.start) / found.bar);
  return { row, place, bar: clamp(bar, 0, found.bars.length - 1) };
}

/** When a cell begins, in ticks of the running order. */
export const startOf = (places: readonly GlancePlace[], { place, bar }: Cell): Ticks =>
  (places[place]?.place.start ?? 0) + bar * (places[place]?.bar ?? 0);

/** The cell so many bars later and rows lower; at the ends of the song it stays. */
export function moved(rows: readonly OverviewRow[], cell: Cell, bars: number, by: number): Cell {
  const row = clamp(cell.row + by, 0, Math.max(0, rows.length - 1));
  const places = rows[row]?.places ?? [];
  let { place, bar } = cell;
  for (let left = Math.abs(bars); left > 0; left--) {
    const count = places[place]?.bars.length ?? 0;
    if (bars > 0 && bar + 1 < count) bar++;
    else if (bars > 0 && place + 1 < places.length) [place, bar] = [place + 1, 0];
    else if (bars < 0 && bar > 0) bar--;
    else if (bars < 0 && place > 0) [place, bar] = [place - 1, (places[place - 1]?.bars.length ?? 1) - 1];
  }
  return { row, place, bar };
}

const LOUDNESS = [
  [45, 'very soft'],
  [65, 'soft'],
  [85, 'middling'],
  [105, 'loud'],
  [128, 'very loud'],
] as const;

/** “Chorus, bar 3: Melody, 6 notes, loud.” */
export function tellCell(rows: readonly OverviewRow[], { row, place, bar }: Cell): string {
  const own = rows[row];
  const found = own?.places[place];
  const cell = found?.bars[bar];
  if (!own || !found || !cell) return '';
  const where = `${found.place.section.name}, bar ${bar + 1}: ${own.part.name}`;
  if (cell.onsets === 0) return `${where} rests`;
  const loud = LOUDNESS.find(([below]) => cell.loudness < below)?.[1] ?? 'very loud';
  return `${where}, ${cell.onsets} ${cell.onsets === 1 ? 'note' : 'notes'}, ${loud}`;
}
