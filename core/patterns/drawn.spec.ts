import * as fc from 'fast-check';
import { chordMask } from '../theory/chord';
import { keyMask } from '../theory/key';
import { inMask, pitchClassOf } from '../theory/pitch';
import { drawnPatternSchema, STRIPS, type DrawnPattern, type Part } from '../song/schema';
import { chordsOf } from '../testing/chords';
import { drawnPatterns } from '../testing/patterns';
import { rounds } from '../testing/rounds';
import { scoreWith } from '../testing/scores';
import { drawnNotes } from './drawn';
import type { Over } from './over';
import { rolled } from './dice';
import { firstPattern } from './first-pattern';

const BAR = 1920;
const ground = { tonic: 0, scale: 'major' };

const over = (progression: string, pass = 0): Over => {
  const spans = chordsOf(progression, BAR);
  return { chords: spans, ground, bar: BAR, length: spans.length * BAR, pass };
};

const { score } = scoreWith(1, 0);
const bass = score.parts.find(({ role }) => role === 'bass')!;
const melody = score.parts.find(({ role }) => role === 'melody')!;

type Drawn = Partial<Record<(typeof STRIPS)[number], readonly number[]>>;
/** The pattern that a part starts from, with some of its strips drawn otherwise. */
function pattern(part: Part, drawn: Drawn, change: Partial<DrawnPattern> = {}): DrawnPattern {
  const first = firstPattern(part, 5);
  const strips = { ...first.strips };
  for (const name of STRIPS) {
    const values = drawn[name];
    if (values) strips[name] = { ...strips[name], values };
  }
  return drawnPatternSchema.parse({ ...first, strips, ...change });
}

const bars = fc.integer({ min: 1, max: 5 });
const progression = 'Dm7 G7/B C F#dim E7 Am'.split(' ');
describe('a drawn pattern', () => {
  it('gives the same notes in the same pass, and goes on from pass to pass as in one section that is longer', () => {
    fc.assert(
      fc.property(drawnPatterns, bars, fc.nat({ max: 3 }), (one, length, pass) => {
        // Without chords, notes have no reason to end at the seam.
        const long = { chords: [], ground, bar: BAR, length: 2 * length * BAR, pass };
        const half = (which: 0 | 1) => ({ ...long, length: length * BAR, pass: 2 * pass + which });
        const whole = drawnNotes(one, long);
        expect(drawnNotes(one, long)).toEqual(whole);
        const starts = [0, 1].flatMap((which) =>
          drawnNotes(one, half(which as 0 | 1)).map(({ start, velocity }) => [start + which * length * BAR, velocity]),
        );
        // A tie over the seam has nothing to hold on to in the second half.
        const tied = one.ties.length > 0;
        if (!tied) expect(starts).toEqual(whole.map(({ start, velocity }) => [start, velocity]));
      }),
      { numRuns: rounds(200) },
    );
  });

  it('plays notes of what its degrees are of, whatever the chords do', () => {
    fc.assert(
      fc.property(drawnPatterns, fc.nat({ max: 5 }), (one, pass) => {
        const where = over(progression.join(' '), pass);
        for (const { start, pitch } of drawnNotes(one, where)) {
          const { chord } = where.chords.find((span) => start >= span.start && start < span.start + span.duration)!;
          if (one.degrees === 'root') expect(pitch % 12).toBe(pitchClassOf(chord!.bass ?? chord!.root));
          if (one.degrees === 'chord') expect(inMask(chordMask({ ...chord!, bass: null }), pitch)).toBe(true);
          if (one.degrees === 'scale') expect(inMask(keyMask(ground), pitch)).toBe(true);
          if (one.degrees === 'steps')
            expect(inMask(keyMask(ground), pitch) || pitch % 12 === pitchClassOf(chord!.root)).toBe(true);
        }
      }),
      { numRuns: rounds(200) },
    );
  });

  it('plays a bassline on roots from four steps with a tie, and strikes anew where a chord changes under it', () => {
    const notes = drawnNotes(pattern(bass, { degree: [0, 0, 1, 0], length: [100] }, { ties: [1] }), over('C G'));
    expect(notes.slice(0, 4).map(({ start, duration }) => [start, duration])).toEqual([
      [0, 480],
      [480, 240],
      [720, 240],
      [960, 480],
    ]);
    const [first, high, third] = notes.map(({ pitch }) => pitch);
    expect(high! - first!).toBe(12);
    expect(third).toBe(first);
    const half = pattern(bass, { degree: [0, 0], length: [100] }, { rate: 1920, ties: [1] });
    expect(drawnNotes(half, over('C G')).map(({ start, duration, pitch }) => [start, duration, pitch % 12])).toEqual([
      [0, 1920, 0],
      [1920, 1920, 7],
    ]);
    // Over the same chord, or one with the same root, the note is held on.
    expect(drawnNotes(half, over('C Cm7')).map(({ start, duration }) => [start, duration])).toEqual([[0, 3840]]);
  });

  it('lets a note that only rings on end with its chord', () => {
    const ringing = pattern(melody, { degree: [0], length: [400] }, { rate: 1920, restart: 2 });
    const [first, second] = drawnNotes(ringing, over('C Dm'));
    expect([first!.duration, second!.start, second!.pitch % 12]).toEqual([1920, 1920, 2]);
  });

  it('runs strips of different lengths against each other, and starts anew when told to', () => {
    const free = pattern(melody, { degree: [0, 1, 2], loudness: [100, 60] });
    const heard = (one: DrawnPattern, pass = 0) =>
      drawnNotes(one, over('C C', pass)).map(({ pitch, velocity }) => `${pitch} ${velocity}`);
    const [six, rest] = [heard(free).slice(0, 6), heard(free).slice(6, 12)];
    expect(new Set(six).size).toBe(6);
    expect(rest).toEqual(six);
    // Sixteen steps are no multiple of six: the second pass begins elsewhere, unless it starts anew.
    expect(heard(free, 1)).not.toEqual(heard(free));
    const anew = { ...free, restart: 1 };
    expect(heard(anew, 1)).toEqual(heard(anew));
    expect(heard(anew).slice(8)).toEqual(heard(anew).slice(0, 8));
  });

  it('goes forward, back, to and fro, or by chance', () => {
    const order = (direction: DrawnPattern['direction']) =>
      drawnNotes(pattern(melody, { degree: [0], loudness: [10, 20, 30] }, { direction }), over('C')).map(
        ({ velocity }) => velocity,
      );
    expect(order('forward')).toEqual([10, 20, 30, 10, 20, 30, 10, 20]);
    expect(order('back')).toEqual([30, 20, 10, 30, 20, 10, 30, 20]);
    expect(order('to and fro')).toEqual([10, 20, 30, 20, 10, 20, 30, 20]);
    expect(new Set(order('by chance')).size).toBeGreaterThan(1);
  });

  it('slides in from the note before, strikes again and swings', () => {
    const one = pattern(melody, { degree: [0, 1], slide: [0, 50], strikes: [1, 3] }, { swing: 100 });
    const [first, second] = drawnNotes(one, over('C'));
    expect(first!.bend).toBeUndefined();
    expect(second!.bend).toEqual([
      { at: 0, value: 100 * (first!.pitch - second!.pitch) },
      { at: 120, value: 0 },
    ]);
    expect([first!.strikes, second!.strikes, second!.start]).toEqual([undefined, 3, 320]);
  });
});

