import { heldBars } from '../../song/holds';
import type { Aspect, ChordSpan, HarmonyTake, Hold, Take } from '../../song/schema';
import { beatsOf } from '../../theory/metre';
import { range, type Ticks } from '../../theory/units';
import { pickIndex, type Random } from '../../trellis/random';
import type { DraftContext } from '../context';

/** How progressions keep what is held: bars with their chords, when chords change, or which chords they are. */

/** What of a progression is given. */
export interface GivenChords {
  /** Chords that stand where they are. */
  readonly chords: readonly ChordSpan[];
  /** Places for chords that are drawn. */
  readonly places: readonly ChordSpan[];
}

type Place = Pick<DraftContext, 'metre' | 'bars' | 'barTicks'>;

/** Bars after each other of which the same is held of the same take. */
interface Stretch {
  readonly take: HarmonyTake;
  readonly aspects: ReadonlySet<Aspect>;
  readonly from: Ticks;
  readonly to: Ticks;
}

function stretchesOf(holds: readonly Hold[], models: readonly Take[], { bars, barTicks }: Place): Stretch[] {
  const stretches: Stretch[] = [];
  for (const [bar, { take: id, aspects }] of [...heldBars(holds)].sort(([a], [b]) => a - b)) {
    const take = models.find((model) => model.id === id);
    if (take?.of !== 'harmony' || bar >= bars) continue;
    const [from, to] = [bar * barTicks, (bar + 1) * barTicks];
    const last = stretches.at(-1);
    const alike = last?.to === from && last.take === take && [...aspects].join() === [...last.aspects].join();
    if (alike) stretches[stretches.length - 1] = { ...last, to };
    else stretches.push({ take, aspects, from, to });
  }
  return stretches;
}

/** The chords that sound in a stretch, cut to it. */
const within = (chords: readonly ChordSpan[], { from, to }: Pick<Stretch, 'from' | 'to'>): ChordSpan[] =>
  chords
    .filter(({ start, duration }) => start < to && start + duration > from)
    .map((span) => {
      const start = Math.max(span.start, from);
      return { ...span, start, duration: Math.min(span.start + span.duration, to) - start };
    });

/** The same chords in the same order, changing on other beats; as they are where there are too few beats for them. */
function inOtherRhythm(chords: readonly ChordSpan[], { from, to }: Stretch, place: Place, random: Random): ChordSpan[] {
  const beats = range((to - from) / place.barTicks).flatMap((bar) =>
    beatsOf(place.metre).map(({ at }) => from + bar * place.barTicks + at),
  );
  const open = beats.filter((at) => at > from);
  if (open.length < chords.length - 1) return [...chords];
  const starts = [from];
  while (starts.length < chords.length) starts.push(open.splice(pickIndex(random, open.length), 1)[0] as Ticks);
  starts.sort((a, b) => a - b);
  return chords.map((span, index) => {
    const start = starts[index] as Ticks;
    return { ...span, start, duration: (starts[index + 1] ?? to) - start };
  });
}

/**
 * What holds give to a progression: its chords in bars of which all is held, when they change where only the rhythm is,
 * and the same chords at other times where only they are.
 *
 * @param random  draws when chords change whose rhythm is free
 */
export function givenChords(
  holds: readonly Hold[],
  models: readonly Take[],
  place: Place,
  random: Random,
): GivenChords {
  const chords: ChordSpan[] = [];
  const places: ChordSpan[] = [];
  for (const stretch of stretchesOf(holds, models, place)) {
    const own = within(stretch.take.chords, stretch);
    if (!stretch.aspects.has('pitch')) places.push(...(stretch.aspects.has('rhythm') ? own : []));
    else chords.push(...(stretch.aspects.has('rhythm') ? own : inOtherRhythm(own, stretch, place, random)));
  }
  return { chords, places };
}
