import { HARMONY, type LineId, type Score } from '@fendro/core/song/schema';

/**
 * Every line that sounds has a strip of its own in the synthesizer, so that none takes another's sound or level,
 * however many parts a song has. The first is the metronome's, the second the chord line's.
 */
export const CLICK_STRIP = 0;
const CHORD_STRIP = 1;
const FIRST_PART = 2;

export type Strips = ReadonlyMap<LineId, number>;

const NONE: Strips = new Map();

/**
 * The strip of every line. Lines that had one keep it, whoever comes, goes or moves beside them, since what is queued
 * sounds there; new ones take the lowest that nobody had.
 */
export function stripsOf({ parts }: Score, before: Strips = NONE): Strips {
  const taken = new Set(before.values());
  let next = FIRST_PART;
  const free = (): number => {
    while (taken.has(next)) next++;
    return next++;
  };
  return new Map([[HARMONY, CHORD_STRIP], ...parts.map(({ id }) => [id, before.get(id) ?? free()] as const)]);
}

/** How many strips there must be. */
export const stripCount = (strips: Strips): number => Math.max(...strips.values()) + 1;
