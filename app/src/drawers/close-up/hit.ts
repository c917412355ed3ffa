import type { TakeNote } from '@fendro/core/song/schema';
import { endOf, type Notes } from '@fendro/core/shaping/room';
import type { TimeScale } from '../../ui/time-scale';
import { boxOf, type Box } from './paint';
import type { Rows } from './row-layout';

/** A note under the pointer, and which part of it. */
export interface Hit {
  readonly note: TakeNote;
  readonly part: 'body' | 'start' | 'end';
}

interface Ground {
  readonly notes: Notes;
  readonly drums: boolean;
  readonly rows: Rows;
  readonly x: TimeScale;
}

/** How far beside a note a pointer may be that means it, and how near an edge it takes hold of it, in px. */
const [REACH, EDGE] = [3, 6];
/** A drum is a dot: all around its beat means it. */
const DOT_REACH = 9;

/** The note at a place of the canvas, in px; of several the one whose middle is nearest, the later of two alike. */
export function hitAt({ notes, drums, rows, x }: Ground, left: number, top: number): Hit | null {
  const [at, reach] = [x.invert(left), x.invert(drums ? DOT_REACH : REACH) - x.invert(0)];
  let best: { readonly note: TakeNote; readonly box: Box; readonly away: number } | null = null;
  for (const note of notes) {
    if (note.start > at + reach) break;
    if ((drums ? note.start : endOf(note)) < at - reach) continue;
    const box = boxOf({ rows, open: null, x, drums }, note);
    if (!box || top < box.top - 1 || top > box.top + box.height + 1) continue;
    const away = Math.abs(top - box.top - box.height / 2);
    if (!best || away <= best.away) best = { note, box, away };
  }
  if (!best) return null;
  const { note, box } = best;
  const wide = box.width >= 3 * EDGE && !drums;
  const part = wide && left > box.left + box.width - EDGE ? 'end' : wide && left < box.left + EDGE ? 'start' : 'body';
  return { note, part };
}
