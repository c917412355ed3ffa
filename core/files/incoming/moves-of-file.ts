import { drawMove, MOVE_KINDS, standing, type MoveKind } from '../../song/moves';
import type { OccurrenceId, Part, Score } from '../../song/schema';
import { barTicks } from '../../theory/metre';
import type { Ticks } from '../../theory/units';
import type { ImportLine, ImportPoint, ImportSection } from './file-model';
import { pointAt } from './mix-of-line';

/** A stretch of the file, and the place of the running order that it came to. */
interface Placed {
  readonly section: ImportSection;
  readonly place: OccurrenceId;
}

/** A curve over a stretch that steps from value to value, as controllers do; none where it stands as it stands anyway. */
function stepsIn(points: readonly ImportPoint[], from: Ticks, to: Ticks, usual: number): readonly ImportPoint[] {
  const first = { at: 0, value: pointAt(points, from) ?? usual };
  const inside = points.filter(({ at }) => at > from && at < to).map(({ at, value }) => ({ at: at - from, value }));
  if (inside.length === 0 && first.value === usual) return [];
  const all = [first, ...inside];
  return all.flatMap((point, index) => {
    const before = all[index - 1];
    return before && point.at - 1 > before.at ? [{ at: point.at - 1, value: before.value }, point] : [point];
  });
}

/** The song with how a part that came in moves in the mix, drawn over the places that came in with it. */
export function withMovesOf(score: Score, line: ImportLine, part: Part, placed: readonly Placed[]): Score {
  const draw = (song: Score, kind: MoveKind, points: readonly ImportPoint[]): Score =>
    placed.reduce((drawn, { section, place }) => {
      const to = section.start + section.bars * barTicks(section.metre);
      const steps = stepsIn(points, section.start, to, standing(part, kind));
      return steps.length === 0 ? drawn : drawMove(drawn, place, part.id, kind, steps);
    }, song);
  return MOVE_KINDS.reduce((song, kind) => {
    const points = line.moves[kind];
    return points ? draw(song, kind, points) : song;
  }, score);
}
