import { draft } from '@fendro/core/compose/draft';
import { endSong } from '@fendro/core/compose/ending';
import { harmonyAsking, partAsking } from '@fendro/core/compose/asking';
import { attemptsAt } from '@fendro/core/compose/stages';
import { choose } from '@fendro/core/song/edit';
import { songTicks } from '@fendro/core/song/resolve';
import { inDraftingOrder, listenedTo } from '@fendro/core/song/roles';
import { HARMONY, type Asking, type Ground, type PartTake, type Score, type Take } from '@fendro/core/song/schema';
import { draftedTake, type Drafted } from '@fendro/core/song/take';
import type { Style } from '@fendro/core/song/style';
import { groundFor, startScore } from '@fendro/core/styles/band';
import { tonicsFor } from '@fendro/core/theory/key';
import { barTicks } from '@fendro/core/theory/metre';

const SEED = 7;

/** A drafted song; it ends, in ticks, before its ending section. */
export interface BandSong {
  readonly score: Score;
  readonly takes: Record<string, Take>;
  readonly ended: number;
}

/**
 * A style's band over chords of its own, with its ending.
 *
 * @param other  what is otherwise than the style has it
 */
export function songOf(style: Style, other: Partial<Ground> = {}): BandSong {
  const scale = style.scales[0] ?? 'major';
  const ground = { ...groundFor(style, { tonic: tonicsFor(scale)[2] ?? 0, scale }), ...other };
  const place = { ground, bars: 8, kind: 'verse' as const };
  let score = startScore(style.name, ground, style);
  const [section] = score.sections;
  if (!section) throw new Error('no section');
  const takes: Record<string, Take> = {};
  const length = 8 * barTicks(ground.metre);
  const add = (line: string, asking: Asking, content: Drafted): void => {
    const id = line === HARMONY ? 'chords' : line;
    takes[id] = draftedTake(
      { id, section: section.id, length },
      { asking, seed: SEED, attempts: attemptsAt(0) },
      content,
    );
    score = choose(score, section.id, line, id);
  };
  const asked = harmonyAsking(place, section.harmonyBrief);
  const harmony = draft({ asking: asked, seed: SEED, chords: null, beside: [] }, 0);
  if (!harmony.ok || harmony.content.of !== 'harmony') throw new Error(`${style.name} has no chords`);
  add(HARMONY, asked, harmony.content);
  for (const part of inDraftingOrder(score.parts)) {
    const listened = listenedTo(part, score.parts);
    const beside = Object.values(takes).filter(
      (take): take is PartTake => take.of === 'part' && take.part === listened?.id,
    );
    const asking = partAsking(place, part, { harmony: 'chords', beside: beside.map(({ id }) => id) });
    const result = draft({ asking, seed: SEED + part.colour, chords: harmony.content.chords, beside }, 0);
    if (!result.ok || result.content.of !== 'part') throw new Error(`${style.name}, ${part.name}: nothing`);
    add(part.id, asking, { ...result.content, part: part.id });
  }
  let serial = 0;
  const ended = endSong(score, takes, style.ending, (kind) => `${kind}-end-${serial++}`);
  if (!ended) throw new Error('no ending');
  return {
    score: ended.score,
    takes: { ...takes, ...Object.fromEntries(ended.takes.map((take) => [take.id, take])) },
    ended: songTicks(score),
  };
}
