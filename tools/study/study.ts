/**
 * npm run study: what Fendro drafts, measured and set beside human music on both sides: too tame is as far off as too
 * wild. Melodies, whole songs, harmony, bands, the words of briefs. Writes the section “Music” of docs/figures.md.
 */
import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { isDrumRole } from '@fendro/core/song/roles';
import type { Part } from '@fendro/core/song/schema';
import type { Style } from '@fendro/core/song/style';
import { barsAgain, differsFromUsual, grooveConsistency, rootsInOctaves } from '@fendro/core/study/band-measures';
import { melodyMeasures, type Measures } from '@fendro/core/study/melody-measures';
import { STYLES } from '@fendro/core/styles/styles';
import { writeFigures } from '../write-figures.mjs';
import { apartOf, harmonyOf, leadingOf, togetherOf, varietyOf } from './bands';
import { foundHarmony } from './brought-back';
import { BARS, pieceOf, type Piece } from './pieces';
import { styleMatrix } from './recognise';
import { draftedSong, measureSong } from './songs';
import { toldByRhythm } from './style-rhythm';
import { against, mean, median, quantile, type HumanMeasure } from './two-sided';
import { measureWords } from './words';

const SEEDS = 16;
const SONGS = 4;
const HUMAN = (
  JSON.parse(readFileSync(resolve(import.meta.dirname, 'human-melody-measures.json'), 'utf8')) as {
    measures: Record<string, HumanMeasure>;
  }
).measures;

const share = (value: number): string => value.toFixed(2).replace(/^(-?)0\./, '$1.');
const number = (value: number): string => (Math.abs(value) < 1 ? share(value) : value.toFixed(1));
const spreadOf = (values: readonly number[]): string =>
  `${number(median(values))} (${number(quantile(values, 0.1))}–${number(quantile(values, 0.9))})`;
const table = (head: readonly string[], rows: readonly (readonly string[])[]): string =>
  [head, head.map(() => '---'), ...rows].map((row) => `| ${row.join(' | ')} |`).join('\n');

const since = performance.now();
const pieces = STYLES.flatMap((style) => Array.from({ length: SEEDS }, (_, index) => pieceOf(style, index + 1)));

// Melodies on default briefs against human ones.
const melodies = pieces.flatMap(({ style, ground, chords, parts }) =>
  parts
    .filter(({ part, notes }) => part.role === 'melody' && notes.length >= 4)
    .map(({ notes }) => ({
      style,
      notes,
      metre: ground.metre,
      measures: melodyMeasures({ notes, chords, key: ground, metre: ground.metre, bars: BARS }),
    })),
);
const valuesOf = (some: readonly { readonly measures: Measures }[], name: string): number[] =>
  some.flatMap(({ measures }) => measures[name] ?? []);
const melodyTable = table(
  ['melodies', 'Fendro, median (10–90 %)', 'people', 'overlap', 'divergence, bits'],
  Object.entries(HUMAN).map(([name, human]) => {
    const values = valuesOf(melodies, name);
    const { overlap, divergence } = against(values, human);
    return [
      name,
      spreadOf(values),
      `${number(human.median)} (${number(human.p10)}–${number(human.p90)})`,
      share(overlap),
      share(divergence),
    ];
  }),
);
/** Styles whose median lies outside what nine in ten people do. */
const offStyles = Object.entries(HUMAN).flatMap(([name, human]) =>
  STYLES.flatMap((style) => {
    const values = valuesOf(
      melodies.filter((melody) => melody.style === style),
      name,
    );
    const middle = median(values);
    return values.length > 0 && (middle < human.p10 || middle > human.p90)
      ? [`${style.name}: ${name} ${number(middle)}`]
      : [];
  }),
);

