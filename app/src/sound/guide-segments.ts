import type { Guide } from '@fendro/core/song/schema';
import type { Ticks } from '@fendro/core/theory/units';
import { endFrame, frameAt, type Pass } from './schedule';

/** A guide with the tick of the song on which it begins. */
export interface LaidGuide {
  readonly guide: Guide;
  readonly start: Ticks;
}

/** A stretch of a guide's sound: from which frame to which, and where in the recording it begins, in seconds. */
export interface GuideSegment {
  readonly guide: Guide;
  readonly from: number;
  readonly to: number;
  readonly offset: number;
}

/** Passes that follow each other without a jump, as one. */
export interface Run {
  readonly passes: readonly Pass[];
  readonly from: number;
  readonly to: number;
}

export function runsOf(passes: readonly Pass[]): readonly Run[] {
  const runs: Pass[][] = [];
  for (const pass of passes) {
    const before = runs.at(-1)?.at(-1);
    if (before?.to === pass.from && Math.abs(endFrame(before) - pass.frame) < 2) runs.at(-1)?.push(pass);
    else runs.push([pass]);
  }
  return runs.map((own) => ({
    passes: own,
    from: own[0]?.frame ?? 0,
    to: own.at(-1) ? endFrame(own.at(-1) as Pass) : 0,
  }));
}

/** The frame of a tick of the song in a run; beyond it by the tempo at its edges. */
function frameIn({ passes }: Run, tick: Ticks): number {
  const pass = passes.find(({ to }) => tick < to) ?? passes.at(-1);
  return pass ? frameAt(pass, tick) : 0;
}

/**
 * What of some guides sounds in what is queued. A guide begins at its place and runs on as long as the music goes on from
 * there; where music begins behind its beginning, it is taken up where it would be by then.
 *
 * @param rate  frames a second
 */
export function guideSegments(
  passes: readonly Pass[],
  guides: readonly LaidGuide[],
  rate: number,
): readonly GuideSegment[] {
  return runsOf(passes).flatMap((run) =>
    guides.flatMap(({ guide, start }) => {
      if (guide.muted) return [];
      const begins = frameIn(run, start) + (guide.offset / 1000) * rate;
      const from = Math.max(run.from, begins);
      const to = Math.min(run.to, begins + guide.seconds * rate);
      return from < to ? [{ guide, from: Math.round(from), to: Math.round(to), offset: (from - begins) / rate }] : [];
    }),
  );
}
