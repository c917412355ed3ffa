import type { ChordSpan, Note, StepsOf } from '../song/schema';
import { underAt } from '../song/under';
import { chordMask } from '../theory/chord';
import { keyMask, type Key } from '../theory/key';
import { inMask } from '../theory/pitch';
import { clamp, type MidiNote, type PitchClassMask, type Ticks } from '../theory/units';
import { once, type StreamLabel } from '../trellis/random';

/** What notes are treated over: chords and key, the section's length and its bar, and which pass of it. */
export interface Treating {
  readonly chords: readonly ChordSpan[];
  readonly key: Key;
  readonly length: Ticks;
  readonly bar: Ticks;
  readonly pass: number;
  /** Tells what chance draws in one place of a chain from what it draws in another. */
  readonly seed: number;
}

export type Notes = readonly Note[];

/** A treatment: from notes in order to notes in order, each inside the section. */
export type Treat<Wish> = (notes: Notes, wish: Wish, over: Treating) => Notes;

/** One number of chance for a note: the same whenever the same pass is played. At least 0, below 1. */
export const chanceOf = (note: Note, what: string, { seed, pass, length }: Treating, ...more: StreamLabel[]): number =>
  once(seed, what, pass * length + note.start, note.pitch, ...more);

/** The pitch classes of the chord that sounds at a moment; those of the key where none does. */
function chordMaskAt({ chords, key, length }: Treating, at: Ticks): PitchClassMask {
  const { span } = underAt(chords, at, length);
  return span?.chord ? chordMask(span.chord) : keyMask(key);
}

const ALL: PitchClassMask = 0xfff;

export const maskFor = (of: StepsOf, over: Treating, at: Ticks): PitchClassMask =>
  of === 'semitones' ? ALL : of === 'chord' ? chordMaskAt(over, at) : keyMask(over.key);

/**
 * The pitch so many steps above another, or below it: of a mask, from the nearest note on that way that lies in it.
 *
 * @returns null where it would leave the MIDI range
 */
export function stepped(pitch: MidiNote, by: number, mask: PitchClassMask): MidiNote | null {
  const way = Math.sign(by);
  let at = pitch;
  for (let left = Math.abs(by); left > 0; left--) {
    do at += way;
    while (!inMask(mask, at) && at >= 0 && at <= 127);
    if (at < 0 || at > 127) return null;
  }
  return at;
}

/** The note of a mask that lies nearest, the lower one of two. */
export function snapped(pitch: MidiNote, mask: PitchClassMask): MidiNote {
  if (mask === 0) return pitch;
  for (let far = 0; far < 12; far++)
    for (const at of [pitch - far, pitch + far]) if (at >= 0 && at <= 127 && inMask(mask, at)) return at;
  return pitch;
}

/** Notes that are struck together, in order of their starts; each stroke from its lowest note up. */
export function strokesIn(notes: Notes): Note[][] {
  const strokes = new Map<Ticks, Note[]>();
  for (const note of notes) strokes.set(note.start, [...(strokes.get(note.start) ?? []), note]);
  return [...strokes].sort(([a], [b]) => a - b).map(([, stroke]) => stroke.sort((a, b) => a.pitch - b.pitch));
}

/** A note of another length, a tick at least. */
export const lasting = <N extends Note>(note: N, ticks: number): N => ({
  ...note,
  duration: Math.max(1, Math.round(ticks)),
});

export const loud = (velocity: number): number => clamp(Math.round(velocity), 1, 127);