// Whole songs.
const drafted = STYLES.flatMap((style) =>
  Array.from({ length: SONGS }, (_, index) => ({ style, song: draftedSong(style, index + 1) })),
);
const songs = drafted.flatMap(({ song }) => measureSong(song) ?? []);
const ofSongs = (name: keyof (typeof songs)[number]): number[] => songs.map((song) => song[name]);
const songTable = table(
  ['whole songs', 'Fendro', 'goal'],
  [
    ['notes in motifs shared between sections', spreadOf(ofSongs('shared')), '.28–.45'],
    ['bars of a chorus that its verse has too', spreadOf(ofSongs('identical')), 'at most .10'],
    ['chorus above verse, semitones', spreadOf(ofSongs('higher')), '2–4'],
    ['onsets of the band, chorus against verse', spreadOf(ofSongs('fuller')), '1.1–1.4'],
    ['chorus melody ends on the key’s own note', share(mean(ofSongs('home'))), 'at least .75'],
  ],
);

// Harmony.
const harmony = STYLES.map((style) => ({ style, figures: harmonyOf(style, SEEDS) }));
const JAZZY: ReadonlySet<string> = new Set(['Jazz', 'Latin', 'Soul and gospel']);
const fourths = (jazzy: boolean): string =>
  spreadOf(harmony.filter(({ style }) => JAZZY.has(style.family) === jazzy).flatMap(({ figures }) => figures.fourths));
const meanOver = (test: (style: Style) => boolean, of: (entry: (typeof harmony)[number]) => number | null): string =>
  share(
    mean(
      harmony
        .filter(({ style }) => test(style))
        .map(of)
        .filter((value) => value !== null),
    ),
  );
const goesRound = ({ harmony: { loops } }: Style): boolean => (loops ?? 0) >= 50;
const leads = leadingsOf();
function leadingsOf(): readonly { smooth: number; plain: number }[] {
  return pieces.flatMap((piece) => leadingOf(piece) ?? []);
}

// Bands.
const of = (test: (part: Part) => boolean, measure: (piece: Piece, notes: Piece['parts'][number]['notes']) => number) =>
  pieces.flatMap((piece) => piece.parts.filter(({ part }) => test(part)).map(({ notes }) => measure(piece, notes)));
const groove = (piece: Piece, notes: Piece['parts'][number]['notes']): number =>
  grooveConsistency(notes, piece.ground.metre, BARS);
const together = pieces.map(togetherOf);
const varieties = STYLES.map((style, index) => varietyOf(style, index + 3));
const recognised = styleMatrix(pieces);
const bandTable = table(
  ['harmony and bands', 'Fendro', 'goal'],
  [
    ['root moves by rising fourth: pop, rock, folk, dance', fourths(false), '.15–.38'],
    ['… jazz, latin, soul and gospel', fourths(true), '.30–.55'],
    ['strict loops of four bars in loop styles', meanOver(goesRound, ({ figures }) => figures.loops), 'at least .5'],
    [
      'twelve bars in blues',
      meanOver(
        ({ id }) => id === 'blues',
        ({ figures }) => figures.twelveBars,
      ),
      'at least .9',
    ],
    [
      'major dominant in minor where the style has it',
      meanOver(
        (style) => style.harmony.leadingNote ?? false,
        ({ figures }) => figures.leading,
      ),
      'at least .9',
    ],
    ['motion per voice and change, smooth', mean(leads.map(({ smooth }) => smooth)).toFixed(2), 'at most 2.0'],
    [
      '… against root positions',
      share(mean(leads.map(({ smooth }) => smooth)) / mean(leads.map(({ plain }) => plain))),
      'at most .50',
    ],
    [
      'bass: bars heard exactly before',
      spreadOf(
        of(
          ({ role }) => role === 'bass',
          ({ ground }, notes) => barsAgain(notes, ground.metre, BARS),
        ),
      ),
      '.35–.55',
    ],
    [
      'bass: the same root in another octave where chords arrive',
      spreadOf(
        of(
          ({ role }) => role === 'bass',
          ({ chords }, notes) => rootsInOctaves(notes, chords),
        ),
      ),
      'at most .10',
    ],
    ['groove of neighbouring bars, drums', spreadOf(of(({ role }) => isDrumRole(role), groove)), '.90–.98'],
    [
      '… pitched accompaniment',
      spreadOf(of(({ role }) => ['comping', 'strum', 'picking', 'arpeggio', 'bass'].includes(role), groove)),
      '.85–.96',
    ],
    [
      'drums: bar 8 against the usual bar',
      spreadOf(
        of(
          ({ role }) => role === 'drums',
          ({ ground }, notes) => differsFromUsual(notes, ground.metre, BARS, 7),
        ),
      ),
      '.20–.45, wide',
    ],
    [
      'swing styles: onsets written together, ms apart',
      spreadOf(pieces.filter(({ ground }) => ground.swing >= 50).map(apartOf)),
      'at most 20',
    ],
    ['melody notes on beats a semitone beside another part', share(mean(together.map(({ clash }) => clash))), 'low'],
    ['accompaniment inside the melody’s range', share(mean(together.map(({ overlap }) => overlap))), 'low'],
    [
      'bass onsets on the kick',
      share(mean(together.map(({ locked }) => locked).filter((value) => !Number.isNaN(value)))),
      '',
    ],
    [
      '8 takes from a pool: distance to the nearest other, against 8 plain draws',
      share(median(varieties.map(({ chosen, plain }) => chosen / Math.max(0.001, plain)))),
      'at least 1.5',
    ],
    [
      'style told from the melody’s rhythm alone (28 styles)',
      share(toldByRhythm(melodies.map((melody) => ({ ...melody, style: melody.style.id, bars: BARS })))),
      'at least .35',
    ],
    ['style told from the whole band', share(recognised.accuracy), ''],
  ],
);

