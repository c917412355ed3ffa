import * as fc from 'fast-check';
import { harmonyBriefFor } from '../song/briefs';
import { roleOf } from '../song/roles';
import {
  briefSchema,
  harmonyBriefSchema,
  LEAN_SETTINGS,
  patternSchema,
  ROLES,
  type Brief,
  type Lean,
} from '../song/schema';
import { leanMoves, leans } from '../testing/leans';
import { patterns } from '../testing/patterns';
import { barMovers, briefMovers } from './brief-movers';
import { HARMONY_MOVERS } from './harmony-movers';
import { leanStages } from './course';
import { leanable, leant, movedBy } from './moving';
import { patternMovers } from './pattern-movers';
import { LEANINGS, leanLabel, sayLean } from './words';

const LIMITS = { low: 28, high: 100 };
const PLAIN = harmonyBriefFor('verse', { pace: 1, colouring: 'triads', adventure: 40 });
const melody = roleOf('melody').brief;
const share = fc.integer({ min: 0, max: 4 }).map((quarters) => quarters / 4);
const named = (name: string) => LEANINGS.find((word) => word.name === name)!.moves;
const slowly = (bars: number, then: 'stays' | 'comes back'): Lean => ({
  goes: 'slowly',
  name: 'busier',
  moves: named('busier'),
  bars,
  then,
});

describe('what leans', () => {
  it('stays valid however far it goes, and is as it was where it has not begun', () => {
    fc.assert(
      fc.property(fc.constantFrom(...ROLES), leanMoves, share, patterns(), (role, moves, far, pattern) => {
        const { brief } = roleOf(role);
        for (const movers of [briefMovers(role, LIMITS), barMovers(role)]) {
          expect(briefSchema.safeParse(leant(brief, moves, far, movers)).error).toBeUndefined();
          expect(leant(brief, moves, 0, movers)).toBe(brief);
        }
        const chords = leant(PLAIN, moves, far, HARMONY_MOVERS);
        expect(harmonyBriefSchema.safeParse(chords).error).toBeUndefined();
        const leaning = leant(pattern, moves, far, patternMovers(pattern));
        expect(patternSchema.safeParse(leaning).error).toBeUndefined();
        expect(leant(pattern, moves, 0, patternMovers(pattern))).toEqual(pattern);
      }),
    );
  });

  it('keeps its register inside itself from bar to bar, and inside the instrument by hand', () => {
    fc.assert(
      fc.property(leanMoves, fc.integer({ min: 28, max: 80 }), fc.integer({ min: 5, max: 20 }), (moves, low, span) => {
        const brief: Brief = { ...melody, low, high: Math.min(100, low + span) };
        const bars = leant(brief, moves, 1, barMovers('melody'));
        expect(bars.low >= brief.low && bars.high <= brief.high).toBe(true);
        expect(bars.high - bars.low).toBeGreaterThanOrEqual(Math.min(12, brief.high - brief.low));
        const hand = leant(brief, moves, 1, briefMovers('melody', LIMITS));
        expect(hand.low >= LIMITS.low && hand.high <= LIMITS.high).toBe(true);
        expect(hand.high - hand.low).toBeGreaterThanOrEqual(Math.min(12, brief.high - brief.low));
      }),
    );
  });

  it('has words for everything, in pairs that take each other back', () => {
    for (const [index, { name, moves }] of LEANINGS.entries()) {
      const opposite = LEANINGS[index % 2 === 0 ? index + 1 : index - 1]!;
      expect(opposite.moves).toEqual(moves.map(({ setting, by }) => ({ setting, by: -by })));
      expect(name).not.toBe(opposite.name);
    }
    const movers = briefMovers('melody', LIMITS);
    const middle: Brief = {
      ...melody,
      syncopation: 50,
      anchoring: 50,
      humanise: 40,
      adventure: 40,
      stride: 50,
      recall: 50,
    };
    for (const [there, back] of [
      ['looser', 'tighter'],
      ['bolder', 'plainer'],
    ] as const)
      expect(leant(leant(middle, named(there), 1, movers), named(back), 1, movers)).toEqual(middle);
    expect(new Set(LEAN_SETTINGS.map(leanLabel)).size).toBe(LEAN_SETTINGS.length);
    expect(sayLean(slowly(8, 'comes back'))).toBe('busier over 8 bars and back');
    expect(sayLean({ goes: 'by chance', name: 'darker', moves: named('darker'), bars: 1, chance: 40 })).toBe(
      'darker by chance, every bar in 40 %',
    );
  });

  it('moves what chords are asked for, as far as it goes', () => {
    expect(leant(PLAIN, named('bolder'), 1, HARMONY_MOVERS)).toMatchObject({ adventure: 70, colouring: 'sevenths' });
    expect(leant(PLAIN, named('quicker'), 1, HARMONY_MOVERS).pace).toBe(2);
    expect(movedBy({ ...PLAIN, pace: 2 }, named('quicker'), HARMONY_MOVERS)).toEqual([]);
    expect(movedBy(PLAIN, named('darker'), HARMONY_MOVERS)).toEqual([]);
  });

  it('moves several settings at once, and says which: none that the thing lacks, none without room', () => {
    const movers = briefMovers('melody', LIMITS);
    const busier = leant(melody, named('busier'), 1, movers);
    expect(busier.busyness).toBeGreaterThan(melody.busyness);
    expect(busier.breath).toBeLessThan(melody.breath);
    expect(movedBy(melody, named('busier'), movers)).toEqual(['busyness', 'breath', 'dynamics']);
    const full = { ...melody, busyness: 24, breath: 0, dynamics: 100 };
    expect(movedBy(full, named('busier'), movers)).toEqual([]);
    expect(leanable(briefMovers('drums', LIMITS))).not.toContain('register');
    expect(leanable(barMovers('melody'))).not.toContain('humanise');
  });
});

