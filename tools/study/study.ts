/**
 * npm run study: what Fendro drafts, measured: melodies, grooves, voice leading, variety, how styles differ and whether
 * the parts of a band get out of each other's way. Writes the section “Music” of docs/figures.md.
 */
import { draft } from '@fendro/core/compose/draft';
import { harmonyAsking, partAsking } from '@fendro/core/compose/asking';
import { draftTakes, featuresOf } from '@fendro/core/compose/takes';
import { averageMotion, rootPositions, voiceChords } from '@fendro/core/voicing/voicing';
import { wishFor } from '@fendro/core/voicing/chord-line';
import { harmonyBriefFor, PLAIN_CHORDS } from '@fendro/core/song/briefs';
import { inDraftingOrder, isDrumRole, roleOf } from '@fendro/core/song/roles';
import type { Asking, ChordSpan, Note, Part, PartTake } from '@fendro/core/song/schema';
import { looseTake } from '@fendro/core/song/take';
import { distance } from '@fendro/core/study/features';
import { groundFor, partFrom } from '@fendro/core/styles/band';
import { STYLES } from '@fendro/core/styles/styles';
import type { Style } from '@fendro/core/song/style';
import { tonicsFor } from '@fendro/core/theory/key';
import { barTicks, metricalWeight, WEIGHT } from '@fendro/core/theory/metre';
import { isDeadEnd } from '@fendro/core/trellis/trellis';
import { writeFigures } from '../write-figures.mjs';
import { grooveConsistency, mean, measureMelody, median, noMeasures, valueOf } from './measures';
import { styleMatrix } from './recognise';

const BARS = 8;
const SEEDS = 12;

interface Piece {
  readonly style: Style;
  readonly ground: Asking['ground'];
  readonly chords: readonly ChordSpan[];
  readonly parts: readonly { readonly part: Part; readonly notes: readonly Note[] }[];
}

/** A style's whole band over chords of its own. */
function piece(style: Style, seed: number): Piece {
  const scale = style.scales[seed % Math.min(2, style.scales.length)] ?? 'major';
  const ground = groundFor(style, { tonic: tonicsFor(scale)[(seed * 7) % 12] ?? 0, scale });
  const place = { ground, bars: BARS, kind: 'verse' as const };
  const harmony = draft(
    { asking: harmonyAsking(place, harmonyBriefFor('verse', style.harmony)), seed, chords: null, beside: [] },
    0,
  );
  if (!harmony.ok || harmony.content.of !== 'harmony')
    throw new Error(`${style.name}: ${harmony.ok ? '' : harmony.reason}`);
  const { chords } = harmony.content;
  const made: PartTake[] = [];
  const band = style.band.map((own, index) => partFrom(own, `part-${index}`, index));
  const parts = inDraftingOrder(band).map((part) => {
    const beside = made.filter((take) => take.part === roleOf(part.role).listensTo);
    const request = { asking: partAsking(place, part), seed: seed * 31 + part.colour, chords, beside };
    const result = draft(request, 0);
    if (!result.ok || result.content.of !== 'part')
      throw new Error(`${style.name}, ${part.name}: ${result.ok ? '' : result.reason}`);
    const { notes } = result.content;
    const length = BARS * barTicks(ground.metre);
    // By its role, so that whoever listens finds it.
    made.push(looseTake({ id: `take of ${part.id}`, section: 's', length }, part.role, notes, { how: 'imported' }));
    return { part, notes };
  });
  return { style, ground, chords, parts };
}

const pieces = STYLES.flatMap((style) => Array.from({ length: SEEDS }, (_, seed) => piece(style, seed + 1)));

// Melodies on default briefs.
const melody = noMeasures();
let melodies = 0;
for (const { ground, chords, parts } of pieces) {
  for (const { part, notes } of parts) {
    if (part.role !== 'melody' || notes.length < 4) continue;
    measureMelody(melody, notes, chords, ground.metre, BARS);
    melodies++;
  }
}

const grooves = (test: (part: Part) => boolean): number[] =>
  pieces.flatMap(({ ground, parts }) =>
    parts.filter(({ part }) => test(part)).map(({ notes }) => grooveConsistency(notes, ground.metre, BARS)),
  );
const drums = grooves((part) => isDrumRole(part.role));
const accompaniment = grooves(({ role }) => ['comping', 'strum', 'picking', 'arpeggio', 'bass'].includes(role));

const leading = pieces
  .map(({ chords }) => {
    const sounding = chords.flatMap((span) => (span.chord ? [{ chord: span.chord }] : []));
    const wish = wishFor(PLAIN_CHORDS);
    const smooth = voiceChords(sounding, wish);
    return isDeadEnd(smooth)
      ? null
      : { smooth: averageMotion(smooth), plain: averageMotion(rootPositions(sounding, wish)) };
  })
  .filter((entry) => entry !== null);

/** Median distance of each of eight takes to its nearest other: chosen from a pool, and eight plain draws. */
function variety(style: Style, seed: number): { chosen: number; plain: number } {
  const { ground, chords } = piece(style, seed);
  const band = style.band.find(({ role }) => role === 'melody') ?? style.band[0];
  if (!band) return { chosen: 0, plain: 0 };
  const part = partFrom(band, 'p', 0);
  const request = { asking: partAsking({ ground, bars: BARS, kind: 'verse' }, part), seed, chords, beside: [] };
  const [length, bar] = [BARS * barTicks(ground.metre), barTicks(ground.metre)];
  const nearest = (contents: Parameters<typeof featuresOf>[0][]): number => {
    const features = contents.map((content) => featuresOf(content, length, bar));
    return median(
      features.map((own, index) =>
        Math.min(...features.filter((_, other) => other !== index).map((other) => Math.sqrt(distance(own, other)))),
      ),
    );
  };
  const chosen = [...draftTakes(request, 0, 8, new Set())].flatMap((step) =>
    step.kind === 'take' ? [step.take.content] : [],
  );
  const plain = Array.from({ length: 8 }, (_, attempt) => draft(request, 100 + attempt)).flatMap((result) =>
    result.ok ? [result.content] : [],
  );
  return { chosen: nearest(chosen), plain: nearest(plain) };
}
const varieties = STYLES.map((style, index) => variety(style, index + 3));
const varietyRatio = median(varieties.map(({ chosen, plain }) => chosen / Math.max(0.001, plain)));

