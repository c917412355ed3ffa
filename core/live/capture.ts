import { curveOf } from '../song/curve';
import type { Curve, CurveKind, LineId, OccurrenceId, SectionId } from '../song/schema';
import type { Chord } from '../theory/chord';
import type { MidiNote, Ticks, Velocity } from '../theory/units';

/** Where in the music something was played. */
export interface LiveMoment {
  readonly section: SectionId;
  readonly occurrence: OccurrenceId;
  /** How often the loop had come round. */
  readonly round: number;
  /** From the section's start; a little before it where the hand was early. */
  readonly at: Ticks;
}

/** What a wheel or a pressed key did to a note that sounded: when, in seconds, and how far, as the note's curves have it. */
export interface Shaped {
  readonly kind: Extract<CurveKind, 'bend' | 'vibrato'>;
  readonly at: number;
  readonly value: number;
}

/** A note that was played by hand. */
export interface PlayedNote {
  /** Who was played. */
  readonly line: LineId;
  readonly pitch: MidiNote;
  readonly velocity: Velocity;
  /** When it began and ended, in seconds of one clock; null while it sounds. */
  readonly from: number;
  readonly to: number | null;
  /** Where the music was then; null where it stood still. */
  readonly moment: LiveMoment | null;
  /** The chord that was under the hand. */
  readonly chord: Chord | null;
  /** What was done to it while it sounded, in order. */
  readonly shaped?: readonly Shaped[];
}

/** What was played lately, the oldest first. */
export type Captured = readonly PlayedNote[];

/** How long what was played is remembered, in seconds: two minutes. */
export const REMEMBERED_SECONDS = 120;
/** Notes that are remembered at most: more than ten hands could play. */
const MOST_NOTES = 6000;

/** Adds a note that begins; what is over for longer than is remembered goes. */
export function begun(captured: Captured, note: PlayedNote): Captured {
  const since = note.from - REMEMBERED_SECONDS;
  const kept = captured.filter(({ to }) => to === null || to >= since);
  return [...kept.slice(-MOST_NOTES + 1), note];
}

/** Ends the note that sounds on a pitch. @param to  in seconds */
export function over(captured: Captured, pitch: MidiNote, to: number): Captured {
  const at = captured.findLastIndex((note) => note.pitch === pitch && note.to === null);
  const note = captured[at];
  return note ? captured.with(at, { ...note, to: Math.max(note.from, to) }) : captured;
}

/** Does something to every note of a line that sounds. */
export const shapedBy = (captured: Captured, line: LineId, shape: Shaped): Captured =>
  captured.map((note) =>
    note.line === line && note.to === null ? { ...note, shaped: [...(note.shaped ?? []), shape] } : note,
  );

/**
 * The curves that a note was given by hand. @param ticksAt  the place of a moment, in ticks from the note's start
 */
export function curvesOf(
  { shaped = [] }: PlayedNote,
  ticksAt: (seconds: number) => Ticks,
): Readonly<Partial<Record<Shaped['kind'], Curve>>> {
  const curve = (kind: Shaped['kind']): Curve | null => {
    // Of several at one moment the last counts.
    const points = new Map(
      shaped.filter((each) => each.kind === kind).map(({ at, value }) => [Math.max(0, ticksAt(at)), value] as const),
    );
    return curveOf(
      kind,
      [...points].map(([at, value]) => ({ at, value })).sort((a, b) => a.at - b.at),
    );
  };
  const [bend, vibrato] = [curve('bend'), curve('vibrato')];
  return { ...(bend && { bend }), ...(vibrato && { vibrato }) };
}

/** What was begun since a moment, in seconds, with its ends. @param now  when what still sounds is taken to end */
export const since = (captured: Captured, from: number, now: number): readonly (PlayedNote & { to: number })[] =>
  captured.filter((note) => note.from >= from).map((note) => ({ ...note, to: note.to ?? Math.max(note.from, now) }));
