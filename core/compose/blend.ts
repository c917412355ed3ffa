import { ASPECTS, type ChordSpan, type Hold, type PartTake, type TakeId } from '../song/schema';
import { range, type Ticks } from '../theory/units';
import { happens, pickIndex, type Random } from '../trellis/random';
import { spanAt } from './context';

/** Bars that one of two takes has before the other's turn comes. */
const TURNS = [1, 2, 4] as const;
/** Chance that the turns are uneven, in %. */
const UNEVEN = 25;

/** Whose turn each bar is, 0 or 1: evenly by one, two or four bars, or as it comes; both have at least one of several. */
function drawTurns(bars: number, random: Random): (0 | 1)[] {
  const fitting = TURNS.filter((turn) => turn === 1 || turn < bars);
  const turn = fitting[pickIndex(random, fitting.length)] ?? 1;
  const first = pickIndex(random, 2);
  const even = range(bars).map((bar) => ((Math.floor(bar / turn) + first) % 2) as 0 | 1);
  if (!happens(random, UNEVEN)) return even;
  const uneven = range(bars).map(() => pickIndex(random, 2) as 0 | 1);
  return new Set(uneven).size === 2 ? uneven : even;
}

/** Some bars of one take and the rest of the other, as holds. */
export function barsInTurn(takes: readonly [TakeId, TakeId], bars: number, random: Random): Hold[] {
  const turns = drawTurns(bars, random);
  return takes.map((take, place) => ({
    take,
    aspects: [...ASPECTS],
    bars: range(bars).filter((bar) => turns[bar] === place),
    notes: [],
  }));
}

/** All bars of a take with its rhythm and dynamics; pitches come from elsewhere. */
export const rhythmOf = ({ id }: PartTake, bars: number): Hold[] => [
  { take: id, aspects: ['rhythm', 'dynamics'], bars: range(bars), notes: [] },
];

/** Chords of two progressions in turn: those that start in a bar come from the one whose turn it is. */
export function chordsInTurn(
  progressions: readonly (readonly ChordSpan[])[],
  bars: number,
  barTicks: Ticks,
  random: Random,
): ChordSpan[] {
  const turns = drawTurns(bars, random);
  return turns.flatMap((whose, bar): ChordSpan[] => {
    const [from, to] = [bar * barTicks, (bar + 1) * barTicks];
    return (progressions[whose] ?? [])
      .filter(({ start, duration }) => start < to && start + duration > from)
      .map((span) => {
        const start = Math.max(span.start, from);
        return { ...span, start, duration: Math.min(span.start + span.duration, to) - start };
      });
  });
}

/** The harmonic rhythm of one progression with the chords that another has at the same time. */
export const chordsInRhythm = (rhythm: readonly ChordSpan[], chords: readonly ChordSpan[]): ChordSpan[] =>
  rhythm.map((span) => ({ ...(spanAt(chords, span.start) ?? span), start: span.start, duration: span.duration }));
