import { groundOf } from '../../song/ground';
import { chordsIn, layOut, type Music, type Placed } from '../../song/resolve';
import { placesFor } from '../../song/chord-typing';
import type { ChordSpan, Ground, Score } from '../../song/schema';
import { nameApart } from '../../song/version-words';
import { chordSymbol, NO_CHORD, transposeChord } from '../../theory/chord';
import { barTicks, beatsOf, metreText, type Metre } from '../../theory/metre';
import { spellSemitones, typedName } from '../../theory/pitch';
import { scaleOf } from '../../theory/scale';
import { modulo, type Semitones, type Ticks } from '../../theory/units';

/** A chord chart as plain text, as it is read back by `readChart`: headings, four bars a line, strokes for beats. */

const BARS_A_LINE = 4;
/** Words of a bar beside one, two and one a beat: so many to each beat. */
const FINER = [2, 3, 4, 6, 8, 12] as const;

/** Signs that every keyboard has. */
const plain = (printed: string): string =>
  printed.replaceAll('♯', '#').replaceAll('♭', 'b').replaceAll('𝄪', '##').replaceAll('𝄫', 'bb');

const symbolOf = ({ chord, unread }: ChordSpan, lift: Semitones): string => {
  if (unread !== undefined) return unread.replaceAll(/\s+/g, '');
  if (!chord) return NO_CHORD;
  return plain(chordSymbol(lift === 0 ? chord : transposeChord(chord, spellSemitones(lift))));
};

/** As few words as put every chord of a bar in its place. */
function placesOf(starts: readonly Ticks[], metre: Metre): readonly Ticks[] {
  const bar = barTicks(metre);
  const beats = beatsOf(metre).length;
  const ways = [1, 2, beats, ...FINER.map((each) => each * beats)].map((count) => placesFor(count, 0, bar, metre));
  return ways.find((places) => starts.every((at) => places.includes(at))) ?? (ways.at(-1) as Ticks[]);
}

function barText(inBar: readonly { readonly at: Ticks; readonly text: string }[], metre: Metre): string {
  if (inBar.length === 0) return '-';
  const places = placesOf(
    inBar.map(({ at }) => at),
    metre,
  );
  const nearest = (at: Ticks): number =>
    places.reduce(
      (best, place, index) => (Math.abs(place - at) < Math.abs((places[best] ?? 0) - at) ? index : best),
      0,
    );
  const words = places.map(() => '/');
  for (const { at, text } of inBar) words[nearest(at)] = text;
  return words.join(' ');
}

/** The bars of some chords, a text for each. */
export function barsOfChords(chords: readonly ChordSpan[], bars: number, metre: Metre, lift: Semitones): string[] {
  const bar = barTicks(metre);
  return Array.from({ length: bars }, (_, index) =>
    barText(
      chords
        .filter(({ start }) => Math.floor(start / bar) === index)
        .map((span) => ({ at: modulo(span.start, bar), text: symbolOf(span, lift) })),
      metre,
    ),
  );
}

const linesOf = (bars: readonly string[]): string[] =>
  Array.from(
    { length: Math.ceil(bars.length / BARS_A_LINE) },
    (_, line) => `| ${bars.slice(line * BARS_A_LINE, (line + 1) * BARS_A_LINE).join(' | ')} |`,
  );

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
  return facts.length === 0 ? '' : ` (${facts.join(', ')})`;
}

interface Block {
  /** The section and how it is lifted. */
  readonly key: string;
  readonly heading: string;
  /** What it has of its own, in words. */
  readonly own: string;
  /** Its bars; none where they were written out before. */
  readonly lines: readonly string[];
  times: number;
}

function blocksOf(music: Music): readonly Block[] {
  const { score, takes, heard } = music;
  const blocks: Block[] = [];
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
    const bars = (): string[] =>
      barsOfChords(chordsIn(section, takes, heard), section.bars, groundOf(score, section).metre, lift);
    const lines = written.get(name) === key ? [] : linesOf(bars());
    written.set(name, key);
    blocks.push({ key, heading: `[${name}]`, own: ownText(score, placed), lines, times: 1 });
  }
  return blocks;
}

/** The chords of a song as a chart; what comes back is named, and not written out once more. */
export function chartText(music: Music): string {
  const { ground, title } = music.score;
  const [metre = ''] = metreText(ground.metre).split(' ');
  return [
    title,
    `Key: ${keyText(ground)}  Tempo: ${ground.tempo}  ${metre}`,
    ...blocksOf(music).flatMap(({ heading, own, lines, times }) => [
      '',
      `${heading}${times > 1 ? ` x${times}` : ''}${own}`,
      ...lines,
    ]),
    '',
  ].join('\n');
}
