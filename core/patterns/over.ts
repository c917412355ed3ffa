import type { ChordSpan, Ground } from '../song/schema';
import type { PassPlace } from './steps';

/** What a pattern is played over: the chords and the key of a section, and which pass of it. */
export interface Over extends PassPlace {
  /** In order. */
  readonly chords: readonly ChordSpan[];
  readonly ground: Pick<Ground, 'tonic' | 'scale' | 'weights'>;
}
