import type { Loop, Loops, Note } from '../song/schema';
import { underAt } from '../song/under';
import { byStart, endsApart } from '../song/note-ends';
import { range, type Ticks } from '../theory/units';
import { once } from '../trellis/random';
import { foldedInto, pitchOfDegree } from './degrees';
import { isAsked, type Over } from './over';
import { stepAt } from './steps';

/** A stroke of one loop. */
interface Stroke {
  readonly loop: number;
  readonly at: Ticks;
  readonly degree: number;
  /** Ticks since the first pass began: what chance tells strokes apart by. */
  readonly moment: Ticks;
}

/** A stretch through which a loop goes without beginning anew, in ticks from the section's start. */
interface Run {
  readonly from: Ticks;
  readonly to: Ticks;
  /** Ticks that it has gone already when the stretch begins. */
  readonly gone: Ticks;
}

/** Where loops run on without beginning anew. */
function runsIn({ starts, moments = [] }: Pick<Loops, 'starts' | 'moments'>, over: Over): readonly Run[] {
  const { chords, length, pass } = over;
  if (starts === 'never') return [{ from: 0, to: length, gone: pass * length }];
  if (starts === 'section') return [{ from: 0, to: length, gone: 0 }];
  if (starts === 'played' && moments.length > 0) {
    // Nothing sounds before the first of them.
    const begins = [...moments.filter((at) => at < length), length];
    return begins.slice(1).map((to, index) => ({ from: begins[index] ?? 0, to, gone: 0 }));
  }
  const edges = [0, ...chords.map(({ start }) => start).filter((start) => start > 0 && start < length), length];
  return edges.slice(1).map((to, index) => ({ from: edges[index] ?? 0, to, gone: 0 }));
}

/** The strokes of one loop. */
function strokesOf(loop: Loop, place: number, pattern: Loops, over: Over): Stroke[] {
  const { steps, rate, direction, notches, chance } = loop;
  const degrees = new Map(notches.map((notch) => [notch.step, notch.degree]));
  const begun = over.pass * over.length;
  return runsIn(pattern, over).flatMap(({ from, to, gone }) => {
    const first = Math.ceil(gone / rate);
    return range(Math.max(0, Math.ceil((to - from + gone) / rate) - first)).flatMap((index): Stroke[] => {
      const count = first + index;
      const at = from + count * rate - gone;
      const moment = begun + at;
      const drawn = (what: string): number => once(pattern.seed, what, place, moment);
      const degree = degrees.get(stepAt(direction, count, steps, () => drawn('order')));
      if (degree === undefined || (chance < 100 && drawn('chance') * 100 >= chance)) return [];
      return [{ loop: place, at, degree, moment }];
    });
  });
}

/** Which of the strokes that fall on one moment get through: all, or one of them, drawn anew each time. */
function through(strokes: readonly Stroke[], { meeting, seed }: Loops): readonly Stroke[] {
  const [first] = strokes;
  if (meeting !== 'one' || !first) return strokes;
  const one = Math.floor(once(seed, 'through', first.moment) * strokes.length);
  return strokes.slice(one, one + 1);
}

/** A note with its octave, above where there is room, else below. */
function doubledIn(note: Note, { low, high }: Loops): Note[] {
  const pitch = [note.pitch + 12, note.pitch - 12].find((other) => other >= low && other <= high);
  return pitch === undefined ? [note] : [note, { ...note, pitch }];
}

/**
 * The notes of loops that play against each other, in one pass: each strikes where it has its notches, in chord or scale
 * notes of that moment. Where several strike at once, what is to be done with them is done.
 *
 * @returns in order, inside the section, none over the next on its pitch
 */
export function loopNotes(pattern: Loops, over: Over): Note[] {
  const all = pattern.loops.flatMap((loop, place) => strokesOf(loop, place, pattern, over));
  const moments = new Map<Ticks, Stroke[]>();
  for (const stroke of all) moments.set(stroke.at, [...(moments.get(stroke.at) ?? []), stroke]);
  const order = [...moments.keys()].sort((a, b) => a - b);
  const notes = order.flatMap((at, index) => {
    if (!isAsked(over, at)) return [];
    const strokes = moments.get(at) ?? [];
    const tied = pattern.meeting === 'tied' && strokes.length > 1;
    const next = order[index + 1] ?? over.length;
    return through(strokes, pattern).flatMap(({ loop: place, degree }): Note[] => {
      const { rate, loudness, octave } = pattern.loops[place] as Loop;
      const { span, to } = underAt(over.chords, at, over.length);
      const home = pitchOfDegree(degree, pattern, span, over.ground);
      if (home === null) return [];
      const wished = Math.max(1, Math.round((rate * pattern.length) / 100));
      const end = Math.min(over.length, tied ? Math.max(next, at + wished) : at + wished);
      const note = {
        start: at,
        // A note of the chord ends with its chord.
        duration: (pattern.degrees === 'scale' ? end : Math.min(end, to)) - at,
        pitch: foldedInto(home + 12 * octave, pattern.low, pattern.high),
        velocity: loudness,
      };
      return pattern.meeting === 'doubled' && strokes.length > 1 ? doubledIn(note, pattern) : [note];
    });
  });
  return endsApart(notes.sort(byStart), (before, after) => (after.velocity > before.velocity ? after : before));
}

const greatest = (a: number, b: number): number => (b === 0 ? a : greatest(b, a % b));

/** Ticks after which a loop is where it began; null where chance leads it. */
const roundOf = ({ steps, rate, direction }: Loop): Ticks | null => {
  if (direction === 'by chance') return null;
  return rate * (direction === 'to and fro' ? Math.max(1, 2 * steps - 2) : steps);
};

/**
 * How long it takes until all loops begin together again, in ticks: the least common multiple of their rounds.
 *
 * @returns null where one of them goes by chance
 */
export function meetAgain({ loops }: Pick<Loops, 'loops'>): Ticks | null {
  return loops.map(roundOf).reduce<Ticks | null>((all, round) => {
    return all === null || round === null ? null : (all / greatest(all, round)) * round;
  }, 1);
}

/** The moments at which several loops strike together, in ticks from the section's start, chances left aside. */
export function meetings(pattern: Loops, over: Over): ReadonlyMap<Ticks, readonly number[]> {
  const certain = { ...pattern, loops: pattern.loops.map((loop) => ({ ...loop, chance: 100 })) };
  const found = new Map<Ticks, number[]>();
  certain.loops.forEach((loop, place) => {
    for (const { at } of strokesOf(loop, place, certain, over)) found.set(at, [...(found.get(at) ?? []), place]);
  });
  return new Map([...found].filter(([, places]) => places.length > 1).sort(([a], [b]) => a - b));
}