// Songs brought in again from their own files, chords found by the notes alone.
const broughtBack = drafted.map(({ style, song }) => ({ style, ...foundHarmony(song) }));
const foundIn = (styles: readonly string[] | null, of: 'roots' | 'thirds'): string => {
  const some = broughtBack.filter(({ style }) => styles === null || styles.includes(style.id));
  const sum = (kind: 'roots' | 'thirds' | 'all'): number => some.reduce((total, each) => total + each[kind], 0);
  return share(sum(of) / sum('all'));
};
const foundTable = table(
  ['chords found in own files brought in, eighths', 'root', 'root and third', 'goal, root'],
  [
    ['all styles', foundIn(null, 'roots'), foundIn(null, 'thirds'), 'at least .97'],
    [
      'swing and bossa nova',
      foundIn(['swing', 'bossa-nova'], 'roots'),
      foundIn(['swing', 'bossa-nova'], 'thirds'),
      'at least .93',
    ],
  ],
);

// Words of briefs.
const words = measureWords(
  STYLES.filter((_, index) => index % 5 === 1),
  3,
);
const wordTable = table(
  ['role', 'word', 'correlation', 'of single takes', 'from … to'],
  words.map(({ role, word, correlation, single, ends }) => [
    role,
    word,
    share(correlation),
    share(single),
    `${number(ends[0])} … ${number(ends[1])}`,
  ]),
);

const text = [
  `Measured over ${melodies.length} melodies, ${pieces.length} bands and ${songs.length} whole songs of ` +
    `${STYLES.length} styles, on the styles’ own briefs. “People” are ${HUMAN['notes a bar'] ? '217' : ''} windows of ` +
    'eight bars of human melodies; overlap is what two histograms have in common, divergence how many bits the human ' +
    'one is surprised.',
  melodyTable,
  `Styles whose median lies outside what nine in ten people do: ${offStyles.join('; ') || 'none'}.`,
  songTable,
  bandTable,
  foundTable,
  'The words of the briefs, each moved from end to end in six styles, against what it names (Spearman):',
  wordTable,
].join('\n\n');
console.log(`${text}\n\n${recognised.text}\n\n${((performance.now() - since) / 1000).toFixed(0)} s`);
writeFigures('Music', text);
