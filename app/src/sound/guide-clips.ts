import type { Ticks } from '@fendro/core/theory/units';
import { frameAt, type Pass } from './schedule';
import { runsOf } from './guide-segments';

/** What was recorded of one round: the tick on which it begins, and the recorded frames that belong to it. */
export interface GuideClip {
  readonly tick: Ticks;
  readonly from: number;
  readonly to: number;
}

/**
 * Cuts a recording into the rounds that were heard. What is sung to a frame of the music is recorded later: the music must
 * leave the speakers, and the voice must come in.
 *
 * @param passes    all that was queued meanwhile
 * @param recorded  the first and the last frame that were recorded
 * @param delay     frames from the music's frame until what was sung to it is recorded
 */
export function guideClips(
  passes: readonly Pass[],
  recorded: { readonly from: number; readonly to: number },
  delay: number,
): readonly GuideClip[] {
  return runsOf(passes).flatMap((run) => {
    const begins = Math.max(run.from, recorded.from - delay);
    const to = Math.min(run.to + delay, recorded.to);
    const pass = run.passes.findLast(({ frame }) => frame <= begins) ?? run.passes[0];
    if (!pass) return [];
    const zero = pass.tempo.secondsAt(pass.from);
    // The first whole tick: places are told in those. A pick-up belongs to nothing that could be named.
    const tick = Math.max(0, Math.ceil(pass.tempo.tickAt(zero + (begins - pass.frame) / pass.rate) - 1e-6));
    const from = frameAt(pass, tick) + Math.round(delay);
    return from < to ? [{ tick, from, to: Math.round(to) }] : [];
  });
}
