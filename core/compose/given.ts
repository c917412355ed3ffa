import type { Asking, ChordSpan, Hold, Take } from '../song/schema';
import { barsInTurn, chordsInRhythm, chordsInTurn, rhythmOf } from './blend';
import type { DraftContext } from './context';
import { givenChords, type GivenChords } from './harmony/held-chords';
import { heldOf, type Held, type Stretch } from './held';
import type { Ticks } from '../theory/units';
import type { Streams } from './stages';
import { variedBars, variedChords, variedLine } from './vary';

/** What an asking's holds and kin give to a draft, from the takes that they name. */

const partsIn = (models: readonly Take[]) => models.flatMap((take) => (take.of === 'part' ? [take] : []));
const chordsIn = (models: readonly Take[], id: string | undefined): readonly ChordSpan[] =>
  models.flatMap((take) => (take.of === 'harmony' && take.id === id ? take.chords : []));

/** What is given to a line. The writer's own holds come first; kinship decides about the rest. */
export function givenTo(
  { holds = [], kin }: Pick<Asking, 'holds' | 'kin'>,
  models: readonly Take[],
  stretch: Stretch,
  keeps: 'notes' | 'bars',
  streams: Streams,
): Held {
  const takes = partsIn(models);
  const [first, second] = (kin?.takes ?? []).map((id) => takes.find((take) => take.id === id));
  const bars = stretch.first + stretch.bars;
  const random = streams('rhythm', 'kin');
  const ofKin = (): Hold[] => {
    if (!kin || !first) return [];
    const whole = { ...stretch, first: 0, bars };
    if (kin.by === 'variation') return (keeps === 'notes' ? variedLine : variedBars)(first, kin.share, whole, random);
    if (kin.by === 'bars in turn') return barsInTurn(kin.takes, bars, random);
    return kin.by === 'rhythm and pitches' ? rhythmOf(first, bars) : [];
  };
  const from = stretch.first * stretch.barTicks;
  const leaning = kin?.by === 'rhythm and pitches' && second ? second.notes : [];
  return {
    ...heldOf([...holds, ...ofKin()], takes, stretch, keeps === 'notes'),
    leaning: leaning.map((note) => ({ ...note, start: note.start - from })),
  };
}

/**
 * The chords that stay: those that the writer holds, and what kinship gives beside them.
 *
 * @returns `whole` where they are all there is, so that nothing is left to draft
 */
export function chordsFromKin(
  { kin, holds = [], heldChords: fixed = [] }: Pick<Asking, 'kin' | 'holds' | 'heldChords'>,
  models: readonly Take[],
  context: Pick<DraftContext, 'metre' | 'bars' | 'barTicks' | 'length'>,
  streams: Streams,
): GivenChords & { readonly whole: boolean } {
  const { bars, barTicks, length } = context;
  const given = givenChords(holds, models, context, streams('rhythm', 'held chords'));
  const [heldChords, { places }] = [[...fixed, ...given.chords], given];
  const [first = [], second = []] = (kin?.takes ?? []).map((id) => chordsIn(models, id));
  const random = streams('rhythm', 'kin');
  if (!kin || kin.by === 'halfway' || first.length === 0) return { whole: false, chords: heldChords, places };
  const [own, other] = [filling(first, length), filling(second, length)];
  const besides = (span: ChordSpan): boolean => {
    const meets = ({ start, duration }: ChordSpan): boolean =>
      span.start < start + duration && start < span.start + span.duration;
    const isAt = ({ start, duration }: ChordSpan): boolean => span.start === start && span.duration === duration;
    return !heldChords.some(meets) && (places.some(isAt) || !places.some(meets));
  };
  const all = (chords: readonly ChordSpan[]): GivenChords & { readonly whole: true } => {
    const inPlace = places.length > 0 ? around(chordsInRhythm(places, chords), chords) : chords;
    return { whole: true, chords: around(heldChords, inPlace), places: [] };
  };
  switch (kin.by) {
    case 'variation': {
      const kept = variedChords(own, kin.share, random).filter(besides);
      const isKept = ({ start }: ChordSpan): boolean => kept.some((span) => span.start === start);
      return { whole: false, chords: [...heldChords, ...kept], places: places.filter((span) => !isKept(span)) };
    }
    case 'bars in turn':
      return all(chordsInTurn([own, other], bars, barTicks, random));
    case 'rhythm and pitches':
      return all(chordsInRhythm(own, other));
  }
}

/** Chords with those that are held in their place. */
const around = (held: readonly ChordSpan[], chords: readonly ChordSpan[]): ChordSpan[] =>
  [
    ...held,
    ...held.reduce<readonly ChordSpan[]>((left, hold) => left.flatMap((span) => without(span, hold)), chords),
  ].sort((a, b) => a.start - b.start);

/** What is left of a chord before and after another. */
function without(span: ChordSpan, hold: ChordSpan): ChordSpan[] {
  const [end, holdEnd] = [span.start + span.duration, hold.start + hold.duration];
  return [
    { ...span, duration: Math.min(end, hold.start) - span.start },
    { ...span, start: Math.max(span.start, holdEnd), duration: end - Math.max(span.start, holdEnd) },
  ].filter(({ duration }) => duration > 0);
}

/** Chords for a section that has grown or shrunk since: cut at its end, or the last one held to it. */
const filling = (chords: readonly ChordSpan[], length: Ticks): ChordSpan[] => {
  const inside = chords.filter(({ start }) => start < length);
  return inside.map((span, index) => ({
    ...span,
    duration: (index === inside.length - 1 ? length : Math.min(length, span.start + span.duration)) - span.start,
  }));
};
