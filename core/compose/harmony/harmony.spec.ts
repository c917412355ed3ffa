import * as fc from 'fast-check';
import { draft, type DraftRequest } from '../draft';
import { ENGINE } from '../engine';
import type { ChordSpan, HarmonyBrief, Note, PartTake } from '../../song/schema';
import { groundFor } from '../../styles/band';
import { collection, findFormulas, formulaChords } from '../../styles/progressions/collection';
import { STYLES, styleOf } from '../../styles/styles';
import { chordFacts, readingFacts, tensionOf } from '../../study/chord-facts';
import { chordMask, chordSymbol } from '../../theory/chord';
import { METRES } from '../../theory/metre';
import { inMask, pitchClassOf } from '../../theory/pitch';
import { readChord } from '../../theory/read-chord';
import { makeOwnScale, scaleOf } from '../../theory/scale';
import { nextChords, substitutesFor } from './next';
import { readingBrief } from './under-melody';
import { roleOf } from '../../song/roles';
import { looseTake } from '../../song/take';

const C = { tonic: 0, scale: 'major' };
const read = (text: string) => {
  const reading = readChord(text);
  if (!reading.ok || !reading.chord) throw new Error(text);
  return reading.chord;
};
const brief: HarmonyBrief = {
  pace: 1,
  colouring: 'triads',
  cadence: 'authentic',
  form: null,
  first: null,
  last: null,
  adventure: 20,
  under: null,
};
const ground = groundFor(STYLES[0]!, C);
const request = (
  change: Partial<DraftRequest['asking']> = {},
  beside: readonly PartTake[] = [],
  seed = 3,
): DraftRequest => ({
  asking: {
    engine: ENGINE,
    ground,
    bars: 8,
    kind: 'verse',
    harmonyBrief: brief,
    beside: beside.map(({ id }) => id),
    ...change,
  },
  seed,
  chords: null,
  beside,
});
const drafted = (asked: DraftRequest, attempt = 0): readonly ChordSpan[] => {
  const result = draft(asked, attempt);
  if (!result.ok || result.content.of !== 'harmony') throw new Error(result.ok ? 'no chords' : result.reason);
  return result.content.chords;
};
const names = (ideas: readonly { chord: Parameters<typeof chordSymbol>[0] }[]): string[] =>
  ideas.map(({ chord }) => chordSymbol(chord));

describe('held chords', () => {
  it('stay exactly as they are, with what was set for them, and the rest is drafted around them without gaps', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.nat(6), { minLength: 1, maxLength: 4 }),
        fc.constantFrom('Am7', 'F#dim7', 'Bb', 'Dm/C', 'E7'),
        fc.integer(),
        fc.nat(12),
        (bars, symbol, seed, attempt) => {
          const heldChords = bars
            .sort((a, b) => a - b)
            .map((bar): ChordSpan => ({
              start: bar * 1920,
              duration: 1920,
              chord: read(symbol),
              voicing: { inversion: 1 },
              velocity: 77,
            }));
          const result = draft(request({ heldChords }, [], seed), attempt);
          if (!result.ok || result.content.of !== 'harmony') {
            expect(result.ok).toBe(false);
            return;
          }
          for (const held of heldChords) expect(result.content.chords).toContainEqual(held);
          result.content.chords.forEach(({ start, duration }, index, all) =>
            expect(start + duration).toBe(all[index + 1]?.start ?? 8 * 1920),
          );
        },
      ),
      { numRuns: 150 },
    );
  });
});

describe('weights of degrees', () => {
  it('0 % never, in lines and in roots of chords; less is rarer', () => {
    // D and F weigh nothing, A little.
    const weighted = { ...ground, weights: [100, 0, 100, 0, 100, 20, 100] };
    let a = 0;
    let b = 0;
    for (let attempt = 0; attempt < 30; attempt++) {
      for (const { chord } of drafted(
        request({ ground: weighted, harmonyBrief: { ...brief, cadence: 'open' } }),
        attempt,
      ))
        expect([2, 5]).not.toContain(pitchClassOf(chord!.root));
      const melody = draft(
        {
          asking: {
            engine: ENGINE,
            ground: weighted,
            bars: 8,
            kind: 'verse',
            role: 'melody',
            brief: { ...roleOf('melody').brief, busyness: 5, anchoring: 20, adventure: 0 },
            beside: [],
          },
          seed: 5,
          chords: drafted(request({ harmonyBrief: { ...brief, first: 'C' } })),
          beside: [],
        },
        attempt,
      );
      if (!melody.ok || melody.content.of !== 'part') throw new Error('no melody');
      for (const { pitch } of melody.content.notes) expect([2, 5]).not.toContain(pitch % 12);
      a += melody.content.notes.filter(({ pitch }) => pitch % 12 === 9).length;
      b += melody.content.notes.filter(({ pitch }) => pitch % 12 === 11).length;
    }
    expect(a).toBeLessThan(b + 60);
  });

  it('scales of one’s own are read from their ids alone', () => {
    const made = makeOwnScale('Graupel', '1 b2  3, 5 b7');
    if (!made.ok) throw new Error(made.reason);
    expect(scaleOf(made.id)).toMatchObject({
      name: 'Graupel',
      degrees: ['1', 'b2', '3', '5', 'b7'],
      semitones: [0, 1, 4, 7, 10],
    });
    for (const wrong of ['2 3 4', '1 3 2', '1 2', '1 9 3']) expect(makeOwnScale('x', wrong).ok).toBe(false);
    expect(makeOwnScale(' ', '1 2 3').ok).toBe(false);
  });
});

