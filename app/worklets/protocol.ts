/** What the page and the audio thread say to each other. Events travel as flat Float64Arrays, five numbers each. */

export const EVENT_SIZE = 5;

/** Longest run of frames that is rendered at once. */
export const QUANTUM = 128;

/**
 * The second number of an event; the others are frame, channel and two values. What begins anew sounds as it did the
 * last time it began.
 */
export const EVENT = {
  noteOff: 0,
  noteOn: 1,
  release: 2,
  controller: 3,
  program: 4,
  bend: 5,
  anew: 6,
  spent: -1,
} as const;

/** The MIDI controller by which a line is turned down against itself. */
export const EXPRESSION = 11;

/** How far a bend of 0 to 16383 goes either way here, in semitones: as far as any note is ever bent. */
export const BEND_RANGE = 24;

/** In place of a channel where all are meant. */
export const ALL_CHANNELS = -1;

export type ToProcessor =
  | { readonly kind: 'bank'; readonly id: string; readonly bytes: ArrayBuffer }
  | { readonly kind: 'drop bank'; readonly id: string }
  /** Adds events to the queue. */
  | { readonly kind: 'block'; readonly events: Float64Array }
  /** Takes out what a channel has queued from a frame on, and adds other events in its place. */
  | { readonly kind: 'switch'; readonly channel: number; readonly frame: number; readonly events: Float64Array }
  /** Takes out what a channel has queued of one pitch. */
  | { readonly kind: 'cancel'; readonly channel: number; readonly pitch: number }
  /** Applies events at once. */
  | { readonly kind: 'now'; readonly events: Float64Array }
  /** Makes room for as many channels, each with a sound and level of its own. */
  | { readonly kind: 'strips'; readonly count: number }
  /** A controller that is moved by hand: until it is let go, what is queued does not move it. */
  | { readonly kind: 'grip'; readonly channel: number; readonly controller: number; readonly on: boolean }
  | { readonly kind: 'gain'; readonly channel: number; readonly gain: number }
  /** The level of the whole mix, as a factor. */
  | { readonly kind: 'master'; readonly gain: number }
  | { readonly kind: 'drums'; readonly channel: number; readonly on: boolean }
  /** Empties the queue and releases every note. */
  | { readonly kind: 'stop' }
  | { readonly kind: 'close' };

export type FromProcessor =
  | { readonly kind: 'ready' }
  | { readonly kind: 'failed'; readonly reason: string }
  | { readonly kind: 'bank added'; readonly id: string }
  | { readonly kind: 'bank refused'; readonly id: string; readonly reason: string }
  /**
   * Greatest sample of each channel since the last report, then of what leaves; and the least factor by which the limiter
   * turned the mix down.
   */
  | { readonly kind: 'levels'; readonly peaks: Float32Array; readonly reduction: number; readonly late: number };
