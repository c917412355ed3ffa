import type { Music } from '../song/resolve';
import { isDrumRole } from '../song/roles';
import type { Curve, TakeNote } from '../song/schema';
import { pickIndex, stream, type Random } from '../trellis/random';

/** A curve of a few points over a note. */
function curve(random: Random, duration: number, low: number, high: number): Curve {
  const moments = [...new Set([0, ...[1, 2].map(() => pickIndex(random, duration)), duration])].sort((a, b) => a - b);
  return moments.map((at) => ({ at, value: low + pickIndex(random, high - low + 1) }));
}

/** A song whose notes carry chances, strokes and curves here and there; for specs. */
export function expressive(music: Music, seed: number): Music {
  const random = stream(seed, 'expressive');
  const often = (share: number): boolean => random.next() < share;
  const touched = (note: TakeNote): TakeNote => ({
    ...note,
    ...(often(0.2) ? { chance: pickIndex(random, 101) } : {}),
    ...(often(0.2) ? { strikes: 2 + pickIndex(random, 4) } : {}),
    ...(often(0.3) ? { bend: curve(random, note.duration, -300, 300) } : {}),
    ...(often(0.3) ? { vibrato: curve(random, note.duration, 0, 100) } : {}),
    ...(often(0.3) ? { swell: curve(random, note.duration, 20, 100) } : {}),
  });
  const drums = new Set(music.score.parts.filter(({ role }) => isDrumRole(role)).map(({ id }) => id));
  const takes = Object.values(music.takes).map((take) =>
    take.of === 'part' && !drums.has(take.part) ? { ...take, notes: take.notes.map(touched) } : take,
  );
  return { ...music, takes: Object.fromEntries(takes.map((take) => [take.id, take])) };
}
