/**
 * Times the core's work against a fixed reference workload in the same run. Printed as JSON for tools/bench.mjs.
 */
import { parseMidi } from 'midi-file';
import { draft, type DraftRequest } from '@fendro/core/compose/draft';
import { harmonyAsking, partAsking } from '@fendro/core/compose/asking';
import { performChords, voicedChords } from '@fendro/core/voicing/chord-line';
import { PLAIN_CHORDS } from '@fendro/core/song/briefs';
import { typeChords } from '@fendro/core/song/chord-typing';
import { fitNotes } from '@fendro/core/song/fit';
import { firstLoops, firstPattern, firstWandering } from '@fendro/core/patterns/first-pattern';
import { patternNotes } from '@fendro/core/patterns/pass';
import {
  ASPECTS,
  type Asking,
  type Chain,
  type ChordSpan,
  type Hold,
  type Note,
  type Pattern,
} from '@fendro/core/song/schema';
import { looseTake } from '@fendro/core/song/take';
import { noteFeatures } from '@fendro/core/study/features';
import { inferChords } from '@fendro/core/study/infer/chords';
import { layOutByLikeness } from '@fendro/core/study/likeness';
import { draftTakes } from '@fendro/core/compose/takes';
import { readMidi } from '@fendro/core/files/midi/midi-read';
import { writeMidi, type MidiEvent } from '@fendro/core/files/midi/midi-write';
import { groundFor, startScore } from '@fendro/core/styles/band';
import { styleOf } from '@fendro/core/styles/styles';
import { throughChain } from '@fendro/core/treat/chain';
import { shares } from '@fendro/core/treat/dealing';
import { FIRST } from '@fendro/core/treat/first-treatment';
import type { Treating } from '@fendro/core/treat/treating';

const style = styleOf('singer-songwriter');
const ground = groundFor(style, { tonic: 0, scale: 'major' });
const score = startScore('Bench', ground, style);
const place = { ground, bars: 8, kind: 'verse' as const };
const harmony = draft(
  { asking: harmonyAsking(place, score.sections[0]!.harmonyBrief), seed: 1, chords: null, beside: [] },
  0,
);
const chords = harmony.ok && harmony.content.of === 'harmony' ? harmony.content.chords : [];
const requestFor = (role: string, seed: number): DraftRequest => {
  const part = score.parts.find((candidate) => candidate.role === role)!;
  // A copy of the chords for every run, so that nothing remembered from the run before helps.
  return { asking: partAsking(place, part), seed, chords: chords.map((span) => ({ ...span })), beside: [] };
};

/** The fixed reference: sorting 300,000 numbers of a fixed sequence. */
function reference(): void {
  let value = 1;
  const numbers = Array.from({ length: 300_000 }, () => (value = (value * 48_271) % 2_147_483_647));
  numbers.sort((a, b) => a - b);
}

function time(work: () => void, runs = 5): number {
  work();
  const times = Array.from({ length: runs }, () => {
    const since = performance.now();
    work();
    return performance.now() - since;
  });
  return times.sort((a, b) => a - b)[Math.floor(runs / 2)]!;
}

const take = (request: DraftRequest, count: number): void => {
  for (const step of draftTakes(request, 0, count, new Set()))
    if (step.kind === 'refused') throw new Error(step.reason);
};

/** A melody that things are held of, and what a draft beside it is asked for. */
const held = draft(requestFor('melody', 1), 0);
const model = looseTake(
  { id: 'model', section: 's', length: 8 * 1920 },
  'melody',
  held.ok && held.content.of === 'part' ? held.content.notes : [],
  { how: 'edited' },
);
const beside = (run: number, more: Partial<Asking>): DraftRequest => {
  const request = requestFor('melody', run);
  return { ...request, asking: { ...request.asking, ...more }, models: [model] };
};
const allButTwoBars: Hold = { take: 'model', aspects: [...ASPECTS], bars: [0, 1, 4, 5, 6, 7], notes: [] };

const events: MidiEvent[] = Array.from({ length: 100_000 }, (_, index): MidiEvent[] => [
  { at: index * 120, kind: 'on', channel: index % 16, pitch: 30 + (index % 60), velocity: 90 },
  { at: index * 120 + 100, kind: 'off', channel: index % 16, pitch: 30 + (index % 60), velocity: 0 },
]).flat();
const file = { type: 1 as const, resolution: 480, tracks: [{ events, end: 12_000_000 }] };
const bytes = writeMidi(file);

/** Chords that nothing is remembered of. */
const fresh = (): ChordSpan[] =>
  typeChords([], 0, 'C Am7 | F Dm7 | G7 E7 | Am F#m7b5 | Fmaj7 Em7 | Dm7 G7 | C/E A7 | Dm7 Db7', {
    key: ground,
    metre: ground.metre,
    length: 8 * 1920,
  });
