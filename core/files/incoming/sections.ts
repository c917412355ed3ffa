import { LIMITS, shortened } from '../../song/limits';
import { TEMPO_LIMITS, type TempoPoint } from '../../song/schema';
import { barTicks, type Metre } from '../../theory/metre';
import { clamp, TICKS_PER_QUARTER, type Ticks } from '../../theory/units';
import type { ReadMidi, ReadText } from '../midi/midi-read';
import { isEarly, type BarLines } from './bar-lines';
import type { ImportLine, ImportSection } from './file-model';
import type { StatedKey } from './stated-keys';

/** Music without markers is cut to sections of this many bars. */
const UNMARKED_SECTION = 16;
/** What rings less than this into a bar makes no bar of its own: an eighth. */
const TAIL: Ticks = TICKS_PER_QUARTER / 2;
/** Tempos that follow each other so closely are one change on its way: an eighth. */
const ON_ITS_WAY: Ticks = TICKS_PER_QUARTER / 2;

interface TempoChange {
  readonly at: Ticks;
  readonly bpm: number;
}

/** What the stretches of a file are cut by; all in Fendro's ticks. */
export interface Cuts {
  readonly bars: BarLines;
  readonly keys: readonly StatedKey[];
  readonly markers: readonly { readonly at: Ticks; readonly name: string }[];
}

export const markersOf = (markers: readonly ReadText[], scale: number): Cuts['markers'] =>
  markers
    .map(({ at, text }) => ({ at: Math.round(at * scale), name: shortened(text.trim(), LIMITS.name) }))
    .filter(({ name }) => name !== '');

/** Where the music ends for its bars: where the last key is let go, without what only rings on. */
export const endOfMusic = (lines: readonly ImportLine[]): Ticks =>
  lines.reduce(
    (end, { notes }) =>
      notes.reduce((last, { start, duration, held }) => Math.max(last, start + (held ?? duration)), end),
    0,
  );

/** Bars from a bar line to the end of the music: no bar for a tail, one for a last stroke that comes a hair early. */
function barsToEnd(from: Ticks, bar: Ticks, end: Ticks, lines: readonly ImportLine[]): number {
  const bars = Math.max(1, Math.ceil((end - from - TAIL) / bar));
  const line = from + bars * bar;
  const early = lines.some(({ notes }) =>
    notes.some(({ start, duration, held }) => isEarly(start, start + (held ?? duration), line)),
  );
  return early ? bars + 1 : bars;
}

const steady = (bpm: number): number => clamp(Math.round(bpm * 100) / 100, TEMPO_LIMITS.low, TEMPO_LIMITS.high);

/** How the tempo goes over a stretch, in % of where it begins: steps where it jumps, lines where it is on its way. */
function temposIn(changes: readonly TempoChange[], from: Ticks, to: Ticks): { tempo: number; tempos: TempoPoint[] } {
  const before = changes.findLast(({ at }) => at <= from) ?? changes[0];
  const tempo = steady(before?.bpm ?? 120);
  const inside = changes.filter(({ at }) => at > from && at < to);
  const percent = (bpm: number): number => (100 * clamp(bpm, TEMPO_LIMITS.low, TEMPO_LIMITS.high)) / tempo;
  const all = [{ at: from, bpm: before?.bpm ?? 120 }, ...inside];
  const tempos = all.flatMap(({ at, bpm }, index): TempoPoint[] => {
    const [last, next] = [all[index - 1], all[index + 1]];
    const goesOn = last !== undefined && at - last.at <= ON_ITS_WAY;
    const leads = next !== undefined && next.at - at <= ON_ITS_WAY;
    // A tempo on its way is reached in the middle of the step that says it.
    if (goesOn && leads) return [{ at: (at + next.at) / 2 - from, value: percent(bpm) }];
    if (last === undefined || goesOn) return [{ at: at - from, value: percent(bpm) }];
    return [
      { at: at - from - 1, value: percent(last.bpm) },
      { at: at - from, value: percent(bpm) },
    ];
  });
  return inside.length === 0 ? { tempo, tempos: [] } : { tempo, tempos };
}

/** Stretches between markers and changes of metre and key, in whole bars, cut where they are too long. */
export function sectionsOf(file: ReadMidi, lines: readonly ImportLine[], cuts: Cuts, scale: number): ImportSection[] {
  const { bars: lineUp, keys, markers } = cuts;
  const end = endOfMusic(lines);
  const changes = file.tempos.map(({ at, bpm }) => ({ at: Math.round(at * scale), bpm }));
  const metreAt = (at: Ticks): Metre =>
    (lineUp.metres.findLast((change) => change.at <= at) ?? lineUp.metres[0])?.metre ?? {
      beats: 4,
      unit: 4,
      groups: [2, 2],
    };
  const places = [...markers, ...lineUp.metres, ...keys.slice(1)].map(({ at }) => Math.max(at, lineUp.first));
  const edges = [...new Set([lineUp.first, ...places])].filter((at) => at < end).sort((a, b) => a - b);
  const sections: ImportSection[] = [];
  let start = lineUp.first;
  edges.forEach((edge, index) => {
    const metre = metreAt(edge);
    const bar = barTicks(metre);
    const last = index === edges.length - 1;
    // A marker between bar lines counts from the nearest one.
    let bars = last
      ? barsToEnd(start, bar, end, lines)
      : Math.max(0, Math.round(((edges[index + 1] as Ticks) - start) / bar));
    const name = markers.findLast(({ at }) => at <= edge)?.name ?? '';
    const key = keys.findLast(({ at }) => at <= edge)?.key ?? keys[0]?.key ?? null;
    const longest = markers.length > 0 ? LIMITS.bars : UNMARKED_SECTION;
    for (; bars > 0;) {
      const size = Math.min(bars, longest);
      const tempos = temposIn(changes, start, start + size * bar);
      sections.push({ name, start, bars: size, metre, ...tempos, key });
      start += size * bar;
      bars -= size;
    }
  });
  return sections;
}
