import type { Key } from '../theory/key';
import { range, type Ticks } from '../theory/units';
import { refitChord } from './follow-ground';
import type { ChordSpan } from './schema';

/** Chords that are kept with the key that they stand in. */
export interface KeptProgression {
  readonly chords: readonly ChordSpan[];
  readonly tonic: number;
  readonly scale: string;
  /** Ticks after which it begins again. */
  readonly length: Ticks;
}

/** A kept progression in another key, going round until some room is full. */
export function progressionIn({ chords, tonic, scale, length }: KeptProgression, key: Key, room: Ticks): ChordSpan[] {
  return range(Math.ceil(room / Math.max(1, length))).flatMap((round) =>
    chords
      .map((span) => ({
        ...span,
        start: span.start + round * length,
        chord: span.chord ? refitChord(span.chord, { tonic, scale }, key) : null,
      }))
      .filter(({ start }) => start < room)
      .map((span) => ({ ...span, duration: Math.min(span.duration, room - span.start) })),
  );
}

/** What sounds of chords in a stretch, counted from where it begins: those that reach into it are cut. */
export const chordsWithin = (chords: readonly ChordSpan[], from: Ticks, to: Ticks): ChordSpan[] =>
  chords
    .filter(({ start, duration }) => start < to && start + duration > from)
    .map(({ start, duration, chord }) => ({
      start: Math.max(start, from) - from,
      duration: Math.min(start + duration, to) - Math.max(start, from),
      chord,
    }));
