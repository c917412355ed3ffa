import * as fc from 'fast-check';
import { draft } from '../../compose/draft';
import { ENGINE } from '../../compose/engine';
import { performChords } from '../../voicing/chord-line';
import { PLAIN_CHORDS } from '../../song/briefs';
import type { ChordSpan, Ground, Note } from '../../song/schema';
import { writtenNotes } from '../../sounding/written';
import { musicOf } from '../../testing/sounding';
import { NOTHING_HEARD, chordsIn } from '../../song/resolve';
import { scoreWith } from '../../testing/scores';
import { groundFor } from '../../styles/band';
import { STYLES } from '../../styles/styles';
import { keyNotes, tonicsFor } from '../../theory/key';
import { barTicks, beatsOf } from '../../theory/metre';
import { chordSymbol, type Chord } from '../../theory/chord';
import { intervalOf, pitchClassOf, semitonesOf } from '../../theory/pitch';
import { modulo } from '../../theory/units';
import { chordsOf } from '../../testing/chords';
import { pickIndex, stream } from '../../trellis/random';
import { inferChords } from './chords';
import { inferKeys, sameCharacter, type PlainNote } from './key';

/** Root and the kind that can be heard: third, fifth, seventh. */
const kind = (span: ChordSpan | undefined): string =>
  span?.chord
    ? `${pitchClassOf(span.chord.root)} ${span.chord.tones.filter((tone) => !/9|11|13|6/.test(tone)).join(' ')}`
    : '';

/** Share of beats whose chord is found. */
function share(
  found: readonly ChordSpan[],
  wanted: readonly ChordSpan[],
  ground: Ground,
  bars: number,
): { right: number; all: number } {
  let right = 0;
  let all = 0;
  for (let bar = 0; bar < bars; bar++) {
    for (const beat of beatsOf(ground.metre)) {
      const at = bar * barTicks(ground.metre) + beat.at;
      const on = (list: readonly ChordSpan[]) => list.findLast(({ start }) => start <= at);
      all++;
      if (kind(on(found)) === kind(on(wanted))) right++;
    }
  }
  return { right, all };
}

/** A progression in some key and style, with passing notes above it. */
function sample(seed: number): { chords: readonly ChordSpan[]; notes: Note[]; ground: Ground } {
  const style = STYLES[seed % STYLES.length]!;
  const scale = seed % 3 === 0 ? 'minor' : 'major';
  const ground = groundFor(style, { tonic: tonicsFor(scale)[(seed * 7) % 12]!, scale });
  const asking = {
    engine: ENGINE,
    ground,
    bars: 8,
    kind: 'verse' as const,
    beside: [],
    harmonyBrief: {
      pace: 1 as const,
      colouring: seed % 2 === 0 ? ('triads' as const) : ('sevenths' as const),
      cadence: 'authentic' as const,
      form: null,
      first: null,
      last: null,
      under: null,
      adventure: 20,
    },
  };
  const result = draft({ asking, seed, chords: null, beside: [] }, 0);
  if (!result.ok || result.content.of !== 'harmony') throw new Error('no chords');
  const { chords } = result.content;
  const voiced = performChords(
    chords,
    { ...PLAIN_CHORDS, bass: 'added', rhythm: 'ballad-heartbeats' },
    ground.metre,
    8,
    seed,
  );
  // A passing eighth on every weak half beat, from the scale.
  const scaleNotes = keyNotes(ground).map(pitchClassOf);
  const passing = Array.from({ length: 8 * beatsOf(ground.metre).length }, (_, index): Note => {
    const beat = beatsOf(ground.metre)[index % beatsOf(ground.metre).length]!;
    const start = Math.floor(index / beatsOf(ground.metre).length) * barTicks(ground.metre) + beat.at + beat.length / 2;
    return {
      start,
      duration: beat.length / 2,
      pitch: 72 + scaleNotes[(index * 3 + seed) % scaleNotes.length]!,
      velocity: 70,
    };
  });
  return { chords, notes: [...voiced, ...passing].sort((a, b) => a.start - b.start), ground };
}

const FOUR = { beats: 4, unit: 4, groups: [2, 2] } as const;