const played = Array.from({ length: 4 }, (_, round) =>
  performChords(fresh(), { ...PLAIN_CHORDS, rhythm: 'ballad-heartbeats' }, ground.metre, 8, 1).map((note) => ({
    ...note,
    start: note.start + round * 8 * 1920,
  })),
).flat();

/** Two hundred melodies as the field of takes sees them. */
const many = Array.from({ length: 200 }, (_, attempt) => {
  const drawn = draft(requestFor('melody', 1), attempt);
  return noteFeatures(drawn.ok && drawn.content.of === 'part' ? drawn.content.notes : [], 8 * 1920, 1920);
});

/** Sixteen patterns in which everything is left to chance: drawn ones, loops and wandering notes. */
const going = Array.from({ length: 16 }, (_, index): Pattern => {
  const part = score.parts[index % 4]!;
  const drawn = firstPattern(part, index);
  const { strips } = drawn;
  if (index % 4 === 1) return { ...firstLoops(part, index), meeting: 'tied' };
  if (index % 4 === 2) return { ...firstWandering(part, index), division: 120, double: 30 };
  const likelihood = { ...strips.likelihood, values: [60, 80, 90] };
  return { ...drawn, rate: 120, redraw: 1, direction: 'by chance', strips: { ...strips, likelihood } };
});

/** Five treatments in two branches. */
const chain: Chain = [
  [FIRST.octave, FIRST.humanise],
  [FIRST.stray, FIRST.snap, { ...FIRST.thin, chance: 40 }],
];

/** The same patterns, which lean slowly and by chance. */
const leaning = going.map((pattern): Pattern => ({
  ...pattern,
  leans: [
    { goes: 'slowly', name: 'busier', moves: [{ setting: 'busyness', by: 2 }], bars: 8, then: 'stays' },
    { goes: 'by chance', name: 'softer', moves: [{ setting: 'loudness', by: -2 }], bars: 1, chance: 50 },
  ],
}));

/** A pass of 8 bars of patterns, each behind treatments. */
function play(patterns: readonly Pattern[], use: (notes: readonly Note[], over: Treating) => void): void {
  const over = { chords: fresh(), ground, length: 8 * 1920, bar: 1920, pass: seed++ };
  const treating = { ...over, key: ground, seed: 1 };
  for (const pattern of patterns) use(throughChain(patternNotes(pattern, over), chain, treating), treating);
}

let seed = 0;
const milliseconds = {
  reference: time(reference),
  'first take of an 8-bar melody': time(() => {
    draftTakes(requestFor('melody', seed++), 0, 8, new Set()).next();
  }, 21),
  '64 takes of an 8-bar melody, diverse (256 draws)': time(() => {
    take(requestFor('melody', seed++), 64);
  }),
  'two bars of it drafted again 64 times, the rest held (256 draws)': time(() => {
    take(beside(seed++, { holds: [allButTwoBars] }), 64);
  }),
  '64 variations of it by a quarter (256 draws)': time(() => {
    take(beside(seed++, { kin: { by: 'variation', takes: ['model'], share: 25 } }), 64);
  }),
  'a whole band: 5 parts, 8 takes each, 8 bars (800 draws)': time(() => {
    for (const { role } of score.parts) take(requestFor(role, seed++), 8);
  }),
  '200 takes laid out by likeness': time(() => {
    for (const step of layOutByLikeness(many)) void step;
  }),
  '16 chords voiced for two hands': time(() => {
    voicedChords(fresh(), { ...PLAIN_CHORDS, family: 'keyboard' });
  }),
  '16 chords voiced for guitar': time(() => {
    voicedChords(fresh(), { ...PLAIN_CHORDS, family: 'guitar' });
  }),
  'chords of 32 bars inferred': time(() => {
    inferChords(played, ground, ground.metre, 32 * 1920);
  }),
  'a song’s parts fitted to other chords (8 bars)': time(() => {
    fitNotes(
      played.slice(0, 128).map((note) => ({ ...note })),
      { chords, key: ground },
      { chords: fresh(), key: ground },
      { role: 'comping', low: 48, high: 79 },
    );
  }),
  'a pass of 8 bars of 16 parts that go on by themselves, in sixteenths with chances, and are treated': time(() => {
    play(going, () => undefined);
  }, 15),
  'the same, leaning by themselves in two ways and dealt out by chance': time(() => {
    play(leaning, (notes, over) => shares(notes, 'by chance', 4, over));
  }, 15),
  'MIDI file of 100,000 notes written': time(() => {
    writeMidi(file);
  }),
  'the same file read by the library alone': time(() => {
    parseMidi(bytes);
  }),
  'the same file read behind the guard': time(() => {
    readMidi(bytes);
  }),
};
console.log(JSON.stringify(milliseconds));
