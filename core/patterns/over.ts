import type { ChordSpan, Ground } from '../song/schema';
import type { Ticks } from '../theory/units';
import type { PassPlace } from './steps';

/** True where what begins at a moment is asked for. */
export const isAsked = ({ only, bar }: Pick<Over, 'only' | 'bar'>, at: Ticks): boolean =>
  only === undefined || only.has(Math.floor(at / bar));

/** What a pattern is played over: the chords and the key of a section, and which pass of it. */
export interface Over extends PassPlace {
  /** In order. */
  readonly chords: readonly ChordSpan[];
  readonly ground: Pick<Ground, 'tonic' | 'scale' | 'weights'>;
  /** Bars that are asked for, counted from 0; all where nothing is said. What begins in others may be left out. */
  readonly only?: ReadonlySet<number>;
}
