import { leanStages, leansNow } from '../lean/course';
import { leant } from '../lean/moving';
import { patternMovers } from '../lean/pattern-movers';
import { byStart, endsApart } from '../song/note-ends';
import { remembering } from '../song/remember';
import type { Lean, Note, Pattern } from '../song/schema';
import { isAsked, type Over } from './over';

const KEPT = 16;
const leaning = remembering<Pattern>(KEPT);

/** A pattern as it leans so far, the same one each time. */
const leantPattern = (pattern: Pattern, leans: readonly Lean[], shares: readonly number[]): Pattern =>
  leaning(pattern, shares.join(' '), () =>
    leans.reduce((now, { moves }, index) => leant(now, moves, shares[index] ?? 0, patternMovers(now)), pattern),
  );

/** Notes of which none of one stage sounds into what the next begins with, where one voice is heard. */
function inOneVoice(notes: readonly (readonly [note: Note, stage: number])[]): Note[] {
  let next = { stage: -1, start: Number.POSITIVE_INFINITY, after: Number.POSITIVE_INFINITY };
  return notes
    .toReversed()
    .map(([note, stage]) => {
      const { start, duration } = note;
      const until = stage === next.stage ? next.after : next.start;
      next = { stage, start, after: until };
      return start + duration > until ? { ...note, duration: until - start } : note;
    })
    .reverse();
}

/**
 * What a pattern plays in one pass, bar by bar as it leans by itself then.
 *
 * @param play  what it plays in the whole pass as it is
 * @returns in order, inside the section, none over the next on its pitch
 */
export function leaningNotes(
  pattern: Pattern,
  over: Over,
  play: (pattern: Pattern, over: Over) => readonly Note[],
): readonly Note[] {
  const { leans } = pattern;
  if (!leansNow(leans)) return play(pattern, over);
  const bars = Math.ceil(over.length / over.bar);
  const stages = leanStages(leans, over.pass * bars, bars, { seed: pattern.seed });
  const parts = stages.flatMap(({ shares, bars: own }, stage) => {
    const there = { ...over, only: new Set(own) };
    return play(leantPattern(pattern, leans, shares), there)
      .filter(({ start }) => isAsked(there, start))
      .map((note) => [note, stage] as const);
  });
  const inOrder = parts.sort(([a], [b]) => byStart(a, b));
  const notes = pattern.of === 'drawn' ? inOneVoice(inOrder) : inOrder.map(([note]) => note);
  return endsApart(notes, (_before, after) => after);
}