/** A band over chords drawn at random, half of them on other basses than their root: comping, a tune, a bass. */
function band(seed: number, kind: 'held' | 'walking' | 'bouncing'): { chords: ChordSpan[]; notes: PlainNote[] } {
  const random = stream(seed, 'band', kind);
  const pick = <T>(list: readonly T[]): T => list[pickIndex(random, list.length)]!;
  const symbols = [
    'C',
    'G/B',
    'Am',
    'F',
    'F/A',
    'Dm7',
    'C/E',
    'G7',
    'C/G',
    'Em',
    'Am7',
    'G7/B',
    'Fmaj7',
    'D7/F#',
    'Bb',
  ];
  const chords = chordsOf(Array.from({ length: 16 }, () => pick(symbols)).join(' '), 1920);
  const scale = [0, 2, 4, 5, 7, 9, 11];
  const low = (chord: Chord): number => 36 + pitchClassOf(chord.bass ?? chord.root);
  const notes = chords.flatMap(({ start, chord }, index) => {
    const tones = chord!.tones.map((tone) => pitchClassOf(chord!.root + intervalOf(tone)));
    const next = chords[index + 1]?.chord ?? chord!;
    const basses = {
      held: [[0, 1920, low(chord!)]],
      bouncing: [0, 960].flatMap((at) => [
        [at, 700, at === 0 ? low(chord!) : 36 + modulo(pitchClassOf(chord!.root) + 7, 12)],
        [at + 720, 240, low(chord!)],
      ]),
      walking: [0, 480, 960, 1440].map((at) => [
        at,
        440,
        at === 0 ? low(chord!) : at === 1440 ? low(next) + pick([-1, 1, 2]) : 36 + pick(tones),
      ]),
    }[kind];
    const comping = pick([
      [0, 960],
      [0, 720, 1440],
      [0, 480, 960, 1440],
    ]).flatMap((at) => tones.map((tone) => [at, 400, 55 + modulo(tone - 7, 12)]));
    const tune = [0, 480, 960, 1440].flatMap((at) => [
      [at, 240, 67 + modulo(pick(tones) - 7, 12)],
      [at + 240, 240, 67 + modulo(pick(scale) - 7, 12)],
    ]);
    return [...basses, ...comping, ...tune].map(([at, duration, pitch]) => ({
      start: start + at!,
      duration: duration!,
      pitch: pitch!,
    }));
  });
  return { chords: [...chords], notes: notes.sort((a, b) => a.start - b.start) };
}

