import type { TimeScale } from '../../ui/time-scale';
import { HEAD, startOf, type Cell, type OverviewRow } from './overview-layout';

/** Draws the whole song on a canvas. */

export interface OverviewPicture {
  readonly rows: readonly OverviewRow[];
  readonly rowHeight: number;
  readonly x: TimeScale;
  readonly width: number;
  /** The place in view, and the cell that the keys are on. */
  readonly viewed: number;
  readonly cell: Cell | null;
}

type Pen = CanvasRenderingContext2D;
type Token = (name: string) => string;

/** Names are told where they have so much room, figures of bars where bars are so wide, in px. */
const [NAME_PX, BAR_PX] = [14, 34];

/** Sections by name over their bars, divided where they begin. */
function paintHead(pen: Pen, { rows, x, width, viewed, rowHeight }: OverviewPicture, token: Token): void {
  const bottom = HEAD + rows.length * rowHeight;
  rows[0]?.places.forEach(({ place: { start, length, section }, bar, bars }, index) => {
    const [left, right] = [x(start), x(start + length)];
    if (right < 0 || left > width) return;
    if (index === viewed) {
      pen.fillStyle = token('--accent-faint');
      pen.fillRect(left, 0, right - left, bottom);
    }
    pen.fillStyle = token('--line');
    pen.fillRect(Math.round(left), 0, 1, bottom);
    const room = Math.min(right, width) - Math.max(left, 0) - 6;
    if (room < NAME_PX) return;
    pen.save();
    pen.beginPath();
    pen.rect(Math.max(left, 0), 0, room + 4, HEAD);
    pen.clip();
    pen.fillStyle = token('--ink');
    pen.font = `600 12px ${token('--sans')}`;
    pen.fillText(section.name, Math.max(left, 0) + 5, 12);
    pen.restore();
    if (x(start + bar) - left < BAR_PX) return;
    pen.fillStyle = token('--quiet');
    pen.font = `10px ${token('--mono')}`;
    bars.forEach((_, number) => {
      pen.fillText(String(number + 1), x(start + number * bar) + 4, 25);
    });
  });
}

/** A part's row: as high as it is full, as strong as it is loud. */
function paintRow(pen: Pen, row: OverviewRow, top: number, picture: OverviewPicture, token: Token): void {
  const { x, width, rowHeight } = picture;
  const most = Math.max(1, ...row.places.flatMap(({ bars }) => bars.map(({ onsets }) => onsets)));
  pen.fillStyle = token(`--part-${row.part.colour}`);
  for (const { place, bar, bars } of row.places)
    bars.forEach(({ onsets, loudness }, index) => {
      const [left, right] = [x(place.start + index * bar), x(place.start + (index + 1) * bar)];
      if (onsets === 0 || right < 0 || left > width) return;
      const height = Math.max(3, ((rowHeight - 4) * onsets) / most);
      pen.globalAlpha = 0.3 + (0.7 * loudness) / 127;
      pen.fillRect(left, top + rowHeight - 2 - height, Math.max(1, right - left - (right - left > 6 ? 1 : 0)), height);
    });
  pen.globalAlpha = 1;
  pen.fillStyle = token('--line');
  pen.fillRect(0, top + rowHeight - 1, width, 1);
}

function paintCell(pen: Pen, { rows, cell, x, rowHeight }: OverviewPicture, token: Token): void {
  const places = cell && rows[cell.row]?.places;
  if (!cell || !places) return;
  const left = x(startOf(places, cell));
  const right = x(startOf(places, { ...cell, bar: cell.bar + 1 }));
  pen.strokeStyle = token('--ink');
  pen.lineWidth = 2;
  pen.strokeRect(left, HEAD + cell.row * rowHeight, Math.max(4, right - left), rowHeight - 1);
}

export function paintOverview(pen: Pen, picture: OverviewPicture, token: Token): void {
  paintHead(pen, picture, token);
  picture.rows.forEach((row, index) => {
    paintRow(pen, row, HEAD + index * picture.rowHeight, picture, token);
  });
  paintCell(pen, picture, token);
}
