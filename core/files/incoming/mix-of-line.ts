import { MOVE_KINDS, TONE_KINDS, type MoveKind } from '../../song/moves';
import type { Tone } from '../../song/schema';
import { countLeading, type Ticks } from '../../theory/units';
import { NO_CONTROLS, type Controls } from '../midi/midi-controls';
import type { ImportLine, ImportPoint } from './file-model';

/** How a line of a file stands in the mix, and how it moves there. */

type Mix = Pick<ImportLine, 'level' | 'pan' | 'tone' | 'moves'>;

/** Values within this of one another are one. */
const ALIKE = 1;

/** Rounded, and nothing twice that follows itself; of several at one moment the last. */
function pointsOf(moments: Controls[MoveKind], scale: number): readonly ImportPoint[] {
  const points: ImportPoint[] = [];
  for (const { at, value } of moments) {
    const point = { at: Math.round(at * scale), value: Math.round(value) };
    if (points.at(-1)?.at === point.at) points.pop();
    if (points.at(-1)?.value !== point.value) points.push(point);
  }
  return points;
}

/** What holds at a moment: what was said last, else what is said first. */
export const pointAt = (points: readonly ImportPoint[], at: Ticks): number | undefined =>
  (points[countLeading(points, (point) => point.at <= at) - 1] ?? points[0])?.value;

/** A swell that never changes is a level, which the channel's own level is multiplied by. */
function steadySwell({ swell }: Controls): number {
  const [first] = swell;
  return first && swell.every(({ value }) => Math.abs(value - first.value) < ALIKE) ? first.value / 100 : 1;
}

/**
 * @param first  where the line's first note begins
 * @param scale  Fendro's ticks for one of the file's
 */
export function mixOfLine(controls: Controls = NO_CONTROLS, first: Ticks, scale: number): Mix {
  const swell = steadySwell(controls);
  const all = MOVE_KINDS.map((kind) => {
    const points = pointsOf(controls[kind], scale);
    const share = kind === 'level' ? swell : 1;
    return { kind, points: points.map(({ at, value }) => ({ at, value: Math.round(value * share) })) };
  });
  const standing = new Map(all.map(({ kind, points }) => [kind, pointAt(points, first)]));
  // Where only the swell is said, it stands for the level.
  const [level = swell < 1 ? Math.round(swell * 100) : undefined, pan] = [standing.get('level'), standing.get('pan')];
  const tone: Tone = Object.fromEntries(
    TONE_KINDS.flatMap((kind) => {
      const value = standing.get(kind);
      return value === undefined || value === 0 ? [] : [[kind, value]];
    }),
  );
  const moves = all.filter(({ points, kind }) =>
    points.some(({ at, value }) => at > first && Math.abs(value - (standing.get(kind) ?? value)) > ALIKE),
  );
  return {
    ...(level === undefined ? {} : { level }),
    ...(pan === undefined ? {} : { pan }),
    ...(Object.keys(tone).length === 0 ? {} : { tone }),
    moves: Object.fromEntries(moves.map(({ kind, points }) => [kind, points])),
  };
}