describe('inferring chords', () => {
  it('finds at least 97 % of the beats of clean voiced progressions with passing notes', () => {
    const total = { right: 0, all: 0 };
    for (let seed = 1; seed <= 60; seed++) {
      const { chords, notes, ground } = sample(seed);
      const { right, all } = share(
        inferChords(notes, ground, ground.metre, 8 * barTicks(ground.metre)),
        chords,
        ground,
        8,
      );
      total.right += right;
      total.all += all;
    }
    expect(total.right / total.all).toBeGreaterThanOrEqual(0.97);
  });

  it('finds at least 95 % in songs of its own, from all pitched parts', () => {
    const total = { right: 0, all: 0 };
    for (let seed = 1; seed <= 24; seed++) {
      const { score, takes } = scoreWith(seed, 0, { tonic: tonicsFor('major')[seed % 12]! });
      for (const section of score.sections) {
        const notes = score.parts
          .filter(({ role }) => role !== 'drums')
          .flatMap(({ id }) => writtenNotes(musicOf(score, takes), section, id))
          .sort((a, b) => a.start - b.start);
        const { right, all } = share(
          inferChords(notes, score.ground, score.ground.metre, 3840),
          chordsIn(section, takes, NOTHING_HEARD),
          score.ground,
          2,
        );
        total.right += right;
        total.all += all;
      }
    }
    expect(total.right / total.all).toBeGreaterThanOrEqual(0.95);
  });

  it('finds at least 93 % of the roots over basses that walk, bounce or stand on other notes of the chord', () => {
    for (const bass of ['held', 'walking', 'bouncing'] as const) {
      let [right, all] = [0, 0];
      for (let seed = 1; seed <= 24; seed++) {
        const { chords, notes } = band(seed, bass);
        const found = inferChords(notes, { tonic: 0, scale: 'major' }, FOUR, 16 * 1920);
        for (let at = 0; at < 16 * 1920; at += 240) {
          const on = (list: readonly ChordSpan[]) => list.findLast(({ start }) => start <= at)?.chord;
          all++;
          if (pitchClassOf(on(found)?.root ?? 99) === pitchClassOf(on(chords)!.root)) right++;
        }
      }
      expect({ bass, share: right / all >= 0.93 }).toEqual({ bass, share: true });
    }
  });

  it('hears the bass that a chord stands on', () => {
    const chords = chordsOf('C/E F/A G/B C', 1920);
    const notes = chords.flatMap(({ start, duration, chord }) => [
      { start, duration, pitch: 36 + pitchClassOf(chord!.bass ?? chord!.root) },
      ...chord!.tones.map((tone) => ({ start, duration, pitch: 60 + pitchClassOf(chord!.root + intervalOf(tone)) })),
    ]);
    const found = inferChords(notes, { tonic: 0, scale: 'major' }, FOUR, 4 * 1920);
    expect(found.map(({ chord }) => chordSymbol(chord!))).toEqual(['C/E', 'F/A', 'G/B', 'C']);
  });

  it('hears chords that are struck by themselves, each on whatever beat, with rests between, by no exact hand', () => {
    const symbols = fc.array(fc.constantFrom('C', 'Dm', 'Em', 'F', 'G', 'Am', 'E7', 'D'), {
      minLength: 2,
      maxLength: 6,
    });
    const hand = fc.record({
      apart: fc.constantFrom(480, 960, 1440, 1920),
      first: fc.constantFrom(0, 480, 960, 1440),
      held: fc.integer({ min: 200, max: 560 }),
      low: fc.constantFrom(36, 48, 60),
      late: fc.nat(9),
    });
    fc.assert(
      fc.property(symbols, hand, (list, { apart, first, held, low, late }) => {
        const struck = list.filter((symbol, index) => symbol !== list[index - 1]);
        const wanted = chordsOf(struck.join(' '), apart).map(({ start, chord }) => ({ start: start + first, chord }));
        const notes = wanted.flatMap(({ start, chord }) =>
          chord!.tones.map((tone, finger) => ({
            start: start + finger * late,
            duration: held,
            pitch: low + pitchClassOf(chord!.root) + semitonesOf(tone),
          })),
        );
        const found = inferChords(notes, { tonic: 0, scale: 'major' }, FOUR, 8 * 1920);
        expect(found.flatMap(({ chord }) => (chord ? [chordSymbol(chord)] : []))).toEqual(struck);
      }),
    );
  });

  it('covers the stretch without gaps and is silent where nothing sounds', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 500 }), (seed) => {
        const { notes, ground } = sample(seed);
        const length = 8 * barTicks(ground.metre);
        const spans = inferChords(notes, ground, ground.metre, length);
        spans.forEach(({ start, duration }, index) => expect(start + duration).toBe(spans[index + 1]?.start ?? length));
        expect(spans[0]!.start).toBe(0);
      }),
      { numRuns: 20 },
    );
    expect(inferChords([], { tonic: 0, scale: 'major' }, { beats: 4, unit: 4, groups: [2, 2] }, 1920)).toEqual([
      { start: 0, duration: 1920, chord: null },
    ]);
  });
});

describe('inferring the key', () => {
  it('finds nearly all, and has the right one among its first two', () => {
    let first = 0;
    let among = 0;
    const count = 60;
    for (let seed = 1; seed <= count; seed++) {
      const { notes, ground } = sample(seed);
      const guesses = inferKeys(notes);
      if (sameCharacter(guesses[0]!.key, ground)) first++;
      if (guesses.slice(0, 2).some((guess) => sameCharacter(guess.key, ground))) among++;
      expect(guesses.reduce((sum, { confidence }) => sum + confidence, 0)).toBeGreaterThan(85);
    }
    expect(first / count).toBeGreaterThanOrEqual(0.9);
    expect(among / count).toBeGreaterThanOrEqual(0.97);
  });

  it('names the mode that the notes use', () => {
    const line = (steps: readonly number[], tonic: number) =>
      [...steps, 0].map((step, index) => ({ start: index * 480, duration: 480, pitch: 60 + tonic + step }));
    const scaleOfBest = (steps: readonly number[]) =>
      inferKeys([
        ...line(steps, 2),
        ...line([0, 0, 7, 0], 2).map((note) => ({ ...note, pitch: note.pitch - 24, duration: 1920 })),
      ])[0]!.key.scale;
    expect(scaleOfBest([0, 2, 3, 5, 7, 9, 10, 7, 3])).toBe('dorian');
    expect(scaleOfBest([0, 2, 4, 5, 7, 9, 10, 7, 4])).toBe('mixolydian');
  });
});
