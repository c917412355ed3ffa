import * as fc from 'fast-check';
import { scoreWith } from '../testing/scores';
import { songWithEndings } from '../testing/sheets';
import { heardNotes, musicOf } from '../testing/sounding';
import { barTicks, METRES, type Metre } from '../theory/metre';
import { pitchClassOf, typedName } from '../theory/pitch';
import { modulo } from '../theory/units';
import { leadSheet, usualLead, type LeadSheet, type SheetBar } from './lead-sheet';
import { spelledNote } from './spelled-line';

/** The bars in the order in which they are played: repeats and endings followed. */
function unrolled({ bars }: LeadSheet): readonly SheetBar[] {
  const played: SheetBar[] = [];
  let opened = 0;
  for (let at = 0; at < bars.length; at++) {
    const bar = bars[at]!;
    if (bar.opens) opened = at;
    played.push(bar);
    if (bar.plays === 0) continue;
    const body = bars.slice(opened, at + 1);
    const again = bar.ending === 1 ? body.filter(({ ending }) => ending === null) : body;
    for (let time = 1; time < bar.plays; time++) played.push(...again);
  }
  return played;
}

/** Where notes begin in the bars as they are played, and their pitches. */
function begun(bars: readonly SheetBar[]): (readonly [number, number])[] {
  let line = 0;
  let metre: Metre = METRES[2]!;
  return bars.flatMap((bar) => {
    metre = bar.metre ?? metre;
    const from = bar.pickUp ? -barTicks(metre) : line;
    const notes = bar.events.flatMap(({ start, pitches, tied }) =>
      tied ? [] : pitches.map((pitch) => [from + start, pitch] as const),
    );
    if (!bar.pickUp) line += barTicks(metre);
    return notes;
  });
}

describe('a lead sheet', () => {
  it('plays what sounds, whatever is folded', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 200 }),
        fc.array(fc.constantFrom('section-1', 'section-2'), { minLength: 1, maxLength: 8 }),
        (seed, order) => {
          const { score: drafted, takes } = scoreWith(seed, 0);
          const score = { ...drafted, order: order.map((section, index) => ({ id: `place-${index}`, section })) };
          const melody = usualLead(score)!;
          const plain = {
            ...score,
            ground: { ...score.ground, feel: 0 },
            parts: score.parts.map((part) => ({ ...part, brief: { ...part.brief, humanise: 0 } })),
          };
          const sounding = heardNotes(plain, takes)
            .filter(({ part }) => part === melody.id)
            .map(({ start, pitch }) => [start, pitch] as const);
          const sheet = leadSheet(musicOf(score, takes), melody);
          if (sounding.length === 0) {
            expect(sheet).toBeNull();
            return;
          }
          expect(unrolled(sheet!).filter(({ pickUp }) => !pickUp)).toHaveLength(order.length * 2);
          if (sounding.some(([start]) => start % 120 !== 0)) return;
          expect(begun(unrolled(sheet!)).sort((a, b) => a[0] - b[0] || a[1] - b[1])).toEqual(sounding);
        },
      ),
      { numRuns: 80 },
    );
  });

  it('folds what comes again: sections in a row, groups of them, and endings that differ', () => {
    const { score: drafted, takes } = scoreWith(5, 0);
    const printed = (...order: string[]): string => {
      const score = {
        ...drafted,
        order: order.map((section, index) => ({ id: `place-${index}`, section: `section-${section}` })),
      };
      return leadSheet(musicOf(score, takes), usualLead(score)!)!
        .bars.map(({ opens, plays, ending }) => `${opens ? '|:' : ''}${ending ?? 'o'}${plays > 0 ? `:|${plays}` : ''}`)
        .join(' ');
    };
    expect(printed('1')).toBe('o o');
    expect(printed('1', '1', '1')).toBe('|:o o:|3');
    expect(printed('1', '2', '1', '2')).toBe('|:o o o o:|2');
    expect(printed('1', '2', '1')).toBe('o o o o o o');
    expect(printed('2', '1', '1')).toBe('o o |:o o:|2');
  });

  it('brackets endings where only the end of a section differs', () => {
    const { music, melody } = songWithEndings();
    const sheet = leadSheet(music, melody)!;
    // The headings of sections differ by their names only where names do.
    expect(sheet.bars.map(({ opens, plays, ending, bracket }) => [opens, plays, ending, bracket])).toEqual([
      [true, 0, null, null],
      [false, 2, 1, 'both'],
      [false, 0, 2, 'both'],
    ]);
  });

  it('spells notes by the chord, by the key, and by where they lead', () => {
    const key = { tonic: 0, scale: 'major' };
    const name = (
      pitch: number,
      next: number | null,
      chord: { root: number; tones: string[]; bass: null } | null = null,
    ) => typedName(spelledNote({ pitch, chord, key, next }));
    expect(name(64, null)).toBe('E');
    expect(name(66, 67)).toBe('F#');
    expect(name(66, 65)).toBe('Gb');
    expect(name(68, 69, { root: 4, tones: ['1', '3', '5'], bass: null })).toBe('G#');
    expect(name(68, 67, { root: -1, tones: ['1', 'b3', '5'], bass: null })).toBe('Ab');
    fc.assert(
      fc.property(
        fc.integer({ min: 30, max: 90 }),
        fc.option(fc.integer({ min: 30, max: 90 })),
        fc.integer({ min: -5, max: 6 }),
        (pitch, next, tonic) => {
          const spelled = spelledNote({ pitch, next, chord: null, key: { tonic, scale: 'minor' } });
          expect(pitchClassOf(spelled)).toBe(modulo(pitch, 12));
        },
      ),
    );
  });
});
