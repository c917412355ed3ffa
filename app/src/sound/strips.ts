import { HARMONY, type LineId, type Score } from '@fendro/core/song/schema';

/**
 * Every line that sounds has a strip of its own in the synthesizer, so that none takes another's sound or level,
 * however many parts a song has. The first is the metronome's, the second the chord line's.
 */
export const CLICK_STRIP = 0;
const CHORD_STRIP = 1;
const FIRST_PART = 2;

export const stripCount = (score: Score): number => FIRST_PART + score.parts.length;

export const stripsOf = (score: Score): ReadonlyMap<LineId, number> =>
  new Map([[HARMONY, CHORD_STRIP], ...score.parts.map(({ id }, index) => [id, FIRST_PART + index] as const)]);
