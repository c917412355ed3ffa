import type { OwnPhrase } from '../song/own-phrase';
import type { Brief, Role } from '../song/schema';
import type { Style } from '../song/style';

/** A figure that any progression becomes music by; it is computed over the chords and never stored as notes. */
export interface Phrase {
  readonly id: string;
  /** What it does: “rolling broken chord, eighths, up”. */
  readonly name: string;
  readonly family: 'broken chord' | 'stabs' | 'strumming' | 'picking' | 'bass figure' | 'own';
  readonly role: Role;
  /** The one figure that the drafter of the role is given. */
  readonly figure: Partial<Pick<Style, 'arpeggio' | 'comping' | 'bass' | 'strums' | 'picking' | 'metres'>>;
  readonly brief: Partial<Brief>;
  /** The writer's own: its notes instead of a figure. */
  readonly own?: OwnPhrase;
  /** Onsets in a bar of four quarters, for the field from sparse to busy. */
  readonly busyness: number;
  /** Places struck in a bar of sixteen, for finding by a tapped rhythm. */
  readonly onsets: readonly number[];
}

/** What is done to a phrase before it is taken. */
export interface PhraseTurn {
  readonly octave: -1 | 0 | 1;
  readonly speed: 0.5 | 1 | 2;
  /** Notes together: one fewer, as it is, one more. */
  readonly fullness: -1 | 0 | 1;
  /** A bass note under every chord. */
  readonly bass: boolean;
}

export const AS_IT_IS: PhraseTurn = { octave: 0, speed: 1, fullness: 0, bass: false };
