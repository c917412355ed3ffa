import { groundOf } from '../song/ground';
import { chordsIn, layOut, type Music, type Placed } from '../song/resolve';
import { placesFor } from '../song/chord-typing';
import type { ChordSpan, Ground, Score } from '../song/schema';
import { nameApart } from '../song/version-words';
import { transposeChord, type Chord } from '../theory/chord';
import { barTicks, beatsOf, metreText, type Metre } from '../theory/metre';
import { printedName, spellSemitones, typedName } from '../theory/pitch';
import { scaleOf } from '../theory/scale';
import { modulo, type Semitones, type Ticks } from '../theory/units';

/** A song's chords as they are put on paper: section by section, bar by bar, what comes back named only. */

/** What stands in one place of a bar; the chord before sounds on where it is null. */
export type ChartWord = { readonly chord: Chord | null; readonly unread?: string } | null;
/** The places of a bar, evenly apart; none where the chord before sounds through it. */
export type ChartBar = readonly ChartWord[];

export interface ChartBlock {
  readonly name: string;
  /** What it has of its own, in words. */
  readonly own: string;
  /** Its bars; none where they were written out before. */
  readonly bars: readonly ChartBar[];
  /** How often it is played, one after the other. */
  readonly times: number;
}

export interface ChordChart {
  readonly title: string;
  /** The tonic as printed, and the name of its scale. */
  readonly tonic: string;
  readonly scale: string;
  readonly tempo: number;
  readonly metre: string;
  readonly blocks: readonly ChartBlock[];
}

/** Words of a bar beside one, two and one a beat: so many to each beat. */
const FINER = [2, 3, 4, 6, 8, 12] as const;

const wordOf = ({ chord, unread }: ChordSpan, lift: Semitones): ChartWord => {
  if (unread !== undefined) return { chord: null, unread };
  return { chord: chord && lift !== 0 ? transposeChord(chord, spellSemitones(lift)) : chord };
};

/** As few places as put every chord of a bar where it is. */
function placesOf(starts: readonly Ticks[], metre: Metre): readonly Ticks[] {
  const bar = barTicks(metre);
  const beats = beatsOf(metre).length;
  const ways = [1, 2, beats, ...FINER.map((each) => each * beats)].map((count) => placesFor(count, 0, bar, metre));
  return ways.find((places) => starts.every((at) => places.includes(at))) ?? (ways.at(-1) as Ticks[]);
}

function barOf(inBar: readonly { readonly at: Ticks; readonly word: ChartWord }[], metre: Metre): ChartBar {
  if (inBar.length === 0) return [];
  const places = placesOf(
    inBar.map(({ at }) => at),
    metre,
  );
  const nearest = (at: Ticks): number =>
    places.reduce(
      (best, place, index) => (Math.abs(place - at) < Math.abs((places[best] ?? 0) - at) ? index : best),
      0,
    );
  const words: ChartWord[] = places.map(() => null);
  for (const { at, word } of inBar) words[nearest(at)] = word;
  return words;
}

function barsOfChords(chords: readonly ChordSpan[], bars: number, metre: Metre, lift: Semitones): ChartBar[] {
  const bar = barTicks(metre);
  return Array.from({ length: bars }, (_, index) =>
    barOf(
      chords
        .filter(({ start }) => Math.floor(start / bar) === index)
        .map((span) => ({ at: modulo(span.start, bar), word: wordOf(span, lift) })),
      metre,
    ),
  );
}

const keyText = ({ tonic, scale }: Pick<Ground, 'tonic' | 'scale'>): string =>
  `${typedName(tonic)} ${scaleOf(scale).name.toLowerCase()}`;

/** What a section has of its own. */
function ownText(score: Score, { section, occurrence }: Placed): string {
  const { ground } = score;
  const own = groundOf(score, section);
  const lift = occurrence.lift ?? 0;
  const facts = [
    ...(own.tonic === ground.tonic && own.scale === ground.scale ? [] : [`in ${keyText(own)}`]),
    ...(metreText(own.metre) === metreText(ground.metre) ? [] : [metreText(own.metre)]),
    ...(own.tempo === ground.tempo ? [] : [`tempo ${own.tempo}`]),
    ...(lift === 0 ? [] : [`${lift > 0 ? 'up' : 'down'} by ${Math.abs(lift)}`]),
  ];
  return facts.join(', ');
}

function blocksOf(music: Music): readonly ChartBlock[] {
  const { score, takes, heard } = music;
  const blocks: (ChartBlock & { key: string; times: number })[] = [];
  /** What was written out last under each name: only that is said again by its name alone. */
  const written = new Map<string, string>();
  for (const placed of layOut(score)) {
    const { section, occurrence } = placed;
    const lift = occurrence.lift ?? 0;
    const key = `${section.id} ${lift}`;
    const last = blocks.at(-1);
    if (last?.key === key) {
      last.times++;
      continue;
    }
    const name = nameApart(music, section)
      .replaceAll(/[[\]()<>|]/g, ' ')
      .trim();
    const bars =
      written.get(name) === key
        ? []
        : barsOfChords(chordsIn(section, takes, heard), section.bars, groundOf(score, section).metre, lift);
    written.set(name, key);
    blocks.push({ key, name, own: ownText(score, placed), bars, times: 1 });
  }
  return blocks.map(({ name, own, bars, times }) => ({ name, own, bars, times }));
}

/** The chords of a song as a chart; what comes back is named, and not written out once more. */
export function chordChart(music: Music): ChordChart {
  const { ground, title } = music.score;
  const [metre = ''] = metreText(ground.metre).split(' ');
  return {
    title,
    tonic: printedName(ground.tonic),
    scale: scaleOf(ground.scale).name,
    tempo: ground.tempo,
    metre,
    blocks: blocksOf(music),
  };
}
