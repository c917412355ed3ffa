import * as fc from 'fast-check';
import type { Chain, Note, Treatment } from '../song/schema';
import { chainSchema } from '../song/schema';
import { chains, treatments } from '../testing/chains';
import { chordsOf } from '../testing/chords';
import { rounds } from '../testing/rounds';
import { chordMask } from '../theory/chord';
import { keyMask } from '../theory/key';
import { inMask } from '../theory/pitch';
import { MOST_SOUNDING, throughChain } from './chain';
import { FIRST, TREATMENTS } from './first-treatment';
import type { Treating } from './treating';

const BAR = 1920;
const spans = chordsOf('Dm7 G7/B C F#dim', BAR);
const key = { tonic: 0, scale: 'major' };
const over: Treating = { chords: spans, key, length: spans.length * BAR, bar: BAR, pass: 0, seed: 7 };
const END = over.length;

const note: fc.Arbitrary<Note> = fc.record({
  start: fc.integer({ min: -BAR, max: END - 1 }),
  duration: fc.integer({ min: 1, max: 3 * BAR }),
  pitch: fc.integer({ min: 0, max: 127 }),
  velocity: fc.integer({ min: 1, max: 127 }),
});
/** Notes as a take has them: in order, none over the next of its pitch. */
const lines = fc
  .array(note, { maxLength: 24 })
  .map((list) => throughChain(list, [[{ ...FIRST.transpose, by: 0 }]], over));

const at = (start: number, pitch: number, duration = 480, velocity = 80): Note => ({
  start,
  duration,
  pitch,
  velocity,
});
const one = (treatment: Treatment, notes: readonly Note[], where = over): readonly Note[] =>
  throughChain(notes, [[treatment]], where);
const told = (notes: readonly Note[]) => notes.map(({ start, pitch }) => [start, pitch]);

describe('a chain', () => {
  it('gives notes in order, in range and in the section, each of which ends before its pitch begins again', () => {
    fc.assert(
      fc.property(lines, chains, fc.nat({ max: 3 }), (notes, chain, pass) => {
        const made = throughChain(notes, chainSchema.parse(chain), { ...over, pass });
        const ends = new Map<number, number>();
        let before = Number.NEGATIVE_INFINITY;
        for (const { start, duration, pitch, velocity } of made) {
          expect(start).toBeGreaterThanOrEqual(Math.max(-BAR, before));
          expect(start).toBeLessThan(END);
          expect(duration).toBeGreaterThan(0);
          expect(start + duration).toBeLessThanOrEqual(END + BAR);
          expect(start).toBeGreaterThanOrEqual(ends.get(pitch) ?? start);
          expect(pitch >= 0 && pitch <= 127 && velocity >= 1 && velocity <= 127).toBe(true);
          expect([start, duration, pitch, velocity].every(Number.isInteger)).toBe(true);
          ends.set(pitch, start + duration);
          before = start;
        }
        expect(throughChain(notes, chain, { ...over, pass })).toEqual(made);
      }),
      { numRuns: rounds(300) },
    );
  });

  it('strikes nothing again after the section, where files and play would go different ways', () => {
    const rolled: Note = { ...at(END - 240, 60, 960), strikes: 5 };
    expect(one({ ...FIRST.transpose, by: 0 }, [rolled])).toEqual([{ ...rolled, duration: 240 }]);
    const ringing = at(END - 240, 60, 960);
    expect(one({ ...FIRST.transpose, by: 0 }, [ringing])).toEqual([ringing]);
  });

  it('never sounds more than can be played, however treatments multiply each other', () => {
    const much: Treatment[] = [
      { ...FIRST.stack, steps: [1, 2, 3, 4] },
      { ...FIRST.echo, times: 8, gap: 40, fade: 1 },
      { ...FIRST.humanise, amount: 100 },
      { ...FIRST.echo, times: 8, gap: 60, fade: 1 },
    ];
    const notes = Array.from({ length: 60 }, (_, index) => at(index * 128, 40 + index));
    const made = throughChain(notes, [much], over);
    expect(made.length).toBeLessThanOrEqual(MOST_SOUNDING);
    expect(made.length).toBeGreaterThan(1000);
  });

  it('sounds its branches together, each from the notes as they are written', () => {
    const chain: Chain = [[], [FIRST.octave, { ...FIRST.transpose, by: 5 }]];
    expect(told(throughChain([at(0, 60)], chain, over))).toEqual([
      [0, 60],
      [0, 77],
    ]);
  });

  it('passes by what is struck out, and notes that a treatment is not for', () => {
    const notes = [at(0, 50, 480, 40), at(480, 70, 480, 100)];
    expect(one({ ...FIRST.octave, off: true }, notes)).toEqual(notes);
    const high: Treatment = { ...FIRST.octave, only: { by: 'pitch', low: 60, high: 127 } };
    expect(told(one(high, notes))).toEqual([
      [0, 50],
      [480, 82],
    ]);
    const soft: Treatment = { ...FIRST.octave, only: { by: 'loudness', low: 1, high: 60 } };
    expect(told(one(soft, notes))).toEqual([
      [0, 62],
      [480, 70],
    ]);
  });

  it('leaves what is written where nothing is treated', () => {
    fc.assert(
      fc.property(lines, (notes) => {
        const inside = notes.filter(({ start, duration }) => start + duration <= END + BAR);
        for (const treatment of [
          { ...FIRST.transpose, by: 0 },
          { ...FIRST.thin, chance: 100 },
          { ...FIRST.stray, chance: 0 },
          { ...FIRST.humanise, amount: 0 },
          { ...FIRST.time, times: 1 },
        ])
          expect(one(treatment, inside)).toEqual(inside);
      }),
      { numRuns: rounds(60) },
    );
  });

  it('undoes what has a way back: so far up and down, backwards and upside down twice', () => {
    fc.assert(
      fc.property(lines, fc.integer({ min: -24, max: 24 }), (notes, by) => {
        const inside = notes.filter(
          ({ start, duration, pitch }) => start >= 0 && start + duration <= END && pitch >= 24 && pitch <= 100,
        );
        const twice = (first: Treatment, second = first) => throughChain(inside, [[first, second]], over);
        expect(twice({ ...FIRST.transpose, by }, { ...FIRST.transpose, by: -by })).toEqual(inside);
        expect(twice(FIRST.reverse)).toEqual(inside);
        const halved = throughChain(inside, [[{ ...FIRST.time, times: 2 }]], { ...over, length: 2 * END });
        expect(throughChain(halved, [[{ ...FIRST.time, times: 1, over: 2 }]], { ...over, length: 2 * END }))
          // Twice as fast, what there is comes round again.
          .toEqual(expect.arrayContaining(inside));
        const snapped = one(FIRST.snap, inside);
        expect(one(FIRST.snap, snapped)).toEqual(snapped);
      }),
      { numRuns: rounds(100) },
    );
    const line = [at(0, 60), at(480, 64), at(960, 67)];
    const upside: Treatment = { does: 'invert', around: 'first', of: 'semitones' };
    expect(told(one(upside, line))).toEqual([
      [0, 60],
      [480, 56],
      [960, 53],
    ]);
    expect(throughChain(line, [[upside, upside]], over)).toEqual(line);
  });
});

