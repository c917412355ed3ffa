import { barTicks, beatsOf, metricalWeight, WEIGHT, type Metre } from '../theory/metre';
import { TICKS_PER_QUARTER, type MidiNote, type Ticks } from '../theory/units';
import { valueOf, type Value } from './values';

/** A single line as it is written: notes on the grid of each beat, cut where bars and strong beats are, tied over them. */

/** A note as far as writing needs it; ticks from the first bar line, negative in a pick-up. */
export interface SoundingNote {
  readonly start: Ticks;
  readonly duration: Ticks;
  readonly pitch: MidiNote;
}

/** One head, or a rest. */
export interface WrittenEvent {
  readonly start: Ticks;
  readonly duration: Ticks;
  readonly value: Value;
  /** Lowest first; none of a rest. */
  readonly pitches: readonly MidiNote[];
  /** True where it goes on into the next event, and where it comes from the one before. */
  readonly tied: boolean;
  readonly goesOn: boolean;
  /** Where a group of three in the time of two begins and ends. */
  readonly tuplet: 'start' | 'stop' | null;
}

const QUARTER = TICKS_PER_QUARTER;
/** Steps of the grids of a beat: sixteenths, triplets of eighths and of sixteenths, thirty-seconds. */
const GRIDS = [
  { step: QUARTER / 4, triplet: false, price: 0 },
  { step: QUARTER / 3, triplet: true, price: 6 },
  { step: QUARTER / 6, triplet: true, price: 30 },
  { step: QUARTER / 8, triplet: false, price: 36 },
] as const;
type Grid = (typeof GRIDS)[number];

/** A beat of the music with the grid that its notes are written on. */
interface GriddedBeat {
  readonly start: Ticks;
  readonly end: Ticks;
  readonly grid: Grid;
}

const off = (at: Ticks, step: Ticks): Ticks => Math.abs(at - Math.round(at / step) * step);

/** Quarters of a beat, so that each has a grid of its own; beats of three eighths are one. */
function beatsIn(metre: Metre, from: Ticks, to: Ticks): readonly { readonly start: Ticks; readonly end: Ticks }[] {
  const bar = barTicks(metre);
  const pieces = beatsOf(metre).flatMap(({ at, length }) =>
    length % QUARTER === 0
      ? Array.from({ length: length / QUARTER }, (_, index) => ({ at: at + index * QUARTER, length: QUARTER }))
      : [{ at, length }],
  );
  const first = Math.floor(from / bar);
  const count = Math.ceil(to / bar) - first;
  return Array.from({ length: count }, (_, index) =>
    pieces.map(({ at, length }) => ({ start: (first + index) * bar + at, end: (first + index) * bar + at + length })),
  ).flat();
}

/** The grid on which what begins in a beat lies best: the coarser where two are as good. */
function griddedBeats(notes: readonly SoundingNote[], metre: Metre, from: Ticks, to: Ticks): readonly GriddedBeat[] {
  return beatsIn(metre, from, to).map(({ start, end }) => {
    const inside = notes.filter((note) => note.start >= start - QUARTER / 16 && note.start < end - QUARTER / 16);
    // Beats of three eighths have no triplets.
    const grids = end - start === QUARTER ? GRIDS : GRIDS.filter(({ triplet }) => !triplet);
    const cost = ({ step, price }: Grid): number =>
      price + inside.reduce((sum, note) => sum + off(note.start - start, step), 0) * 1.5;
    const grid = grids.reduce(
      (best, other) => (inside.length > 0 && cost(other) < cost(best) ? other : best),
      GRIDS[0],
    );
    return { start, end, grid };
  });
}

/** A moment put on the grid of the beat that it lies in. */
function onGrid(at: Ticks, beats: readonly GriddedBeat[]): Ticks {
  const beat = beats.find(({ end }) => at < end) ?? beats.at(-1);
  if (!beat) return at;
  const { step } = beat.grid;
  return beat.start + Math.round((at - beat.start) / step) * step;
}

/** Notes that begin together, on the grid; each lasts until the next at the longest. */
interface Struck {
  readonly start: Ticks;
  readonly end: Ticks;
  readonly pitches: readonly MidiNote[];
}

/** A gap of so much of the time to the next note is how it is played, and no rest. */
const TOUCH = 0.35;

function struckOnGrid(notes: readonly SoundingNote[], beats: readonly GriddedBeat[], to: Ticks): readonly Struck[] {
  const together = new Map<Ticks, SoundingNote[]>();
  for (const note of notes) {
    const start = onGrid(note.start, beats);
    together.set(start, [...(together.get(start) ?? []), note]);
  }
  const starts = [...together.keys()].sort((a, b) => a - b);
  return starts.map((start, index) => {
    const own = together.get(start) ?? [];
    const next = starts[index + 1] ?? to;
    const sounds = own.reduce((longest, { start: at, duration }) => Math.max(longest, at + duration), start);
    const gap = next - sounds;
    const closed = gap <= QUARTER / 4 || gap <= (next - start) * TOUCH;
    const end = closed && gap < QUARTER ? next : Math.min(next, onGrid(sounds, beats));
    return {
      start,
      end: end > start ? end : Math.min(next, start + stepAt(start, beats)),
      pitches: [...new Set(own.map(({ pitch }) => pitch))].sort((a, b) => a - b),
    };
  });
}

