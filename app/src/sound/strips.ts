import { HARMONY, MOST_LAYERS, type LineId, type Score } from '@fendro/core/song/schema';
import { voiceIdsOf, voicesOf, type Voice, type VoiceId } from '@fendro/core/sounding/setup';
import { range } from '@fendro/core/theory/units';

/**
 * Everything that sounds has a strip of its own in the synthesizer, so that none takes another's sound or level,
 * however many parts a song has, and whatever doubles them. The first is the metronome's, the second the chord
 * line's, and some are for hands.
 */
export const CLICK_STRIP = 0;
const CHORD_STRIP = 1;
/** What is played by hand has strips of its own, so that no switch of takes cuts it off and no note of a take ends it. */
const LIVE_STRIPS = range(1 + MOST_LAYERS).map((index) => CHORD_STRIP + 1 + index);
const FIRST_PART = CHORD_STRIP + 1 + LIVE_STRIPS.length;

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

/** The strips that the voices of a line sound on while it is played by hand. */
export const liveStripsOf = (voices: readonly Voice[]): Strips =>
  new Map(voices.slice(0, LIVE_STRIPS.length).map(({ id }, index) => [id, LIVE_STRIPS[index] as number]));

/** How many strips there must be. */
export const stripCount = (strips: Strips): number => Math.max(0, ...strips.values()) + 1;