/** Beyond 10.8 once in a thousand, with one degree of freedom. */
const chiSquare = (hit: number, wanted: number, all: number): number =>
  (hit - wanted) ** 2 / wanted + (hit - wanted) ** 2 / (all - wanted);

/** All notes of many passes. */
const many = (one: DrawnPattern) => Array.from({ length: 250 }, (_, pass) => drawnNotes(one, over('C', pass))).flat();

describe('chance in a drawn pattern', () => {
  it('never strikes at 0 %, always at 100 %, and as often as it says else', () => {
    const hits = (likelihood: number): number => many(pattern(melody, { likelihood: [likelihood] })).length;
    expect([hits(0), hits(100)]).toEqual([0, 2000]);
    for (const likelihood of [10, 50, 80])
      expect(chiSquare(hits(likelihood), 20 * likelihood, 2000)).toBeLessThan(10.8);
  });

  it('takes one of several notes as often as their shares say', () => {
    const others = [
      { step: 0, value: 1, share: 30 },
      { step: 0, value: 2, share: 20 },
    ];
    const notes = many(pattern(melody, { degree: [0] }, { others }));
    for (const [tone, share] of [
      [0, 50],
      [4, 30],
      [7, 20],
    ] as const)
      expect(chiSquare(notes.filter(({ pitch }) => pitch % 12 === tone).length, 20 * share, 2000)).toBeLessThan(10.8);
  });

  it('draws strips inside their ranges, and neither held steps nor held strips', () => {
    fc.assert(
      fc.property(drawnPatterns, fc.nat({ max: 9 }), (one, turn) => {
        const next = drawnPatternSchema.parse(rolled(one, ground, turn));
        expect(rolled(one, ground, turn)).toEqual(next);
        for (const name of STRIPS) {
          const [before, after] = [one.strips[name], next.strips[name]];
          if (before.still) expect(after).toEqual(before);
          after.values.forEach((value, index) => {
            if (before.held.includes(index)) expect(value).toBe(before.values[index]);
            else if (!before.still) expect(value >= before.low && value <= before.high).toBe(true);
          });
          expect(after.values).toHaveLength(before.values.length);
        }
      }),
      { numRuns: rounds(200) },
    );
  });

  it('takes degrees of the scale as often as the song does', () => {
    const one = pattern(melody, { degree: Array.from({ length: 64 }, () => 0) }, { degrees: 'scale' });
    const wide = { ...one, strips: { ...one.strips, degree: { ...one.strips.degree, low: 0, high: 6 } } };
    const weighted = { scale: 'major', weights: [100, 0, 100, 0, 100, 0, 0] };
    const drawn = Array.from({ length: 30 }, (_, turn) => rolled(wide, weighted, turn).strips.degree.values).flat();
    expect(new Set(drawn)).toEqual(new Set([0, 2, 4]));
  });

  it('draws the pattern anew every so many bars, as it stands in the first of them', () => {
    const one = pattern(melody, { degree: [0, 1, 2] }, { redraw: 2, restart: 1 });
    const inBars = (pass: number): string[] => {
      const notes = drawnNotes(one, over('C C C C', pass));
      return [0, 1, 2, 3].map((bar) =>
        notes
          .filter(({ start }) => Math.floor(start / BAR) === bar)
          .map(({ pitch }) => pitch)
          .join(' '),
      );
    };
    const [first, second, third, fourth] = inBars(0);
    expect(second).toBe(first);
    expect(third).not.toBe(second);
    expect(fourth).toBe(third);
    expect(first).toBe(
      drawnNotes({ ...one, redraw: null }, over('C'))
        .map(({ pitch }) => pitch)
        .join(' '),
    );
    expect(new Set([0, 1, 2, 3].flatMap(inBars)).size).toBeGreaterThan(4);
  });
});
