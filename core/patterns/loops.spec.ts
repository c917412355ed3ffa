import * as fc from 'fast-check';
import { LOOP_COUNT, loopsSchema, type Loop, type Loops } from '../song/schema';
import { chordsOf } from '../testing/chords';
import { loopPatterns } from '../testing/patterns';
import { scoreWith } from '../testing/scores';
import { chordMask } from '../theory/chord';
import { inMask } from '../theory/pitch';
import { firstLoops } from './first-pattern';
import * as edits from './loop-edits';
import { loopNotes, meetAgain, meetings } from './loops';
import type { Over } from './over';

const BAR = 1920;
const melody = scoreWith(1, 0).score.parts.find(({ role }) => role === 'melody')!;
const over = (text: string, pass = 0): Over => {
  const chords = chordsOf(text, BAR);
  return { chords, ground: { tonic: 0, scale: 'major' }, bar: BAR, length: chords.length * BAR, pass };
};
const first = firstLoops(melody, 3);
const eighths = (notes: readonly { readonly start: number }[]) => notes.map(({ start }) => start / 240);

describe('interlocking loops', () => {
  it('of 3, 5 and 7 steps strike at their own lengths and move with the chords', () => {
    const where = over('C Am F G');
    const notes = loopNotes(first, where);
    const expected = [3, 5, 7].flatMap((steps) => Array.from({ length: Math.ceil(32 / steps) }, (_, n) => n * steps));
    expect(new Set(eighths(notes))).toEqual(new Set(expected));
    for (const { start, duration, pitch } of notes) {
      const { chord, start: from, duration: long } = where.chords[Math.floor(start / BAR)]!;
      expect(inMask(chordMask(chord!), pitch)).toBe(true);
      expect(start + duration).toBeLessThanOrEqual(from + long);
    }
  });

  it('run on from pass to pass, or begin anew with the section or with each chord', () => {
    const all = (starts: Loops['starts'], pass: number) => eighths(loopNotes({ ...first, starts }, over('C F', pass)));
    expect(all('never', 1)).not.toEqual(all('never', 0));
    // Their 105 eighths are said: so many passes of 16 eighths bring back the first.
    expect(all('never', 105)).toEqual(all('never', 0));
    expect(all('section', 1)).toEqual(all('section', 0));
    const [before, after] = [
      all('chord', 0).filter((at) => at < 8),
      all('chord', 0)
        .filter((at) => at >= 8)
        .map((at) => at - 8),
    ];
    expect(after).toEqual(before);
  });

  it('begin anew with each note that a hand played, and are silent before the first', () => {
    const played = edits.startedAt(first, [1920, 480, 480]);
    expect(played).toMatchObject({ starts: 'played', moments: [480, 1920] });
    const all = eighths(loopNotes(played, over('C F')));
    expect(Math.min(...all)).toBe(2);
    const after = all.filter((at) => at >= 8).map((at) => at - 8);
    expect(all.filter((at) => at < 8).map((at) => at - 2)).toEqual(after.filter((at) => at < 6));
    expect(edits.startedAt(first, [])).toBe(first);
    expect(
      loopsSchema.safeParse(
        edits.startedAt(
          first,
          Array.from({ length: 999 }, (_, at) => at),
        ),
      ).success,
    ).toBe(true);
  });

  it('say when all of them begin together again, and where two meet', () => {
    expect(meetAgain(first)).toBe(105 * 240);
    const [one, two] = first.loops as [Loop, Loop];
    expect(meetAgain({ loops: [one, { ...two, rate: 320 }] })).toBe(720 * 20);
    expect(meetAgain({ loops: [{ ...one, direction: 'to and fro' }, two] })).toBe(20 * 240);
    expect(meetAgain({ loops: [one, { ...two, direction: 'by chance' }] })).toBeNull();
    expect([...meetings(first, over('C C C C'))].map(([at, loops]) => [at / 240, loops])).toEqual([
      [0, [0, 1, 2]],
      [15, [0, 1]],
      [21, [0, 2]],
      [30, [0, 1]],
    ]);
  });

  it('tie, double or let through one of the notes that meet', () => {
    const at = (meeting: Loops['meeting'], eighth: number) =>
      loopNotes({ ...first, meeting, length: 50, low: 48, high: 90 }, over('C C C C')).filter(
        ({ start }) => start === eighth * 240,
      );
    expect(at('all', 15).map(({ duration }) => duration)).toEqual([120, 120]);
    // The next stroke after 15 eighths comes at 18.
    expect(at('tied', 15).map(({ duration }) => duration)).toEqual([240, 240]);
    expect(at('one', 15)).toHaveLength(1);
    const doubled = at('doubled', 15).map(({ pitch }) => pitch);
    expect(doubled.length).toBe(4);
    expect(new Set(doubled.map((pitch) => pitch % 12)).size).toBe(2);
    const through = Array.from({ length: 12 }, (_, pass) => {
      const notes = loopNotes({ ...first, meeting: 'one', starts: 'section' }, over('C', pass));
      return notes[0]!.pitch;
    });
    expect(new Set(through).size).toBe(3);
  });

  it('strike as often as their chance says, never at 0 %, always at 100 %', () => {
    const hits = (chance: number): number => {
      const loops = first.loops.map((loop, place) => ({ ...loop, chance: place === 0 ? chance : 0 }));
      return Array.from({ length: 200 }, (_, pass) => loopNotes({ ...first, loops }, over('C C C', pass))).flat()
        .length;
    };
    const all = hits(100);
    expect([hits(0), all]).toEqual([0, 1600]);
    for (const chance of [20, 50, 80]) {
      const [hit, wanted] = [hits(chance), (all * chance) / 100];
      expect((hit - wanted) ** 2 / wanted + (hit - wanted) ** 2 / (all - wanted)).toBeLessThan(10.8);
    }
  });

  it('sound at every notch and nowhere else, at their own loudness, where none is left to chance', () => {
    fc.assert(
      fc.property(loopPatterns, fc.nat({ max: 4 }), (pattern, pass) => {
        const certain = pattern.loops.map((loop) => ({ ...loop, chance: 100, direction: 'forward' as const }));
        const one = { ...pattern, loops: certain, starts: 'never' as const, meeting: 'all' as const };
        const where = over('C G', pass);
        const wanted = new Set<number>();
        for (const { steps, notches, rate } of certain)
          for (let count = 0; count * rate < (pass + 1) * where.length; count++)
            if (count * rate >= pass * where.length && notches.some(({ step }) => step === count % steps))
              wanted.add(count * rate - pass * where.length);
        const notes = loopNotes(one, where);
        expect(new Set(notes.map(({ start }) => start))).toEqual(wanted);
        expect(notes.every(({ velocity }) => certain.some(({ loudness }) => loudness === velocity))).toBe(true);
      }),
      { numRuns: 100 },
    );
  });
});

