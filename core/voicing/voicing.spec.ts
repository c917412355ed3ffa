import * as fc from 'fast-check';
import { chordMask, makeChord, type Chord } from '../theory/chord';
import { inMask, pitchClassOf, semitonesOf } from '../theory/pitch';
import { readChord } from '../theory/read-chord';
import { isDeadEnd } from '../trellis/trellis';
import { PLAIN_CHORDS } from '../song/briefs';
import { SPREADS, VOICING_FAMILIES } from '../song/schema';
import { wishFor } from './chord-line';
import { rangesFor } from './ensemble';
import { fingersFor, guitarShapes, isPlayable, OPEN_STRINGS, shapeOfPitches } from './guitar';
import type { Voicing } from './types';
import {
  averageMotion,
  leadingWeight,
  motionBetween,
  rootPositions,
  voiceChords,
  voicingsOf,
  voicingTrellis,
  type ChordToVoice,
  type VoicingWish,
} from './voicing';

const WISH: VoicingWish = { low: 50, high: 76, voices: 4, centre: 62 };
const QUALITIES = ['1 3 5', '1 b3 5', '1 3 5 b7', '1 b3 5 b7', '1 3 5 7', '1 b3 b5 bb7', '1 4 5', '1 3 5 b7 9'].map(
  (text) => text.split(' '),
);
const chord = () =>
  fc
    .tuple(fc.integer({ min: -5, max: 6 }), fc.constantFrom(...QUALITIES))
    .map(([root, tones]) => makeChord(root, tones));
const rows = (maxLength = 3): fc.Arbitrary<ChordToVoice[]> =>
  fc.array(
    chord().map((one) => ({ chord: one })),
    { minLength: 2, maxLength },
  );
const read = (text: string): Chord => {
  const reading = readChord(text);
  if (!reading.ok || !reading.chord) throw new Error(text);
  return reading.chord;
};
const voiced = (chords: readonly ChordToVoice[], wish: VoicingWish): Voicing[] => {
  const result = voiceChords(chords, wish);
  if (isDeadEnd(result)) throw new Error(`dead end at ${result.deadEnd}`);
  return result;
};

/** Total weight of one choice of voicings. */
function weigh(
  choice: readonly number[],
  candidates: readonly (readonly Voicing[])[],
  layers: readonly Int32Array[],
): number {
  return choice.reduce((total, place, index) => {
    const before =
      index === 0
        ? 0
        : Math.round(leadingWeight(candidates[index - 1]![choice[index - 1]!]!, candidates[index]![place]!));
    return total + layers[index]![place]! + before;
  }, 0);
}

