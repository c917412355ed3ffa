import type { Note } from '../song/schema';
import type { Ticks } from '../theory/units';
import type { PartContext } from './context';
import { barAt, endOf, startOf, strokesOf, type HeldBar, type HeldStroke } from './held';

/** How accompaniment and drums keep what is held: by bars, laid over what was drafted afresh. */

type Stroke = readonly Note[];

/** The stroke that sounds at a moment or sounded last, else the first that comes. */
const strokeAt = <S>(strokes: readonly S[], at: Ticks, startsAt: (stroke: S) => Ticks): S | undefined =>
  strokes.findLast((stroke) => startsAt(stroke) <= at) ?? strokes[0];

const firstStart = (stroke: Stroke): Ticks => stroke[0]?.start ?? 0;
const loudest = (stroke: Stroke): number => Math.max(...stroke.map(({ velocity }) => velocity));

/** As loud as another stroke, its notes balanced against each other as they are. */
function levelled(stroke: Stroke, like: Stroke): Note[] {
  const change = loudest(like) - loudest(stroke);
  return stroke.map((note) => ({ ...note, velocity: Math.min(127, Math.max(1, note.velocity + change)) }));
}

/** A held stroke in its place, with the pitches or the loudness of what was drawn where those are free. */
function inPlace(held: HeldStroke, drawn: readonly Stroke[]): Note[] {
  const fresh = strokeAt(drawn, startOf(held), firstStart);
  if (!fresh || (held.pitch && held.dynamics)) return [...held.notes];
  if (held.pitch) return levelled(held.notes, fresh);
  const [start, duration] = [startOf(held), endOf(held) - startOf(held)];
  const struck = fresh.map((note) => ({ ...note, start, duration }));
  return held.dynamics ? levelled(struck, held.notes) : struck;
}

/** A stroke that was drawn, with the pitches or the loudness of what the bar had at that time. */
function inNewRhythm(drawn: Stroke, bar: HeldBar): Note[] {
  const had = strokeAt(bar.strokes, firstStart(drawn), startOf);
  if (!had) return [...drawn];
  const [start, duration] = [firstStart(drawn), Math.max(...drawn.map((note) => note.duration))];
  const struck = had.pitch ? had.notes.map((note) => ({ ...note, start, duration })) : drawn;
  return levelled(struck, had.dynamics ? had.notes : drawn);
}

/** Free notes as far as those that are given leave room for them on their pitch. */
function besides(free: readonly Note[], given: readonly Note[]): Note[] {
  return free.flatMap((note): Note[] => {
    const same = given.filter(({ pitch }) => pitch === note.pitch);
    if (same.some(({ start, duration }) => start <= note.start && note.start < start + duration)) return [];
    const next = same.reduce((least, { start }) => (start > note.start ? Math.min(least, start) : least), Infinity);
    return [{ ...note, duration: Math.min(note.duration, next - note.start) }];
  });
}

/**
 * What was drafted, with held bars and notes in its place. In a bar whose rhythm alone is held its strokes take the
 * chords or drums that were drawn; in one whose rhythm alone is free every new stroke takes what the bar had then.
 */
export function laidOver(drafted: readonly Note[], { held, barTicks }: Pick<PartContext, 'held' | 'barTicks'>): Note[] {
  if (held.bars.size === 0 && held.strokes.length === 0) return [...drafted];
  const drawn = strokesOf(held.leaning.length > 0 ? held.leaning : drafted);
  const barOf = ({ start }: Note): number => barAt(start, barTicks);
  const all = [...held.bars.values()].flatMap(({ strokes }) => strokes).concat(held.strokes);
  const given = all.filter(({ rhythm }) => rhythm);
  const kept = given.flatMap((stroke) => inPlace(stroke, drawn));
  const anew = [...held.bars].flatMap(([bar, content]) =>
    content.strokes.every(({ rhythm }) => rhythm)
      ? []
      : strokesOf(drafted.filter((note) => barOf(note) === bar && note.start >= 0))
          .filter((stroke) => !given.some((other) => startOf(other) === firstStart(stroke)))
          .flatMap((stroke) => inNewRhythm(stroke, content)),
  );
  const around = drafted
    .filter((note) => !held.bars.has(barOf(note)))
    .map((note) => untilHeld(note, held.bars, barTicks));
  return [...besides([...around, ...anew], kept), ...kept].sort((a, b) => a.start - b.start || a.pitch - b.pitch);
}

/** A note that ends where a held bar begins that began without it. */
function untilHeld(note: Note, bars: ReadonlyMap<number, HeldBar>, barTicks: Ticks): Note {
  let end = note.start + note.duration;
  for (const [bar, { rings }] of bars)
    if (bar * barTicks > note.start) end = Math.min(end, Math.max(rings, bar * barTicks));
  return { ...note, duration: end - note.start };
}
