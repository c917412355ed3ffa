import { draft } from '../compose/draft';
import { harmonyAsking, partAsking } from '../compose/asking';
import { attemptsAt } from '../compose/stages';
import { choose } from '../song/edit';
import {
  HARMONY,
  SONG_VERSION,
  type Asking,
  type ChordSpan,
  type Ground,
  type Score,
  type Song,
  type Take,
} from '../song/schema';
import { draftedTake } from '../song/take';
import { barTicks } from '../theory/metre';
import { groundFor, newSection, startScore } from '../styles/band';
import { STYLES } from '../styles/styles';

interface Drafted {
  readonly score: Score;
  readonly takes: Record<string, Take>;
  readonly song: Song;
}

/** Drafting takes 10 ms, and specs ask for the same songs again and again. */
const drafted = new Map<string, Drafted>();

/** Makes an object and whatever is in it unchangeable. */
function frozen<T>(value: T): T {
  if (typeof value !== 'object' || value === null || Object.isFrozen(value)) return value;
  for (const inner of Object.values(value)) frozen(inner);
  return Object.freeze(value);
}

/**
 * A small drafted song for specs: two sections of two bars, played a b a, two takes for every line.
 *
 * @returns the same object for the same song; it is frozen, so that no spec changes another's
 */
export function scoreWith(seed: number, swing: number, change: Partial<Ground> = {}): Drafted {
  const key = JSON.stringify([seed, swing, change]);
  const known = drafted.get(key) ?? frozen(draftSong(seed, swing, change));
  drafted.set(key, known);
  return known;
}

function draftSong(seed: number, swing: number, change: Partial<Ground>): Drafted {
  const style = STYLES[0]!;
  const ground = { ...groundFor(style, { tonic: 0, scale: 'major' }), swing, ...change };
  let score = startScore('Fair weather', ground, style);
  score = {
    ...score,
    sections: [
      { ...score.sections[0]!, bars: 2 },
      { ...newSection(style, 'chorus', 'section-2'), bars: 2 },
    ],
    order: ['section-1', 'section-2', 'section-1'].map((section, index) => ({
      id: `occurrence-${index + 1}`,
      section,
    })),
  };
  const takes: Record<string, Take> = {};
  for (const section of score.sections) {
    const place = { ground, bars: section.bars, kind: section.kind };
    const bar = barTicks(ground.metre);
    const add = (line: string, asking: Asking, chords: readonly ChordSpan[] | null, attempt: number): Take => {
      const result = draft({ asking, seed, chords, beside: [] }, attempt);
      if (!result.ok) throw new Error(result.reason);
      const { content } = result;
      const take = draftedTake(
        { id: `${section.id}-${line}-${attempt}`, section: section.id, length: bar * section.bars },
        { asking, seed, attempts: attemptsAt(attempt) },
        content.of === 'part' ? { ...content, part: line } : content,
      );
      takes[take.id] = take;
      if (attempt === 0) score = choose(score, section.id, line, take.id);
      return take;
    };
    const harmony = add(HARMONY, harmonyAsking(place, section.harmonyBrief), null, 0);
    const chords = harmony.of === 'harmony' ? harmony.chords : [];
    for (const part of score.parts)
      for (const attempt of [0, 1]) add(part.id, partAsking(place, part, { harmony: harmony.id }), chords, attempt);
  }
  return {
    score,
    takes,
    song: {
      format: 'fendro-song',
      version: SONG_VERSION,
      id: 'song',
      seed,
      score,
      ledger: { takes, heard: [] },
      hearing: {},
    },
  };
}
