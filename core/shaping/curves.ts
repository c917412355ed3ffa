import { curveOf, CURVES, valueAt } from '../song/curve';
import type { Curve, CurveKind, TakeNote } from '../song/schema';
import { clamp, type Ticks } from '../theory/units';
import { changed, endOf, type Ids, type Notes } from './room';

/** Expression: curves over notes that are drawn by hand, or set as players say them. */

interface Point {
  /** In ticks from the section's start. */
  readonly at: Ticks;
  readonly value: number;
}

function withCurve(note: TakeNote, kind: CurveKind, curve: Curve | null): TakeNote {
  const { [kind]: _before, ...rest } = note;
  const { rest: usual } = CURVES[kind];
  return curve === null || curve.every(({ value }) => value === usual) ? rest : { ...rest, [kind]: curve };
}

const valueOf = (note: TakeNote, kind: CurveKind, at: Ticks): number => {
  const curve = note[kind];
  return curve ? Math.round(valueAt(curve, at)) : CURVES[kind].rest;
};

/**
 * Notes with a stretch of their curves drawn anew: between the ends of a path they follow it, before and after they stay
 * as they were.
 *
 * @param path  in order of its moments; one point sets the whole of each note that sounds there
 */
export function drawn(notes: Notes, ids: Ids, kind: CurveKind, path: readonly Point[]): Notes {
  const [first, last] = [path[0], path.at(-1)];
  if (!first || !last) return notes;
  return changed(notes, ids, (note) => {
    if (first.at >= endOf(note) || last.at < note.start) return note;
    if (first.at === last.at) return withCurve(note, kind, curveOf(kind, [{ at: 0, value: last.value }]));
    const from = clamp(first.at - note.start, 0, note.duration);
    const to = clamp(last.at - note.start, 0, note.duration);
    const old = note[kind] ?? [];
    const relative = path.map(({ at, value }) => ({ at: at - note.start, value }));
    const points = [
      ...old.filter(({ at }) => at < from),
      ...(from > 0 ? [{ at: from - 1, value: valueOf(note, kind, from - 1) }] : []),
      { at: from, value: valueAt(relative, from) },
      ...relative.filter(({ at }) => at > from && at < to),
      { at: to, value: valueAt(relative, to) },
      ...(to < note.duration ? [{ at: to + 1, value: valueOf(note, kind, to + 1) }] : []),
      ...old.filter(({ at }) => at > to + 1),
    ];
    return withCurve(note, kind, curveOf(kind, points));
  });
}

/** Notes without a curve of some kind. */
export const plain = (notes: Notes, ids: Ids, kind: CurveKind): Notes =>
  changed(notes, ids, (note) => withCurve(note, kind, null));

/** What players do to a note, each a curve over its length. */
export const EXPRESSIONS = {
  'scoop into': {
    kind: 'bend',
    curve: [
      [0, -200],
      [0.25, 0],
    ],
  },
  'fall off': {
    kind: 'bend',
    curve: [
      [0, 0],
      [0.6, 0],
      [1, -500],
    ],
  },
  'bend up': {
    kind: 'bend',
    curve: [
      [0, 0],
      [0.4, 200],
    ],
  },
  'tremble later': {
    kind: 'vibrato',
    curve: [
      [0, 0],
      [0.35, 0],
      [0.7, 60],
    ],
  },
  tremble: { kind: 'vibrato', curve: [[0, 50]] },
  'swell up': {
    kind: 'swell',
    curve: [
      [0, 40],
      [1, 100],
    ],
  },
  'die away': {
    kind: 'swell',
    curve: [
      [0, 100],
      [0.3, 100],
      [1, 20],
    ],
  },
  'swell and go': {
    kind: 'swell',
    curve: [
      [0, 30],
      [0.5, 100],
      [1, 30],
    ],
  },
} as const satisfies Record<
  string,
  { readonly kind: CurveKind; readonly curve: readonly (readonly [share: number, value: number])[] }
>;
export type Expression = keyof typeof EXPRESSIONS;
export const EXPRESSION_NAMES = Object.keys(EXPRESSIONS) as readonly Expression[];

/** Notes with what players do to them. */
export function expressed(notes: Notes, ids: Ids, expression: Expression): Notes {
  const { kind, curve } = EXPRESSIONS[expression];
  return changed(notes, ids, (note) =>
    withCurve(
      note,
      kind,
      curveOf(
        kind,
        curve.map(([share, value]) => ({ at: Math.round(share * note.duration), value })),
      ),
    ),
  );
}