describe('leaning by itself', () => {
  const from = { seed: 5 };
  const sharesOf = (lean: Lean, bars: number, first = 0) => {
    const shares: number[] = [];
    for (const stage of leanStages([lean], first, bars, from))
      for (const bar of stage.bars) shares[bar] = stage.shares[0]!;
    return shares;
  };

  it('tells every bar once, and those together that lean alike', () => {
    fc.assert(
      fc.property(leans, fc.nat(40), fc.integer({ min: 1, max: 24 }), (list, first, bars) => {
        const stages = leanStages(list, first, bars, from);
        expect(stages.flatMap((stage) => stage.bars).sort((a, b) => a - b)).toEqual([...Array(bars).keys()]);
        expect(new Set(stages.map(({ shares }) => shares.join())).size).toBe(stages.length);
        expect(stages[0]!.bars[0]).toBe(0);
        for (const { shares } of stages)
          shares.forEach((far, index) => expect(far >= 0 && far <= (list[index]!.off ? 0 : 1)).toBe(true));
        expect(leanStages(list, first, bars, from)).toEqual(stages);
      }),
    );
  });

  it('goes slowly over its bars and stays, or comes back, on through the passes', () => {
    expect(sharesOf(slowly(4, 'stays'), 6)).toEqual([0, 0.25, 0.5, 0.75, 1, 1]);
    expect(sharesOf(slowly(4, 'comes back'), 9)).toEqual([0, 0.25, 0.5, 0.75, 1, 0.75, 0.5, 0.25, 0]);
    expect(sharesOf(slowly(8, 'stays'), 4, 4)).toEqual([0.5, 0.75, 0.75, 1]);
    expect(sharesOf({ ...slowly(4, 'stays'), off: true }, 3)).toEqual([0, 0, 0]);
  });

  it('never by chance at 0 %, always at 100 %, and as often as it is asked for between', () => {
    const chance = (percent: number, bars = 1): Lean => ({
      goes: 'by chance',
      name: 'busier',
      moves: named('busier'),
      bars,
      chance: percent,
    });
    expect(new Set(sharesOf(chance(0), 64))).toEqual(new Set([0]));
    expect(new Set(sharesOf(chance(100), 64))).toEqual(new Set([1]));
    const often = sharesOf(chance(30), 2000).filter((far) => far === 1).length;
    const chiSquare = (often - 600) ** 2 / 600 + (often - 600) ** 2 / 1400;
    // 1 degree of freedom, p = 0.001.
    expect(chiSquare).toBeLessThan(10.8);
    // A window leans as a whole.
    const windows = sharesOf(chance(50, 3), 30);
    for (let bar = 0; bar < 30; bar += 3) expect(new Set(windows.slice(bar, bar + 3)).size).toBe(1);
  });
});
