import { barTicks, METRES, metreName, type Metre } from '../../theory/metre';
import { clamp, TICKS_PER_QUARTER, type Ticks } from '../../theory/units';
import type { ReadMidi } from '../midi/midi-read';
import { shiftOfBars } from './downbeats';
import type { ImportLine } from './file-model';

/** Where the bars of a file lie: its metres, and the bar line from which they count. */

interface MetreChange {
  readonly at: Ticks;
  readonly metre: Metre;
}

export interface BarLines {
  /** The first bar line that counts: what sounds before it is a pick-up. */
  readonly first: Ticks;
  /** Metres from there on, in order. */
  readonly metres: readonly MetreChange[];
  /** How bars were moved from where the file has them, in ticks. */
  readonly shifted: Ticks;
}

/** The nearest a hand comes before the line: a sixteenth. */
const EARLY: Ticks = TICKS_PER_QUARTER / 4;

/** A metre of the file as Fendro groups it. */
function metreOf(beats: number, unit: number): Metre {
  const known = METRES.find((metre) => metreName(metre) === `${beats}/${unit}`);
  if (known) return known;
  const groups: number[] = [];
  for (let left = beats; left > 0; left -= groups.at(-1) as number)
    groups.push(left === 3 || (unit >= 8 && left % 3 === 0) ? 3 : Math.min(2, left));
  return { beats, unit: unit as Metre['unit'], groups };
}

export const isUsable = ({ beats, unit }: { readonly beats: number; readonly unit: number }): boolean =>
  beats >= 1 && beats <= 16 && [2, 4, 8, 16].includes(unit);

/** True where a note belongs to the bar line after its start: it comes a hair early and sounds on beyond it. */
export const isEarly = (start: Ticks, end: Ticks, line: Ticks): boolean =>
  start < line && line - start < EARLY && end - line > line - start;

/** Markers and changes of metre that lie on bar lines say that those are where they are meant. */
const bearsOut = (places: readonly Ticks[], bar: Ticks): boolean =>
  places.some((at) => at > 0) && places.every((at) => Math.abs(at / bar - Math.round(at / bar)) * bar <= EARLY);

/**
 * @param markers  where sections begin, in Fendro's ticks
 * @param scale    Fendro's ticks for one of the file's
 */
export function barLinesOf(
  file: ReadMidi,
  lines: readonly ImportLine[],
  markers: readonly Ticks[],
  scale: number,
): BarLines {
  const said = file.metres
    .filter(isUsable)
    .map(({ at, beats, unit }): MetreChange => ({ at: Math.round(at * scale), metre: metreOf(beats, unit) }));
  const metres = said.length === 0 ? [{ at: 0, metre: METRES[2] as Metre }] : said;
  const [own, next] = [metres[0] as MetreChange, metres[1]];
  const bar = barTicks(own.metre);
  // A first bar that is shorter than those that follow is a pick-up, written out.
  if (next?.at === bar && bar < barTicks(next.metre) && !markers.some((at) => at < next.at))
    return { first: next.at, metres: metres.slice(1), shifted: 0 };
  const started = lines.flatMap(({ notes }) => notes.slice(0, 1));
  const onset = started.reduce((least, { start }) => Math.min(least, start), Number.POSITIVE_INFINITY);
  const lead = clamp(Math.floor(onset / bar) * bar, 0, Number.MAX_SAFE_INTEGER);
  const named = markers.some((at) => at <= lead + bar / 2);
  const metresFrom = (first: Ticks): readonly MetreChange[] =>
    metres.filter((change, index) => index === metres.findLastIndex(({ at }) => at <= first) || change.at > first);
  const goesOn = lines.some(({ notes }) => (notes.at(-1)?.start ?? 0) >= lead + bar);
  // What begins in the second half of an empty bar leads into the next one.
  if (!named && goesOn && onset - lead >= bar / 2)
    return { first: lead + bar, metres: metresFrom(lead + bar), shifted: 0 };
  const places = [...markers, ...metres.map(({ at }) => at)];
  const shift = metres.length === 1 && !bearsOut(places, bar) ? shiftOfBars(lines, own.metre) : 0;
  if (shift > 0 && !named)
    return { first: lead + shift, metres: [{ at: lead + shift, metre: own.metre }], shifted: shift };
  // Bars that are empty before the music begins are left away, unless a marker gives them a name.
  return { first: named ? 0 : lead, metres: metresFrom(named ? 0 : lead), shifted: 0 };
}