const stepAt = (at: Ticks, beats: readonly GriddedBeat[]): Ticks =>
  beats.find(({ end }) => at < end)?.grid.step ?? QUARTER / 4;

/** Where a stretch has to be cut: at bar lines, and at both ends of beats in triplets. */
function mustCut(start: Ticks, end: Ticks, bar: Ticks, beats: readonly GriddedBeat[]): readonly Ticks[] {
  const lines: Ticks[] = [];
  for (let line = (Math.floor(start / bar) + 1) * bar; line < end; line += bar) lines.push(line);
  const triplets = beats.filter(({ grid }) => grid.triplet).flatMap((beat) => [beat.start, beat.end]);
  return [...new Set([...lines, ...triplets.filter((at) => at > start && at < end)])].sort((a, b) => a - b);
}

/** The strongest moment within a stretch on which a beat or a half of one begins; null where there is none. */
function strongestWithin(
  start: Ticks,
  end: Ticks,
  metre: Metre,
): { readonly at: Ticks; readonly weight: number } | null {
  const step = QUARTER / 8;
  let best: { at: Ticks; weight: number } | null = null;
  for (let at = (Math.floor(start / step) + 1) * step; at < end; at += step) {
    const weight = metricalWeight(metre, at);
    if (!best || weight > best.weight) best = { at, weight };
  }
  return best;
}

/** Lengths of the heads of a stretch within a bar: no head hides a beat that is stronger than the one it begins on. */
function headsOf(start: Ticks, end: Ticks, metre: Metre): readonly Ticks[] {
  const value = valueOf(end - start, false);
  const inside = strongestWithin(start, end, metre);
  if (!inside) return [end - start];
  const own = metricalWeight(metre, start);
  // An off-beat quarter between two eighths is read at once; it may hide a beat, but no stronger one.
  const simple = beatsOf(metre).every(({ length }) => length === QUARTER);
  const quarter = value?.name === 'quarter' && value.dots === 0;
  const syncopated = simple && quarter && own >= WEIGHT.division && inside.weight <= WEIGHT.beat;
  if (value && (inside.weight <= own || syncopated)) return [end - start];
  return [...headsOf(start, inside.at, metre), ...headsOf(inside.at, end, metre)];
}

function eventsOf(struck: Struck, metre: Metre, beats: readonly GriddedBeat[]): WrittenEvent[] {
  const cuts = [struck.start, ...mustCut(struck.start, struck.end, barTicks(metre), beats), struck.end];
  const pieces = cuts.slice(0, -1).flatMap((from, index) => {
    const to = cuts[index + 1] as Ticks;
    const beat = beats.find(({ start, end, grid }) => grid.triplet && from >= start && to <= end);
    const whole = from === beat?.start && to === beat.end;
    const heads = beat && !whole ? tripletHeads(to - from) : headsOf(from, to, metre);
    let at = from;
    return heads.map((length) => {
      const piece = {
        start: at,
        duration: length,
        triplet: beat !== undefined && !whole,
        beat: whole ? undefined : beat,
      };
      at += length;
      return piece;
    });
  });
  const sounds = struck.pitches.length > 0;
  return pieces.map(({ start, duration, triplet, beat }, index) => ({
    start,
    duration,
    value: valueOf(duration, triplet) ?? { name: '32nd', dots: 0, triplet },
    pitches: struck.pitches,
    tied: sounds && index > 0,
    goesOn: sounds && index < pieces.length - 1,
    tuplet: beat === undefined ? null : start === beat.start ? 'start' : start + duration === beat.end ? 'stop' : null,
  }));
}

/** Lengths of heads in triplets: as few as there are. */
function tripletHeads(length: Ticks): readonly Ticks[] {
  if (valueOf(length, true)) return [length];
  const step = QUARTER / 6;
  for (let first = length - step; first >= step; first -= step)
    if (valueOf(first, true)) return [first, ...tripletHeads(length - first)];
  return [length];
}

/**
 * Writes a line: notes and rests with their values, without a gap from the first bar line, or the pick-up before it, to
 * the end.
 *
 * @param notes  in order of their starts
 * @param to     the end of the last bar
 */
export function writtenLine(notes: readonly SoundingNote[], metre: Metre, to: Ticks): readonly WrittenEvent[] {
  const earliest = notes[0]?.start ?? 0;
  const from = earliest < 0 ? Math.floor(earliest / QUARTER) * QUARTER : 0;
  const beats = griddedBeats(notes, metre, from, to);
  const struck = struckOnGrid(notes, beats, to).filter(({ start }) => start < to);
  const events: WrittenEvent[] = [];
  let at = from;
  const rest = (until: Ticks): void => {
    if (until > at) events.push(...eventsOf({ start: at, end: until, pitches: [] }, metre, beats));
  };
  for (const note of struck) {
    rest(note.start);
    events.push(...eventsOf({ ...note, end: Math.min(note.end, to) }, metre, beats));
    at = Math.min(note.end, to);
  }
  rest(to);
  return events;
}
