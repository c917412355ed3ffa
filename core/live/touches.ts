import type { MidiNote, Velocity } from '../theory/units';

/**
 * What one key of the right hand does with the chord that is held: strokes over all of it, one of its notes from low to
 * high, or a step along the scale.
 */
export type Touch =
  | { readonly does: 'stroke'; readonly way: 'down' | 'up' | 'together' | 'damped' }
  | { readonly does: 'bass' }
  /** Counted from 0, the lowest. */
  | { readonly does: 'note'; readonly place: number }
  /** Steps of the scale from the note that sounded last; 0 strikes it again. */
  | { readonly does: 'walk'; readonly by: number }
  | { readonly does: 'drum'; readonly pitch: MidiNote };

const note = (place: number): Touch => ({ does: 'note', place });
const walk = (by: number): Touch => ({ does: 'walk', by });
const stroke = (way: Extract<Touch, { does: 'stroke' }>['way']): Touch => ({ does: 'stroke', way });

/** What the right hand has for whoever plays notes, in the order of its keys: notes, strokes, steps. */
export const TOUCHES: readonly Touch[] = [
  ...[0, 1, 2, 3, 4].map(note),
  ...[stroke('damped'), stroke('down'), stroke('up'), stroke('together'), { does: 'bass' } as const],
  ...[-2, -1, 0, 1, 2].map(walk),
];

/** The drums of a kit that hands reach for, in the order of the keys: cymbals over drums over what keeps time. */
export const DRUM_TOUCHES: readonly Touch[] = [
  ...[49, 51, 53, 46, 44],
  ...[36, 38, 42, 37, 39],
  ...[41, 45, 48, 54, 56],
].map((pitch) => ({ does: 'drum', pitch }));

/** A note that a hand strikes. */
export interface Strike {
  readonly pitch: MidiNote;
  readonly velocity: Velocity;
  /** How long after the hand it sounds, in seconds: strings are struck one after the other. */
  readonly after: number;
  /** How long it sounds, in seconds; null until the hand lets it go. */
  readonly lasts: number | null;
}

/** Seconds from string to string; upwards the hand is a little quicker. */
const STRING_SECONDS = { down: 0.014, up: 0.011 } as const;
/** Up strokes catch the high strings only, and are softer. */
const [UP_STRINGS, UP_LOUDNESS] = [4, 0.85];
const [DAMPED_SECONDS, DAMPED_LOUDNESS] = [0.07, 0.8];

const loud = (velocity: number): Velocity => Math.max(1, Math.min(127, Math.round(velocity)));

/**
 * What a stroke strikes of a chord that is laid out.
 *
 * @param pitches  from low to high
 */
export function strokeOver(
  pitches: readonly MidiNote[],
  way: Extract<Touch, { does: 'stroke' }>['way'],
  velocity: Velocity,
): readonly Strike[] {
  switch (way) {
    case 'down':
      return pitches.map((pitch, string) => strike(pitch, velocity, string * STRING_SECONDS.down));
    case 'up':
      return pitches
        .slice(-UP_STRINGS)
        .reverse()
        .map((pitch, string) => strike(pitch, velocity * UP_LOUDNESS, string * STRING_SECONDS.up));
    case 'together':
      return pitches.map((pitch) => strike(pitch, velocity));
    case 'damped':
      return pitches.map((pitch, string) =>
        strike(pitch, velocity * DAMPED_LOUDNESS, string * STRING_SECONDS.up, DAMPED_SECONDS),
      );
  }
}

/** One note struck by a hand. @param after, lasts  in seconds */
export const strike = (pitch: MidiNote, velocity: number, after = 0, lasts: number | null = null): Strike => ({
  pitch,
  velocity: loud(velocity),
  after,
  lasts,
});
