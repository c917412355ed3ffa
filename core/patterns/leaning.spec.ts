import { LEANINGS } from '../lean/words';
import { roleOf } from '../song/roles';
import type { Lean, Pattern } from '../song/schema';
import { chordsOf } from '../testing/chords';
import { drawnNotes } from './drawn';
import { firstLoops, firstPattern, firstWandering } from './first-pattern';
import type { Over } from './over';
import { patternNotes } from './pass';

const BAR = 1920;
const part = { role: 'bass' as const, brief: roleOf('bass').brief };
const overIn = (pass: number): Over => ({
  chords: chordsOf('C Am F G', BAR),
  ground: { tonic: 0, scale: 'major' },
  length: 4 * BAR,
  bar: BAR,
  pass,
});
const moves = (name: string) => LEANINGS.find((word) => word.name === name)!.moves;
const slowly = (name: string, bars: number): Lean => ({
  goes: 'slowly',
  name,
  moves: moves(name),
  bars,
  then: 'stays',
});
const inBar = (pattern: Pattern, pass: number, bar: number) =>
  patternNotes(pattern, overIn(pass)).filter(({ start }) => Math.floor(start / BAR) === bar);

describe('a pattern that leans by itself', () => {
  it('plays its bars as it leans then: the first as it is, later ones all the way', () => {
    const plain = firstPattern(part, 4);
    const pattern: Pattern = { ...plain, leans: [slowly('stronger', 4)] };
    const loud = (pass: number, bar: number) => inBar(pattern, pass, bar)[0]?.velocity ?? 0;
    expect(inBar(pattern, 0, 0)).toEqual(inBar(plain, 0, 0));
    const first = inBar(plain, 0, 0)[0]!.velocity;
    expect([0, 1, 2, 3].map((bar) => loud(0, bar) - inBar(plain, 0, bar)[0]!.velocity)).toEqual([0, 4, 8, 12]);
    expect(loud(1, 0)).toBe(Math.min(127, first + 16));
    expect(drawnNotes({ ...plain, leans: pattern.leans! }, overIn(0))).toEqual(drawnNotes(plain, overIn(0)));
  });

  it('is struck out without being lost, and the same pass gives the same notes', () => {
    for (const plain of [firstPattern(part, 4), firstLoops(part, 4), firstWandering(part, 4)]) {
      const off: Pattern = { ...plain, leans: [{ ...slowly('brighter', 2), off: true }] };
      expect(patternNotes(off, overIn(3)).map(({ start, pitch }) => [start, pitch])).toEqual(
        patternNotes(plain, overIn(3)).map(({ start, pitch }) => [start, pitch]),
      );
      const on: Pattern = { ...plain, leans: [slowly('brighter', 2)] };
      const again: Pattern = { ...plain, leans: [slowly('brighter', 2)] };
      expect(patternNotes(on, overIn(3))).toEqual(patternNotes(again, overIn(3)));
      expect(patternNotes(on, overIn(3))).not.toEqual(patternNotes(plain, overIn(3)));
    }
  });

  it('is one voice over its joints where it is drawn as one', () => {
    const plain = { ...firstPattern(part, 4), sustain: true };
    const pattern: Pattern = { ...plain, leans: [slowly('quicker', 2), { ...slowly('brighter', 3) }] };
    const notes = patternNotes(pattern, overIn(0));
    notes.slice(1).forEach((note, index) => {
      const before = notes[index]!;
      if (Math.floor(before.start / BAR) !== Math.floor(note.start / BAR))
        expect(before.start + before.duration).toBeLessThanOrEqual(note.start);
    });
  });
});
