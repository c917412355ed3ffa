import { tempoOfBeats, type Beats } from './beats';
import { FRAMES_A_SECOND } from './frames';

/**
 * Compound beats: where what lies between beats stands on their thirds and not on their halves, a bar is 6/8 or 12/8.
 * Often the halves of such beats are what is heard as beats, since their tempo is a usual one.
 */

/** Thirds have to be struck so much more than halves and quarters, and so much of a beat itself. */
const [MORE, ALSO] = [1.3, 0.25] as const;
/** Every other beat is none where it is struck no more than this share of the others. */
const SILENT = 0.15;
/** Slower than this, in beats a minute, nobody swings: one third of such a beat is as good as both. */
const SLOW = 72;
/** Counted beats that are slower than this, in beats a minute, are none. */
const SLOWEST = 38;

/** How strongly a pulse is struck, on average, at a share of the way from each beat to the next. */
function struckAt(pulse: Float32Array, times: readonly number[], share: number): number {
  let [sum, number] = [0, 0];
  times.forEach((time, index) => {
    const next = times[index + 1];
    if (next === undefined) return;
    const frame = Math.round((time + share * (next - time)) * FRAMES_A_SECOND);
    if (frame < 1 || frame >= pulse.length - 1) return;
    number++;
    sum += Math.max(...[frame - 1, frame, frame + 1].map((at) => pulse[at] as number));
  });
  return number === 0 ? 0 : sum / number;
}

function goesInThrees(pulse: Float32Array, times: readonly number[], tempo: number): boolean {
  const [whole, first, second, half, early, late] = [0, 1 / 3, 2 / 3, 1 / 2, 1 / 4, 3 / 4].map((share) =>
    struckAt(pulse, times, share),
  ) as [number, number, number, number, number, number];
  const enough = tempo < SLOW ? Math.max(first, second) : Math.min(first, second);
  return enough > ALSO * whole && (first + second) / 2 > MORE * Math.max(half, (early + late) / 2);
}

/** Beats without every other one, where those are silent. */
function withoutSilent(pulse: Float32Array, { times, even }: Beats): Beats {
  const [a, b] = [0, 1].map((first) => times.filter((_, index) => index % 2 === first)) as [number[], number[]];
  const [own, other] = [struckAt(pulse, a, 0), struckAt(pulse, b, 0)];
  const fewer = own > other ? a : b;
  const silent = Math.min(own, other) < SILENT * Math.max(own, other);
  return silent && tempoOfBeats({ times: fewer, even }) >= SLOWEST ? { times: fewer, even } : { times, even };
}

/** Beats as they are counted, and whether each divides in three. */
export interface CountedBeats {
  readonly beats: Beats;
  readonly compound: boolean;
}

/** The beats that are counted among those that were heard. */
export function countedBeats(pulse: Float32Array, heard: Beats): CountedBeats {
  const beats = withoutSilent(pulse, heard);
  return { beats, compound: goesInThrees(pulse, beats.times, tempoOfBeats(beats)) };
}
