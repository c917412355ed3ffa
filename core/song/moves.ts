import { clamp, type Ticks } from '../theory/units';
import { curveWithin, valueAt } from './curve';
import { layOut } from './resolve';
import type { Curve, Moves, Occurrence, OccurrenceId, Part, PartId, Score, ToneKind } from './schema';

/**
 * Moves: how the level, the pan and the tone of a part go over the running order. They belong to a place, and travel with
 * it when the order changes.
 */
export type MoveKind = keyof Moves;

interface Reach {
  readonly low: number;
  readonly high: number;
  /** How closely what was recorded is followed: within 1 %. */
  readonly fine: number;
}
const SHARE: Reach = { low: 0, high: 100, fine: 1 };
const AROUND: Reach = { low: -100, high: 100, fine: 2 };

/** What each goes between, and how closely what was recorded is followed. */
export const MOVES: Readonly<Record<MoveKind, Reach>> = {
  level: SHARE,
  pan: AROUND,
  brightness: AROUND,
  attack: AROUND,
  release: AROUND,
  room: SHARE,
  chorus: SHARE,
};
export const MOVE_KINDS = Object.keys(MOVES) as readonly MoveKind[];
export const TONE_KINDS = MOVE_KINDS.filter((kind): kind is ToneKind => kind !== 'level' && kind !== 'pan');

/** How a part stands in the mix by itself. */
export const standing = (part: Part, kind: MoveKind): number =>
  kind === 'level' || kind === 'pan' ? part[kind] : (part.tone?.[kind] ?? 0);

/** What a change of the mix changes of a part; a tone that is as the instrument has it by itself is not said. */
export function standingAt(part: Part, kind: MoveKind, value: number): Partial<Pick<Part, 'level' | 'pan' | 'tone'>> {
  if (kind === 'level' || kind === 'pan') return { [kind]: value };
  const { [kind]: _before, ...others } = part.tone ?? {};
  const tone = value === 0 ? others : { ...others, [kind]: value };
  return { tone: Object.keys(tone).length === 0 ? undefined : tone };
}

type Point = Curve[number];

/** A move as it is drawn or recorded: in ticks of the running order. */
export interface Sample {
  readonly tick: Ticks;
  readonly value: number;
}

export const movesOf = (place: Occurrence | null, part: PartId): Moves => place?.moves?.[part] ?? {};

/** How a part stands at a moment of a place: where it moves, else as it does in the mix. */
export function moveAt(place: Occurrence | null, part: Part, kind: MoveKind, at: Ticks): number {
  const curve = movesOf(place, part.id)[kind];
  return curve ? valueAt(curve, at) : standing(part, kind);
}

/** A place with other moves of a part; none where there is no curve. */
function withMove(place: Occurrence, part: PartId, kind: MoveKind, curve: Curve | null): Occurrence {
  const { [kind]: _before, ...others } = movesOf(place, part);
  const own: Moves = curve === null ? others : { ...others, [kind]: curve };
  const { [part]: _all, ...parts } = place.moves ?? {};
  const { moves: _moves, ...plain } = place;
  const moves = Object.keys(own).length === 0 ? parts : { ...parts, [part]: own };
  return Object.keys(moves).length === 0 ? plain : { ...plain, moves };
}

const changed = (score: Score, id: OccurrenceId, change: (place: Occurrence) => Occurrence): Score => ({
  ...score,
  order: score.order.map((place) => (place.id === id ? change(place) : place)),
});

/** A place with a curve drawn anew; no points let the part stand as it does in the mix. */
export const drawMove = (
  score: Score,
  id: OccurrenceId,
  part: PartId,
  kind: MoveKind,
  points: readonly Point[],
): Score =>
  changed(score, id, (place) => withMove(place, part, kind, curveWithin(points, MOVES[kind], MOVES[kind].fine)));

/** A place without moves of a part that is gone. */
export const withoutMovesOf = (place: Occurrence, part: PartId): Occurrence =>
  MOVE_KINDS.reduce((own, kind) => withMove(own, part, kind, null), place);

/**
 * The song with what was recorded: from the first sample to the last it goes as it was moved, before it as it did, and
 * after it on as it did where something moved there, else as it was left.
 *
 * @param samples  in order of their moments; several places take their own
 */
export function recordMove(score: Score, part: Part, kind: MoveKind, samples: readonly Sample[]): Score {
  const [first, last] = [samples[0], samples.at(-1)];
  if (!first || !last) return score;
  return layOut(score).reduce((song, { occurrence, start, length }) => {
    if (last.tick < start || first.tick >= start + length) return song;
    const place = song.order.find(({ id }) => id === occurrence.id) ?? occurrence;
    const from = clamp(first.tick - start, 0, length);
    const to = clamp(last.tick - start, 0, length);
    const relative = samples.map(({ tick, value }) => ({ at: tick - start, value }));
    const old = movesOf(place, part.id)[kind];
    const points = [
      ...(old ?? []).filter(({ at }) => at < from),
      ...(from > 0 ? [{ at: from - 1, value: moveAt(place, part, kind, from - 1) }] : []),
      { at: from, value: valueAt(relative, from) },
      ...relative.filter(({ at }) => at > from && at < to),
      { at: to, value: valueAt(relative, to) },
      ...(old && to < length ? [{ at: to + 1, value: valueAt(old, to + 1) }] : []),
      ...(old ?? []).filter(({ at }) => at > to + 1),
    ];
    return drawMove(song, place.id, part.id, kind, points);
  }, score);
}

/**
 * Lets parts fade out over a stretch of a place.
 *
 * @param from  where it begins, in ticks from the place's start
 * @param to    where nothing is left
 */
export const fadeOut = (score: Score, place: Occurrence, parts: readonly Part[], from: Ticks, to: Ticks): Score =>
  parts.reduce((song, part) => {
    const now = song.order.find(({ id }) => id === place.id) ?? place;
    const before = (movesOf(now, part.id).level ?? []).filter(({ at }) => at < from);
    const points = [...before, { at: from, value: moveAt(now, part, 'level', from) }, { at: to, value: 0 }];
    return drawMove(song, place.id, part.id, 'level', points);
  }, score);