const anEdit: fc.Arbitrary<(pattern: Loops) => Loops> = fc.oneof(
  fc.tuple(fc.nat({ max: 8 }), fc.integer({ min: 1, max: 64 })).map(
    ([place, steps]) =>
      (one: Loops) =>
        edits.withLoop(one, place, { steps }),
  ),
  fc.tuple(fc.nat({ max: 8 }), fc.nat({ max: 12 }), fc.option(fc.integer({ min: -60, max: 60 }))).map(
    ([place, step, degree]) =>
      (one: Loops) =>
        edits.withNotch(one, place, step, degree),
  ),
  fc.constant(edits.withAnotherLoop),
  fc.nat({ max: 8 }).map((place) => (one: Loops) => edits.withoutLoop(one, place)),
);

describe('edits of loops', () => {
  it('make valid loops of valid ones, 2 to 8 of them', () => {
    fc.assert(
      fc.property(loopPatterns, fc.array(anEdit, { maxLength: 12 }), (pattern, list) => {
        const edited = loopsSchema.parse(list.reduce((one, edit) => edit(one), pattern));
        expect(edited.loops.length).toBeGreaterThanOrEqual(LOOP_COUNT.least);
        for (const { steps, notches } of edited.loops)
          expect(notches.length > 0 && notches.every(({ step }) => step < steps)).toBe(true);
      }),
    );
  });
});
