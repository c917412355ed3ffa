import { ASPECTS, type ChordSpan, type Hold, type PartTake } from '../song/schema';
import { range, type Percent } from '../theory/units';
import { happens, pickIndex, type Random } from '../trellis/random';
import { barAt, strokesOf, type Stretch } from './held';

/** Chance that a note which is drawn anew keeps its place and length, in %. */
const STAYS = 60;

/** Some of a row's places: the share of them, at least one, any as likely as another. */
function somePlaces(count: number, share: Percent, random: Random): Set<number> {
  const open = range(count);
  const chosen = new Set<number>();
  while (open.length > 0 && chosen.size < Math.max(1, Math.round((share * count) / 100)))
    chosen.add(open.splice(pickIndex(random, open.length), 1)[0] as number);
  return chosen;
}

/**
 * A near relative of a line: all of it is held but for a share of its notes. Most of those keep their place and take
 * another pitch; where others give up their place too, something else may stand there, or nothing.
 *
 * @param share  of notes that are drawn anew, in %
 */
export function variedLine(take: PartTake, share: Percent, { bars, barTicks }: Stretch, random: Random): Hold[] {
  const strokes = strokesOf(take.notes);
  const free = somePlaces(strokes.length, share, random);
  const moved = new Set([...free].filter(() => !happens(random, STAYS)));
  const idsOf = (wanted: (place: number) => boolean): number[] =>
    strokes.flatMap((stroke, place) => (wanted(place) ? stroke.map(({ id }) => id) : []));
  const open = new Set([...moved].map((place) => barAt(strokes[place]?.[0]?.start ?? 0, barTicks)));
  const hold = { take: take.id, bars: [] };
  return [
    { take: take.id, aspects: ['rhythm'], bars: range(bars).filter((bar) => !open.has(bar)), notes: [] },
    { ...hold, aspects: [...ASPECTS], notes: idsOf((place) => !free.has(place)) },
    { ...hold, aspects: ['rhythm', 'dynamics'], notes: idsOf((place) => free.has(place) && !moved.has(place)) },
  ];
}

/** A near relative of accompaniment or drums: a share of its bars is drawn anew, at least one. */
export function variedBars(take: PartTake, share: Percent, { bars }: Stretch, random: Random): Hold[] {
  const free = somePlaces(bars, share, random);
  return [{ take: take.id, aspects: [...ASPECTS], bars: range(bars).filter((bar) => !free.has(bar)), notes: [] }];
}

/** The chords of a progression that a near relative keeps. */
export function variedChords(chords: readonly ChordSpan[], share: Percent, random: Random): ChordSpan[] {
  const free = somePlaces(chords.length, share, random);
  return chords.filter((_, place) => !free.has(place));
}