/**
 * Semitone clashes between melody and the rest on strong beats, shared registers, and how often bass and kick strike
 * together.
 */
function together({ ground, parts }: Piece): { clash: number; overlap: number; locked: number } {
  const line = parts.find(({ part }) => part.role === 'melody');
  const rest = parts.filter(({ part }) => part.role !== 'melody' && !isDrumRole(part.role));
  const strong = (line?.notes ?? []).filter(({ start }) => metricalWeight(ground.metre, start) >= WEIGHT.beat);
  const clash =
    strong.filter(({ start, pitch }) =>
      rest.some(({ notes }) =>
        notes.some(
          (note) => note.start <= start && start < note.start + note.duration && Math.abs(note.pitch - pitch) === 1,
        ),
      ),
    ).length / Math.max(1, strong.length);
  const span = (notes: readonly Note[]): [number, number] => [
    Math.min(...notes.map(({ pitch }) => pitch)),
    Math.max(...notes.map(({ pitch }) => pitch)),
  ];
  const [low, high] = span(line?.notes ?? []);
  const others = rest
    .filter(({ part, notes }) => part.role !== 'bass' && notes.length > 0)
    .map(({ notes }) => notes.filter(({ pitch }) => pitch >= low && pitch <= high).length / notes.length);
  const kicks = new Set(
    parts
      .find(({ part }) => part.role === 'drums')
      ?.notes.filter(({ pitch }) => pitch === 36)
      .map(({ start }) => start) ?? [],
  );
  const bass = parts.find(({ part }) => part.role === 'bass')?.notes ?? [];
  return {
    clash,
    overlap: mean(others),
    locked: kicks.size === 0 ? NaN : bass.filter(({ start }) => kicks.has(start)).length / Math.max(1, bass.length),
  };
}
const bands = pieces.map(together);
const recognised = styleMatrix(pieces);

const share = (value: number): string => value.toFixed(2).replace(/^0/, '');
const rows: readonly (readonly [what: string, value: string, band: string])[] = [
  ['melodic steps (1–2 semitones)', share(valueOf(melody.steps)), '.40–.68'],
  ['skips (3–4)', share(valueOf(melody.skips)), '.10–.29'],
  ['leaps (5 and more)', share(valueOf(melody.leaps)), '.03–.22'],
  ['over an octave', valueOf(melody.overOctave).toFixed(4).replace(/^0/, ''), 'at most .005'],
  ['a leap is followed by a turn', share(valueOf(melody.turns)), 'at least .50'],
  ['chord tones on downbeats', share(valueOf(melody.downbeats)), 'at least .80'],
  ['chord tones on other beats', share(valueOf(melody.beats)), 'at least .75'],
  ['chord tones off beats', share(valueOf(melody.offBeats)), '.45–.75'],
  ['bars whose rhythm repeats an earlier bar’s', share(valueOf(melody.repeats)), '.41–.70'],
  ['bars that repeat one exactly', share(valueOf(melody.exact)), 'under .35'],
  ['range of a melody, semitones (median)', String(median(melody.ranges)), '8–19'],
  ['pitch-class entropy, bits (mean)', mean(melody.entropies).toFixed(2), '1.9–2.8'],
  ['groove consistency, drums (mean)', share(mean(drums)), '.88–.97'],
  ['groove consistency, pitched accompaniment (mean)', share(mean(accompaniment)), '.82–.95'],
  ['motion per voice and change, smooth', mean(leading.map(({ smooth }) => smooth)).toFixed(2), 'at most 2.0'],
  [
    '… against root positions',
    share(mean(leading.map(({ smooth }) => smooth)) / mean(leading.map(({ plain }) => plain))),
    'at most .50',
  ],
  [
    '8 takes from a pool: distance to the nearest other, against 8 plain draws',
    varietyRatio.toFixed(2),
    'at least 1.5',
  ],
  ['melody notes on beats a semitone beside another part', share(mean(bands.map(({ clash }) => clash))), 'low'],
  ['accompaniment notes inside the melody’s range', share(mean(bands.map(({ overlap }) => overlap))), 'low'],
  [
    'bass onsets on the kick',
    share(mean(bands.map(({ locked }) => locked).filter((value) => !Number.isNaN(value)))),
    '',
  ],
  [
    `styles named right by their takes (${STYLES.length} styles, chance ${share(1 / STYLES.length)})`,
    share(recognised.accuracy),
    'far above chance',
  ],
];
const table = ['| measure | Fendro | band |', '|---|---|---|', ...rows.map((row) => `| ${row.join(' | ')} |`)].join(
  '\n',
);
console.log(`${melodies} melodies in ${STYLES.length} styles\n\n${table}\n\n${recognised.text}`);
writeFigures(
  'Music',
  `Measured over ${melodies} melodies and ${pieces.length} bands of ${STYLES.length} styles, eight ` +
    'bars each, on the styles’ own briefs. The bands come from human-made tunes with chords and ' +
    `multi-part human MIDI.\n\n${table}\n\n${recognised.text}`,
);