describe('a held note', () => {
  it('becomes a melody by five treatments in two branches, and is calmed by half time', () => {
    const held = [at(0, 62, END)];
    const lively: Treatment = { ...FIRST.stray, chance: 70, of: 'chord', up: 2, down: 1 };
    const branches: Chain = [
      [{ ...FIRST.arpeggiate, rate: 240, further: 0 }, lively, { ...FIRST.thin, chance: 75 }],
      [FIRST.octave, { ...FIRST.arpeggiate, rate: 960, further: 0 }],
    ];
    const melody = throughChain(held, branches, over);
    expect(new Set(melody.map(({ pitch }) => pitch)).size).toBeGreaterThan(4);
    expect(melody.length).toBeGreaterThan(20);
    const calmed = throughChain(
      held,
      branches.map((branch) => [...branch, FIRST.time]),
      over,
    );
    expect(calmed.length).toBeLessThan(0.6 * melody.length);
    // What is left is the first half, at half its pace.
    const early = melody.filter(({ start }) => start < END / 2);
    expect(told(calmed)).toEqual(told(early.map((one) => ({ ...one, start: 2 * one.start }))));
  });
});

describe('treatments', () => {
  it('arpeggiate what is struck together, as long as it lasts, up through octaves and by chance', () => {
    const chord = [60, 64, 67].map((pitch) => at(0, pitch, 960));
    const up = one({ ...FIRST.arpeggiate, further: 0, rate: 240 }, chord);
    expect(told(up)).toEqual([
      [0, 60],
      [240, 64],
      [480, 67],
      [720, 60],
    ]);
    expect(one({ ...FIRST.arpeggiate, further: 1, repeats: 2 }, [at(0, 60, 960)]).map(({ pitch }) => pitch)).toEqual([
      60, 60, 72, 72,
    ]);
    expect(one({ ...FIRST.arpeggiate, order: 'to and fro', further: 0 }, chord).map(({ pitch }) => pitch)).toEqual([
      60, 64, 67, 64,
    ]);
    const drawn = (pass: number) =>
      one({ ...FIRST.arpeggiate, order: 'by chance', rate: 60 }, chord, { ...over, pass }).map(({ pitch }) => pitch);
    expect(drawn(1)).toEqual(drawn(1));
    expect(drawn(1)).not.toEqual(drawn(2));
  });

  it('strum and hold to the next without moving where notes end', () => {
    const chord = [60, 64, 67].map((pitch) => at(0, pitch, 480));
    const strummed = one({ ...FIRST.strum, spread: 60 }, chord);
    expect(told(strummed)).toEqual([
      [0, 60],
      [30, 64],
      [60, 67],
    ]);
    expect(strummed.map(({ start, duration }) => start + duration)).toEqual([480, 480, 480]);
    expect(one(FIRST.legato, [at(0, 60, 100), at(960, 62, 100)]).map(({ duration }) => duration)).toEqual([
      960,
      END - 960,
    ]);
  });

  it('echo softer and softer, go at half and double time, and keep one voice', () => {
    const echoed = one({ ...FIRST.echo, times: 2, gap: 480, fade: 50 }, [at(0, 60, 240, 80)]);
    expect(echoed.map(({ start, velocity }) => [start, velocity])).toEqual([
      [0, 80],
      [480, 40],
      [960, 20],
    ]);
    const bent: Note = { ...at(480, 60), bend: [{ at: 240, value: 100 }] };
    expect(one(FIRST.time, [bent])).toEqual([{ ...at(960, 60, 960), bend: [{ at: 480, value: 100 }] }]);
    const doubled = one({ ...FIRST.time, times: 1, over: 2 }, [at(0, 60)]);
    expect(told(doubled)).toEqual([
      [0, 60],
      [END / 2, 60],
    ]);
    const chord = [60, 64, 67].map((pitch) => at(0, pitch));
    expect(
      (['lowest', 'middle', 'highest'] as const).map((which) => told(one({ does: 'voice', which }, chord))),
    ).toEqual([[[0, 60]], [[0, 64]], [[0, 67]]]);
  });

  it('add steps of chord and scale, and snap to them', () => {
    expect(told(one({ ...FIRST.stack, steps: [2, 4] }, [at(0, 62)]))).toEqual([
      [0, 62],
      [0, 65],
      [0, 69],
    ]);
    fc.assert(
      fc.property(lines, (notes) => {
        for (const { start, pitch } of one(FIRST.snap, notes)) {
          const chord = spans.find((span) => span.start <= start && start < span.start + span.duration)?.chord;
          expect(inMask(chord ? chordMask(chord) : keyMask(key), pitch)).toBe(true);
        }
        for (const { pitch } of one({ ...FIRST.snap, to: 'scale' }, notes))
          expect(inMask(keyMask(key), pitch)).toBe(true);
      }),
      { numRuns: rounds(60) },
    );
  });

  it('never happen at 0 %, always at 100 %, and hit their rates between (chi-square)', () => {
    const many = Array.from({ length: 128 }, (_, index) => at(index * 60, 60, 50));
    const stays = (chance: number): number => {
      let count = 0;
      for (let pass = 0; pass < 40; pass++) count += one({ ...FIRST.thin, chance }, many, { ...over, pass }).length;
      return count;
    };
    const all = 40 * many.length;
    expect([stays(0), stays(100)]).toEqual([0, all]);
    for (const chance of [10, 35, 70]) {
      const [hit, wanted] = [stays(chance), (all * chance) / 100];
      const square = (hit - wanted) ** 2 / wanted + (hit - wanted) ** 2 / (all - wanted);
      // One degree of freedom: beyond 10.83 in one of a thousand.
      expect(square).toBeLessThan(10.83);
    }
    const strays = { ...FIRST.stray, chance: 100, of: 'semitones', up: 1, down: 2 } as const;
    const counts = new Map<number, number>();
    for (let pass = 0; pass < 40; pass++)
      for (const { pitch } of one(strays, many, { ...over, pass })) counts.set(pitch, (counts.get(pitch) ?? 0) + 1);
    expect([...counts.keys()].sort()).toEqual([58, 59, 61]);
    const square = [...counts.values()].reduce((total, count) => total + (count - all / 3) ** 2 / (all / 3), 0);
    expect(square).toBeLessThan(13.82);
  });

  it('are drawn anew from pass to pass, the same whenever the same pass is played, and otherwise in another part', () => {
    fc.assert(
      fc.property(treatments, fc.nat({ max: 9 }), (treatment, pass) => {
        const notes = [at(0, 60), at(480, 64), at(960, 67)];
        expect(one(treatment, notes, { ...over, pass })).toEqual(one(treatment, notes, { ...over, pass }));
      }),
    );
    const many = Array.from({ length: 64 }, (_, index) => at(index * 120, 60));
    const thin = { ...FIRST.thin, chance: 50 };
    expect(one(thin, many)).not.toEqual(one(thin, many, { ...over, pass: 1 }));
    expect(one(thin, many)).not.toEqual(one(thin, many, { ...over, seed: 8 }));
  });

  it('each begin with what can be heard', () => {
    const chord = [60, 64, 68].flatMap((pitch) => [at(0, pitch, 960), at(1920, pitch + 3, 960)]);
    for (const does of TREATMENTS)
      expect(one(FIRST[does], chord)).not.toEqual([...chord].sort((a, b) => a.start - b.start));
  });
});