describe('voicing', () => {
  it('sounds only notes of the chord, in range, rising', () => {
    fc.assert(
      fc.property(rows(), (row) => {
        voiced(row, WISH).forEach((voicing, index) => {
          for (const pitch of voicing) {
            expect(inMask(chordMask(row[index]!.chord), pitch)).toBe(true);
            expect(pitch).toBeGreaterThanOrEqual(WISH.low);
            expect(pitch).toBeLessThanOrEqual(WISH.high);
          }
          expect([...voicing].sort((a, b) => a - b)).toEqual(voicing);
          expect(voicing.length).toBeGreaterThanOrEqual(3);
        });
      }),
    );
  });

  it('finds the optimum that enumerating every choice finds, for every family', () => {
    fc.assert(
      fc.property(rows(3), fc.constantFrom(...VOICING_FAMILIES), (row, family) => {
        // Small enough to enumerate: the first dozen layouts of each chord.
        const wish = { ...wishFor({ ...PLAIN_CHORDS, family }), high: 70 };
        const candidates = row.map((one) => voicingsOf(one, wish).slice(0, 12));
        const chords = row.map((one) => one.chord);
        const { layers } = voicingTrellis(chords, candidates, wish);
        let choices: number[][] = [[]];
        for (const options of candidates)
          choices = choices.flatMap((left) => options.map((_, place) => [...left, place]));
        const best = Math.max(...choices.map((choice) => weigh(choice, candidates, layers)));
        const fixed = row.map((one, index) => ({ ...one, options: candidates[index]! }));
        const path = voiceChords(fixed, wish);
        if (isDeadEnd(path)) throw new Error('dead end');
        // The path over all layouts can only be better than the best over the first dozen.
        const all = row.map((one) => voicingsOf(one, wish));
        const places = path.map((voicing, index) =>
          all[index]!.findIndex((option) => option.join() === voicing.join()),
        );
        expect(weigh(places, all, voicingTrellis(chords, all, wish).layers)).toBeGreaterThanOrEqual(best);
        if (all.every((options) => options.length <= 12))
          expect(weigh(places, all, voicingTrellis(chords, all, wish).layers)).toBe(best);
      }),
      { numRuns: 60 },
    );
  });

  it('assigns voices as well as the best of all assignments', () => {
    const permutations = (values: readonly number[]): number[][] =>
      values.length === 0
        ? [[]]
        : values.flatMap((value, index) =>
            permutations([...values.slice(0, index), ...values.slice(index + 1)]).map((rest) => [value, ...rest]),
          );
    const pitches = fc
      .uniqueArray(fc.integer({ min: 48, max: 80 }), { minLength: 4, maxLength: 4 })
      .map((list) => list.sort((a, b) => a - b));
    fc.assert(
      fc.property(pitches, pitches, (a, b) => {
        expect(motionBetween(a, b)).toBe(
          Math.min(
            ...permutations(b).map((order) =>
              a.reduce((sum, pitch, index) => sum + Math.abs(pitch - order[index]!), 0),
            ),
          ),
        );
      }),
    );
  });

  it('moves each voice two semitones at most on average in four-part loops, and at most half as far as root positions', () => {
    const loops = [
      'C Am F G',
      'Am F C G',
      'Dm7 G7 Cmaj7 Am7',
      'C G Am Em F C F G',
      'Em C G D',
      'Fmaj7 Em7 Dm7 Cmaj7',
      'Cm Ab Eb Bb',
      'F#m D A E',
      'Bb Gm Eb F',
      'Am Dm G C F Bdim E Am',
    ];
    for (const family of ['keyboard', 'ensemble'] as const) {
      const [smooth, plain] = [true, false].map((leads) =>
        loops.map((loop) => {
          const chords = [...loop.split(' '), loop.split(' ')[0]!].map((text) => ({ chord: read(text) }));
          const wish = wishFor({ ...PLAIN_CHORDS, family });
          return averageMotion(leads ? voiced(chords, wish) : rootPositions(chords, wishFor(PLAIN_CHORDS)));
        }),
      );
      const mean = (values: number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;
      expect(mean(smooth!)).toBeLessThanOrEqual(2);
      expect(mean(smooth!)).toBeLessThanOrEqual(mean(plain!) / 2);
    }
  });

  it('keeps inversions, bass notes and nudged voices that the writer has set', () => {
    fc.assert(
      fc.property(rows(4), fc.nat(3), fc.nat(2), fc.constantFrom(...SPREADS), (row, at, inversion, spread) => {
        const place = at % row.length;
        const set = row.map((one, index) => (index === place ? { ...one, voicing: { inversion, spread } } : one));
        const lowest = voiced(set, WISH)[place]![0]!;
        const target = row[place]!.chord;
        expect(lowest % 12).toBe((pitchClassOf(target.root) + semitonesOf(target.tones[inversion]!)) % 12);
      }),
      { numRuns: 60 },
    );
    const slash = voiced(
      [{ chord: read('C') }, { chord: read('D/F#') }],
      wishFor({ ...PLAIN_CHORDS, bass: 'as it comes' }),
    );
    expect(slash[1]![0]! % 12).toBe(6);
    expect(
      voiced([{ chord: read('C') }, { chord: read('D/F#') }], wishFor({ ...PLAIN_CHORDS, bass: 'added' })).map(
        (voicing) => voicing[0]! % 12,
      ),
    ).toEqual([0, 6]);
    expect(voiced([{ chord: read('C'), voicing: { pitches: [48, 64, 67] } }], WISH)).toEqual([[48, 64, 67]]);
  });
});

describe('guitar shapes', () => {
  it('know what every guitarist knows', () => {
    const shapes = (text: string): string[] =>
      guitarShapes(read(text), pitchClassOf(read(text).bass ?? read(text).root)).map(({ frets }) =>
        frets.map((fret) => fret ?? 'x').join(' '),
      );
    expect(shapes('C')).toContain('x 3 2 0 1 0');
    expect(shapes('G')).toContain('3 2 0 0 0 3');
    expect(shapes('F')).toContain('1 3 3 2 1 1');
    expect(shapes('Bm')).toContain('x 2 4 4 3 2');
    expect(shapes('D/F#')).toContain('2 0 0 2 3 2');
  });

  it('can be held and struck, and miss no note that matters', () => {
    fc.assert(
      fc.property(chord(), (one) => {
        const shapes = guitarShapes(one, pitchClassOf(one.root));
        expect(shapes.length).toBeGreaterThan(0);
        for (const { frets, pitches } of shapes) {
          expect(isPlayable(frets)).toBe(true);
          expect(fingersFor(frets)).toBeLessThanOrEqual(4);
          const pressed = frets.filter((fret): fret is number => fret !== null && fret > 0);
          if (pressed.length > 0) expect(Math.max(...pressed) - Math.min(...pressed)).toBeLessThan(4);
          expect(pitches).toEqual(
            frets.flatMap((fret, string) => (fret === null ? [] : [OPEN_STRINGS[string]! + fret])),
          );
          for (const tone of one.tones.filter((label) => /3|4|7/.test(label)))
            expect(pitches.map((pitch) => pitch % 12)).toContain((pitchClassOf(one.root) + semitonesOf(tone)) % 12);
        }
      }),
      { numRuns: 40 },
    );
  });

  it('are found again by their pitches', () => {
    const shape = guitarShapes(read('Am'), 9)[0]!;
    expect(shapeOfPitches(read('Am'), shape.pitches)?.frets).toEqual(shape.frets);
    expect(shapeOfPitches(read('Am'), [57, 58, 59])).toBeNull();
  });

  it('count a barre as one finger', () => {
    expect(fingersFor([1, 3, 3, 2, 1, 1])).toBe(4);
    expect(fingersFor([null, 3, 2, 0, 1, 0])).toBe(3);
    expect(isPlayable([null, null, 2, 2, null, 2])).toBe(false);
    expect(isPlayable([1, null, null, null, 5, 5])).toBe(false);
  });
});

describe('ensembles', () => {
  it('keep every voice in its range and never cross', () => {
    fc.assert(
      fc.property(rows(3), (row) => {
        for (const voicing of voiced(row, wishFor({ ...PLAIN_CHORDS, family: 'ensemble' }))) {
          expect(voicing).toHaveLength(4);
          voicing.forEach((pitch, voice) => {
            const [low, high] = rangesFor(4)[voice]!;
            expect(pitch).toBeGreaterThanOrEqual(low);
            expect(pitch).toBeLessThanOrEqual(high);
            if (voice > 0) expect(pitch).toBeGreaterThan(voicing[voice - 1]!);
          });
        }
      }),
      { numRuns: 30 },
    );
  });
});
