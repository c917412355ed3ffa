import { gridOf, metricalWeight } from '../theory/metre';
import { clamp, range, type MidiNote, type Ticks } from '../theory/units';
import { pickWeighted, type Random } from '../trellis/random';
import { FORBIDDEN } from '../trellis/trellis';
import type { Note } from '../song/schema';
import type { PartContext } from './context';
import { barAt, endOf, startOf, type Held, type HeldStroke } from './held';

/** How lines keep what is held: as onsets that are there already, and as places of the trellis with one state. */

/** An onset of a line, and what is given there. */
export interface Place {
  readonly start: Ticks;
  readonly stroke: HeldStroke | null;
}

type LineContext = Pick<PartContext, 'metre' | 'bars' | 'barTicks' | 'held'>;

/** Steps in a quarter of the finest grid that onsets are found on where a bar needs as many as it had. */
const FINEST = 4;

/**
 * The onsets of a line around what is held: none in bars that stay as they are or under held notes, and in bars whose
 * pitches or dynamics go on in another rhythm as many as there were.
 *
 * @param drawn  onsets as the rhythm drew them, in order
 */
export function placesAround(drawn: readonly Ticks[], context: LineContext, random: Random): Place[] {
  const { bars, barTicks, held } = context;
  if (held.bars.size === 0 && held.strokes.length === 0) return drawn.map((start) => ({ start, stroke: null }));
  const given = [...[...held.bars.values()].flatMap(({ strokes }) => strokes), ...held.strokes].filter(
    ({ rhythm }) => rhythm,
  );
  const isFree = (at: Ticks): boolean => !given.some((stroke) => startOf(stroke) <= at && at < endOf(stroke));
  const places = range(bars).flatMap((bar): Place[] => {
    const open = drawn.filter((at) => barAt(at, barTicks) === bar && isFree(at));
    const counted = held.bars.get(bar);
    return counted
      ? placesInBar(counted.strokes, open, bar * barTicks, context, isFree, random)
      : open.map((start) => ({ start, stroke: null }));
  });
  return [...places, ...held.strokes.map((stroke) => ({ start: startOf(stroke), stroke }))].sort(
    (a, b) => a.start - b.start,
  );
}

/** A bar's strokes, those without a rhythm of their own on new onsets between those that have one. */
function placesInBar(
  strokes: readonly HeldStroke[],
  open: readonly Ticks[],
  line: Ticks,
  { metre, barTicks }: LineContext,
  isFree: (at: Ticks) => boolean,
  random: Random,
): Place[] {
  const grid = gridOf(metre, FINEST)
    .map((at) => line + at)
    .filter(isFree);
  const places: Place[] = [];
  let from = line;
  let waiting: HeldStroke[] = [];
  const placeWaiting = (to: Ticks): void => {
    const between = (at: Ticks): boolean => at >= from && at < to;
    const weight = (at: Ticks): number => 1 + metricalWeight(metre, at - line);
    const starts = exactly(waiting.length, open.filter(between), grid.filter(between), weight, random);
    // Where there is no room for as many, they stay where they were.
    for (const [index, stroke] of waiting.entries())
      places.push(
        starts
          ? { start: starts[index] as Ticks, stroke }
          : { start: startOf(stroke), stroke: { ...stroke, rhythm: true } },
      );
    waiting = [];
  };
  for (const stroke of strokes) {
    if (!stroke.rhythm) {
      waiting.push(stroke);
      continue;
    }
    placeWaiting(startOf(stroke));
    places.push({ start: startOf(stroke), stroke });
    from = Math.max(line, endOf(stroke));
  }
  placeWaiting(line + barTicks);
  return places;
}

/** Just so many onsets: some of the drawn ones, or all of them and others beside; null where the grid has too few. */
function exactly(
  count: number,
  drawn: readonly Ticks[],
  grid: readonly Ticks[],
  weight: (at: Ticks) => number,
  random: Random,
): Ticks[] | null {
  if (new Set([...drawn, ...grid]).size < count) return null;
  const chosen = drawn.length > count ? [] : [...drawn];
  let open = drawn.length > count ? [...drawn] : grid.filter((at) => !drawn.includes(at));
  while (chosen.length < count) {
    const at = pickWeighted(
      random,
      open.map((candidate) => [candidate, weight(candidate)] as const),
    );
    chosen.push(at);
    open = open.filter((other) => other !== at);
  }
  return chosen.sort((a, b) => a - b);
}

/** When a free note that starts here must have ended: before the next onset, and before a held bar that began without it. */
export function latestEnd(start: Ticks, next: Ticks, { held, barTicks }: LineContext): Ticks {
  let end = next;
  for (const [bar, { rings, strokes }] of held.bars)
    if (bar * barTicks > start && strokes.every(({ rhythm }) => rhythm))
      end = Math.min(end, Math.max(rings, bar * barTicks));
  return end;
}

/** The highest or lowest note of what is held at a place, where its pitch is; null where it is free. */
export const heldTop = ({ stroke }: Place): MidiNote | null =>
  stroke?.pitch ? (stroke.notes.at(-1)?.pitch ?? null) : null;
export const heldBottom = ({ stroke }: Place): MidiNote | null =>
  stroke?.pitch ? (stroke.notes[0]?.pitch ?? null) : null;

/** The pitches of a line together with those that are held, which may lie outside its register or scale. */
export const withHeldPitches = (pitches: readonly MidiNote[], held: readonly (MidiNote | null)[]): MidiNote[] =>
  [...new Set([...pitches, ...held.flatMap((pitch) => pitch ?? [])])].sort((a, b) => a - b);

/** What a pitch is worth that is leant on, in hundredths of a nat. */
const LEANT = 260;

/**
 * A layer of pitches at one place: only the held one where one is held, else none that is there for held notes' sake.
 *
 * @param own      pitches that the line may use by itself
 * @param leaning  a pitch that is leant on where the chords allow
 */
export const keptLayer = (
  layer: Int32Array,
  pitches: readonly MidiNote[],
  own: ReadonlySet<MidiNote>,
  held: MidiNote | null,
  leaning: MidiNote | null,
): Int32Array =>
  layer.map((weight, state) => {
    const pitch = pitches[state] as MidiNote;
    if (held === null) return !own.has(pitch) ? FORBIDDEN : pitch === leaning ? raised(weight) : weight;
    return pitch === held ? 0 : FORBIDDEN;
  });

const raised = (weight: number): number => (weight > FORBIDDEN ? weight + LEANT : weight);

/** The pitch that is leant on at a moment: of the line's note that sounds, or sounded last. */
export const leaningAt = ({ leaning }: Held, at: Ticks): MidiNote | null =>
  leaning.findLast(({ start }) => start <= at)?.pitch ?? leaning[0]?.pitch ?? null;

/** A drawn note with whatever is held of it; notes that were struck together stay together. */
export function asHeld(drawn: Note, stroke: HeldStroke | null): Note[] {
  if (!stroke) return [drawn];
  const top = stroke.notes.at(-1);
  const loudest = Math.max(...stroke.notes.map(({ velocity }) => velocity));
  const own = stroke.pitch ? stroke.notes : top ? [{ ...top, pitch: drawn.pitch }] : [];
  return own.map((note) => ({
    ...note,
    start: drawn.start,
    duration: stroke.rhythm ? note.duration : drawn.duration,
    velocity: stroke.dynamics ? note.velocity : clamp(drawn.velocity + note.velocity - loudest, 1, 127),
  }));
}
