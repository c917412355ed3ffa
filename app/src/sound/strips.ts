import { HARMONY, type LineId, type Score } from '@fendro/core/song/schema';
import { voiceIdsOf, voicesOf, type VoiceId } from '@fendro/core/sounding/setup';

/**
 * Everything that sounds has a strip of its own in the synthesizer, so that none takes another's sound or level,
 * however many parts a song has, and whatever doubles them. The first is the metronome's, the second the chord line's.
 */
export const CLICK_STRIP = 0;
const CHORD_STRIP = 1;
const FIRST_PART = 2;

export type Strips = ReadonlyMap<VoiceId, number>;

const NONE: Strips = new Map();

/**
 * The strip of every voice. Those that had one keep it, whoever comes, goes or moves beside them, since what is queued
 * sounds there; new ones take the lowest that nobody had.
 */
export function stripsOf(score: Score, before: Strips = NONE): Strips {
  const taken = new Set(before.values());
  let next = FIRST_PART;
  const free = (): number => {
    while (taken.has(next)) next++;
    return next++;
  };
  const parts = voicesOf(score).filter(({ line }) => line !== HARMONY);
  return new Map([[HARMONY, CHORD_STRIP], ...parts.map(({ id }) => [id, before.get(id) ?? free()] as const)]);
}

/** The strips that a line sounds on. */
export const stripsFor = (strips: Strips, line: LineId): readonly number[] =>
  voiceIdsOf(line).flatMap((voice) => strips.get(voice) ?? []);

/** How many strips there must be. */
export const stripCount = (strips: Strips): number => Math.max(...strips.values()) + 1;