describe('chords under a melody', () => {
  const line = (pitches: readonly number[]): PartTake =>
    looseTake(
      { id: 'melody', section: 's', length: 15_360 },
      'voice',
      pitches.map((pitch, index): Note => ({ start: index * 1920, duration: 1920, pitch, velocity: 80 })),
      { how: 'imported' },
    );
  const under = (melody: PartTake, attempt: number) =>
    drafted(request({ harmonyBrief: { ...brief, under: 'voice', cadence: 'open' } }, [melody]), attempt);

  it('carry long notes, plainly at first and more boldly after', () => {
    const melody = line([64, 65, 67, 69, 71, 72, 74, 71]);
    const plain = under(melody, 0);
    expect(readingFacts(plain, melody.notes, C).inChord).toBeGreaterThanOrEqual(85);
    expect(plain.every(({ chord }) => chord!.tones.length === 3)).toBe(true);
    expect(under(melody, 7).some(({ chord }) => chord!.tones.length > 3)).toBe(true);
    expect([0, 7].map((attempt) => readingBrief(brief, attempt).adventure)).toEqual([0, 90]);
  });

  it('find a chord for a note outside the key once they may stray', () => {
    const melody = line([64, 65, 67, 68, 71, 72, 74, 71]);
    const carried = [2, 3, 4, 5].map((attempt) => readingFacts(under(melody, attempt), melody.notes, C));
    expect(carried.some(({ reasons }) => reasons.some((reason) => /A♭|G♯/.test(reason)))).toBe(true);
  });
});

describe('what could come next', () => {
  it('leads with what the dialect would do, and says why', () => {
    const style = styleOf('singer-songwriter');
    const after = nextChords(style, C, 'sevenths', read('G7'), null);
    expect(names(after).slice(0, 3)).toContain('Cmaj7');
    expect(after.find(({ chord }) => chord.root === 0)!.reasons).toContain('resolves the dominant');
    expect(nextChords(style, C, 'sevenths', read('Am'), read('G')).flatMap(({ reasons }) => reasons)).toContain(
      'leads to G',
    );
    for (const { reasons } of nextChords(style, { tonic: 3, scale: 'minor' }, 'triads', read('Am'), null))
      expect(reasons.length).toBeGreaterThan(0);
    expect(names(nextChords(style, C, 'triads', read('Am'), null))).not.toContain('Am');
    expect(nextChords(style, C, 'triads', null, null)[0]!.chord.root).toBe(0);
  });

  it('offers stand-ins of every kind, spelled by where they lead', () => {
    const ideas = substitutesFor(read('G7'), C, read('C'));
    expect(names(ideas)).toEqual(expect.arrayContaining(['D♭7', 'Bdim7', 'G7sus4']));
    expect(names(substitutesFor(read('C'), C, read('Dm')))).toEqual(
      expect.arrayContaining(['Am', 'Em', 'A7', 'E♭7', 'C♯dim7', 'Cm']),
    );
    expect(names(ideas)).not.toContain('G7');
  });
});

describe('the collection', () => {
  it('is found by words in any order, by their beginnings and by a number of bars', () => {
    const found = findFormulas(collection(), 'sevenths soul 8 bars', C);
    expect(found.length).toBeGreaterThan(1);
    for (const { bars, words } of found) {
      expect(bars).toHaveLength(8);
      expect(words).toContain('sevenths');
    }
    expect(findFormulas(collection(), 'blu minor 12-bar', { tonic: 3, scale: 'minor' }).length).toBeGreaterThan(0);
    expect(findFormulas(collection(), 'snowplough', C)).toEqual([]);
    expect(findFormulas(collection(), '', { tonic: 3, scale: 'dorian' })[0]!.mode).toBe('dorian');
  });

  it('fills any number of bars in any key and metre without gaps', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...collection()),
        fc.integer({ min: -5, max: 6 }),
        fc.constantFrom(...METRES),
        fc.integer({ min: 1, max: 24 }),
        (formula, tonic, metre, bars) => {
          const chords = formulaChords(formula, { tonic, scale: 'major' }, metre, bars);
          expect(chords.every(({ chord }) => chord !== null)).toBe(true);
          chords
            .slice(1)
            .forEach(({ start }, index) => expect(chords[index]!.start + chords[index]!.duration).toBe(start));
        },
      ),
    );
  });
});

describe('facts of a chord', () => {
  it('name notes, degree, function and scales that hold it', () => {
    const facts = chordFacts(read('G7/B'), C);
    expect(facts.notes).toEqual([
      { name: 'G', degree: '1' },
      { name: 'B', degree: '3' },
      { name: 'D', degree: '5' },
      { name: 'F', degree: 'b7' },
    ]);
    expect(facts).toMatchObject({ numeral: 'V7', role: 'dominant' });
    expect(facts.scales[0]!.id).toBe('mixolydian');
    for (const scale of facts.scales)
      for (const note of [7, 11, 2, 5]) expect(inMask(scale.mask, note - 7 + 12)).toBe(true);
  });

  it('measure tension: home rests, what is far and sharp pulls', () => {
    const tensions = ['C', 'Am', 'G7', 'Db7', 'F#7b9'].map((text) => tensionOf(read(text), C));
    expect([...tensions].sort((x, y) => x - y)).toEqual(tensions);
    expect(tensions[0]).toBe(0);
    expect(chordMask(read('C'))).toBe(0b10010001);
  });
});
